#pragma once

#include "core/conditions/reading.h"

#include <QWidget>
#include <memory>

class QCPGraph;
class QCPAxisRect;
class QLabel;

namespace sieve::app {

class TimePlot;

/// The composites and, on the same axis of sessions, the breadth under them.
class CompositeChart : public QWidget {
    Q_OBJECT
public:
    explicit CompositeChart(QWidget* parent = nullptr);
    void setReading(std::shared_ptr<const conditions::Reading> reading);
    void setSession(std::size_t session); ///< the last one shown
    TimePlot& plot() { return *plot_; }

private:
    void read(int session);
    void style();

    TimePlot* plot_;
    QLabel* reading_;
    QCPAxisRect* levels_;
    QCPAxisRect* shares_;
    QCPGraph* equal_;
    QCPGraph* capitalization_;
    QCPGraph* above200_;
    QCPGraph* above50_;
    QCPGraph* half_;
    std::shared_ptr<const conditions::Reading> data_;
    std::size_t session_ = 0;
};

} // namespace sieve::app
