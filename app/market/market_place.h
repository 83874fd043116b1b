#pragma once

#include "app/frame/asker.h"
#include "core/conditions/reading.h"

#include <QWidget>
#include <memory>

class QLabel;

namespace sieve::app {

class CompositeChart;
class Desk;
class StateBoard;

/// Is this a time to buy? The state at three horizons, and the composites with their breadth.
class MarketPlace : public QWidget {
    Q_OBJECT
public:
    explicit MarketPlace(Desk& desk, QWidget* parent = nullptr);

private:
    void ask();
    void showDay();

    Desk& desk_;
    Asker asker_;
    QLabel* summary_;
    StateBoard* board_;
    CompositeChart* chart_;
    std::shared_ptr<const conditions::Reading> reading_;
};

} // namespace sieve::app
