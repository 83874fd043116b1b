#pragma once

#include "core/valuation/scorecard.h"

#include <QToolButton>

namespace sieve::app {

class Desk;

/// How the sides of the person's blend of the score count, in every place: a button that opens
/// them, keeps them among the settings, and makes a field of the blend.
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
    void makeField();

    Desk& desk_;
    valuation::ScoreWeights weights_ = valuation::equalWeights;
};

} // namespace sieve::app
