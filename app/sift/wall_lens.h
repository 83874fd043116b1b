#pragma once

#include "app/sift/lens.h"

namespace sieve::app {

class ChartWall;

/// The charts of what passes.
class WallLens : public Lens {
    Q_OBJECT
public:
    explicit WallLens(Desk& desk);
    void show(const SiftedPtr& sifted) override;

private:
    ChartWall* wall_;
    QString source_;
};

} // namespace sieve::app
