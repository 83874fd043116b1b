#pragma once

#include "core/valuation/scorecard.h"

#include <QToolButton>

namespace sieve::app {

class Desk;

/// How the sides of the blend by which stocks are ranked count: a button that opens them, and keeps
/// them among the person's settings.
class BlendButton : public QToolButton {
    Q_OBJECT
public:
    explicit BlendButton(Desk& desk, QWidget* parent = nullptr);
    const valuation::ScoreWeights& weights() const { return weights_; }

Q_SIGNALS:
    void changed();

private:
    void load();
    void open();
    void setWeight(std::size_t side, double weight);

    Desk& desk_;
    valuation::ScoreWeights weights_ = valuation::equalWeights;
};

} // namespace sieve::app
