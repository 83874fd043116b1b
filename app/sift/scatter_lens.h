#pragma once

#include "app/desk/asker.h"
#include "app/sift/lens.h"
#include "core/screens/scatter.h"

#include <array>

namespace sieve::app {

class ExpressionEdit;
class ScatterPicture;

/// The universe by two figures, what passes in front of it; a third figure is the size, the sector
/// the shape. The screen's limits on the figures are lines to be dragged.
class ScatterLens : public Lens {
    Q_OBJECT
public:
    explicit ScatterLens(Desk& desk);
    void show(const SiftedPtr& sifted) override;

private:
    void ask();

    Asker asker_;
    std::array<ExpressionEdit*, 3> figures_;
    ScatterPicture* picture_;
    SiftedPtr sifted_;
};

} // namespace sieve::app
