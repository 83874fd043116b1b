#pragma once

#include "core/conditions/line_shown.h"

#include <QWidget>
#include <memory>

class QCPAbstractItem;
class QCPAxisRect;
class QCPFinancial;
class QCPGraph;
class QCPItemText;
class QLabel;
class QToolButton;

namespace sieve::app {

class TimePlot;
class TrendStrip;
using conditions::LineShown;

/// A line of the market with its states under it and panes of breadth that share its sessions;
/// divergences join the two. Marks of swings and bars, and a retracement between two turning
/// points, are laid over it on demand.
class LineChart : public QWidget {
    Q_OBJECT
public:
    enum class Overlay { Swings, BarMarks, Divergences };

    explicit LineChart(QWidget* parent = nullptr);
    void show(std::shared_ptr<const LineShown> shown);
    /// Shows another state history at a horizon while its rule is being typed; nothing: as read.
    void setDraft(std::size_t horizon, std::shared_ptr<const conditions::TrendReading> draft);
    void goTo(const LineShown::Diverging& divergence);
    TimePlot& plot() { return *plot_; }
    QString reading() const;
    QString retracementText() const;

Q_SIGNALS:
    void panesWanted(); ///< other ones, by the person

private:
    struct PaneDrawn {
        QCPAxisRect* rect = nullptr;
        QCPGraph* graph = nullptr;
    };

    QToolButton* addOverlay(const QString& name, const QString& tip, Overlay overlay);
    bool isOn(Overlay overlay) const { return overlays_[static_cast<std::size_t>(overlay)]; }
    void arrangePanes();
    void showHistories();
    void style();
    void clearOver();
    void drawOver();
    void titlePanes(std::size_t bar);
    void drawSwings();
    void drawMarks();
    void drawDivergences();
    void drawRetracement();
    void addText(QCPAxisRect* pane, double bar, double value, const QString& text,
                 const QColor& colour, Qt::Alignment where);
    void addLine(QCPAxisRect* pane, double fromBar, double from, double toBar, double to,
                 const QColor& colour, Qt::PenStyle pen);
    void read(int bar);
    void click(int bar, double value);
    void proposeRetracement();
    void clearRetracement();
    void showRetracement();

    TimePlot* plot_;
    QLabel* reading_;
    QLabel* retracement_;
    QToolButton* retrace_;
    QToolButton* lastSwing_;
    QToolButton* marksButton_ = nullptr;
    QCPAxisRect* levels_;
    QCPGraph* level_;
    QCPFinancial* candles_;
    QCPAxisRect* stripPane_;
    TrendStrip* strip_;
    std::vector<PaneDrawn> panes_;
    std::vector<QCPAbstractItem*> items_;  ///< of the overlays
    std::vector<QCPItemText*> paneTitles_; ///< of these
    std::vector<QCPGraph*> overlayGraphs_; ///< likewise
    std::array<bool, 3> overlays_{false, false, true};
    std::shared_ptr<const conditions::TrendReading> draft_;
    std::shared_ptr<const LineShown> shown_ = std::make_shared<const LineShown>();
    std::vector<patterns::PricePoint> retraced_; ///< two turning points at most
};

} // namespace sieve::app
