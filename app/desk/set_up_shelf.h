#pragma once

#include <QObject>

namespace sieve::app {

class ChartView;
class Desk;

/// Keeps the set-ups that a person gives a name among the work, and offers them on a chart.
class SetUpShelf : public QObject {
    Q_OBJECT
public:
    /// Owner: the chart's view.
    SetUpShelf(Desk& desk, ChartView& view);
};

} // namespace sieve::app
