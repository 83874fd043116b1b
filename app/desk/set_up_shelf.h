#pragma once

#include <QObject>

namespace sieve::app {

class ChartView;
class Desk;

/// Keeps the set-ups that a person gives a name among the work, offers them on a chart, and asks
/// what its prices are to be compared with.
class SetUpShelf : public QObject {
    Q_OBJECT
public:
    /// Owner: the chart's view.
    SetUpShelf(Desk& desk, ChartView& view);
};

} // namespace sieve::app
