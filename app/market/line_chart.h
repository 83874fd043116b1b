#pragma once

#include "core/charts/line_chart.h"

#include <QWidget>
#include <array>
#include <memory>
#include <vector>

class QLabel;
class QToolButton;

namespace sieve::app {

class ChartView;
using conditions::LineShown;

/// A line of the market with its states under it and panes of breadth that share its sessions;
/// divergences join the two. Marks of swings and bars, and a retracement between two turning
/// points, are laid over it on demand.
class LineChart : public QWidget {
    Q_OBJECT
public:
    explicit LineChart(QWidget* parent = nullptr);
    void show(std::shared_ptr<const LineShown> shown);
    /// Shows another state history at a horizon while its rule is being typed; nothing: as read.
    void setDraft(std::size_t horizon, std::shared_ptr<const conditions::TrendReading> draft);
    void goTo(const LineShown::Diverging& divergence);
    ChartView& view() { return *view_; }
    QString reading() const;
    QString retracementText() const;

Q_SIGNALS:
    void panesWanted(); ///< other ones, by the person

protected:
    void changeEvent(QEvent* event) override;

private:
    QToolButton* addOverlay(const QString& name, const QString& tip, const char* key,
                            bool charts::LineParts::*part);
    void draw();
    void read(int bar);
    void click(int bar, double value);
    void proposeRetracement();
    void clearRetracement();
    void showRetracement();

    ChartView* view_;
    QLabel* reading_;
    QLabel* retracement_;
    QToolButton* retrace_;
    QToolButton* lastSwing_;
    QToolButton* marksButton_ = nullptr;
    charts::LineParts parts_;
    std::array<std::shared_ptr<const conditions::TrendReading>, 3> drafts_;
    std::shared_ptr<const LineShown> shown_ = std::make_shared<const LineShown>();
    std::vector<patterns::PricePoint> retraced_; ///< two turning points at most
};

} // namespace sieve::app
