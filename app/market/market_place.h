#pragma once

#include "app/frame/asker.h"
#include "core/conditions/groups.h"
#include "core/conditions/reading.h"

#include <QWidget>
#include <memory>

class QLabel;

namespace sieve::app {

class CompositeChart;
class Desk;
class GroupBoard;
class StateBoard;

/// Is this a time to buy? The state at three horizons, the composites with their breadth, and which
/// groups lead.
class MarketPlace : public QWidget {
    Q_OBJECT
public:
    explicit MarketPlace(Desk& desk, QWidget* parent = nullptr);

private:
    struct Answer {
        conditions::Reading reading;
        conditions::Groups groups;
    };

    void ask();
    void showDay();
    void sift(const QString& universe);

    Desk& desk_;
    Asker asker_;
    QLabel* summary_;
    StateBoard* board_;
    CompositeChart* chart_;
    GroupBoard* groups_;
    std::shared_ptr<const conditions::Reading> reading_;
};

} // namespace sieve::app
