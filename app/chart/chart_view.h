#pragma once

#include "app/chart/chart_picture.h"
#include "core/watchlists/trade_plan.h"

#include <QPixmap>
#include <QWidget>
#include <functional>
#include <memory>
#include <optional>

class QAction;
class QPagedPaintDevice;
class QKeyEvent;

namespace sieve::app {

enum class ActionId;
class DrawingPen;
class PlanGauge;

/// A chart that is looked through by mouse and keys. The wheel zooms at the pointer, a drag pans, a
/// double click fits; the actions of a chart do the same and change its scale and form. What is
/// drawn is kept as a picture, over which the pointer moves.
class ChartView : public QWidget {
    Q_OBJECT
public:
    explicit ChartView(QWidget* parent = nullptr);
    ~ChartView() override;

    /// Shows the newest bars. Of the same stock as many as before; or, where the newest were not in
    /// sight, the days that were.
    void setChart(std::shared_ptr<const charts::Chart> chart);
    const charts::Chart& chart() const { return picture_.chart(); }
    const charts::Viewport& viewport() const { return viewport_; }
    void setShownBars(int bars); ///< of a stock that comes next: the newest so many
    void setCompact(bool isCompact);
    void showBars(double from, double to);
    /// Reads the first bar on or after a day, and brings it into sight.
    void showDay(Day day);
    std::size_t barRead() const; ///< the one pointed at, else the newest
    /// Points at the bar of a day, or of the first one after it; of minutes, at the one that begins
    /// at or after that minute of the day. Empty: at none.
    void pointAt(std::optional<Day> day, int minute = 0);

    /// What is shown of any stock. A person's changes are told by setUpChanged.
    const charts::SetUp& setUp() const { return setUp_; }
    void setSetUp(charts::SetUp setUp);
    /// As it was kept as TOML; what cannot be read leaves the one that is on.
    void restoreSetUp(std::string_view toml);

    /// Set-ups of the person, offered beside the ready ones.
    void setOwnSetUps(std::vector<charts::SetUp> setUps) { ownSetUps_ = std::move(setUps); }

    /// Offers to compare; compareWanted() is then told.
    void allowComparing();
    /// Shows another set-up, as if the person had changed this one into it.
    void takeSetUp(const charts::SetUp& setUp);

    /// What is shown is chosen elsewhere: no other layers, panes, marks and set-ups by the person.
    void keepContent();

    /// Drawing, which needs somebody who keeps what the pen tells of.
    void allowDrawing();
    DrawingPen& pen() { return *pen_; }
    /// Shows a plan beside the prices, in those of the chart; empty: none. Its levels are dragged;
    /// planMoved() tells the plan that was dragged.
    void setPlan(std::optional<watchlists::TradePlan> plan, const watchlists::PlanTerms& terms);
    const ChartPicture& drawnPicture() const { return picture_; }
    QRectF paneArea(std::size_t pane) const { return picture_.panes().at(pane).plot; }
    QPointF pointOf(const drawings::Point& place) const { return picture_.pointOf(place); }

    /// Without the pointer; in twice the pixels it is sharp on paper, too.
    QPixmap picture(double ratio = 2.0) const;
    /// The picture as it stands now as PNG, SVG or PDF, by the file's ending: what it gives may be
    /// called on any thread and is empty where there is nothing to show.
    std::function<QByteArray()> pictureFor(const QString& file) const;
    QString figuresText() const; ///< with tabs, for a spreadsheet

Q_SIGNALS:
    void pointed(int bar); ///< the bar under the pointer; -1 when it left
    void clicked(int bar, int pane, double value);
    /// By keys or menu. `needsFigures`: the chart must be made again, by who gave it.
    void setUpChanged(bool needsFigures);
    void chartChanged();  ///< another chart is shown
    void compareWanted(); ///< with something that the person is to be asked for
    void setUpKept(const sieve::charts::SetUp& setUp); ///< under its name
    void setUpForgotten(const QString& name);
    void failed(const QString& message);
    void planMoved(const sieve::watchlists::TradePlan& plan);
    void alertWanted(double price); ///< at the price under the pointer, else at the close

protected:
    bool event(QEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void paintEvent(QPaintEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    void wheelEvent(QWheelEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void mouseDoubleClickEvent(QMouseEvent* event) override;
    void leaveEvent(QEvent* event) override;
    void changeEvent(QEvent* event) override;

private:
    void addActions();
    void change(const std::function<void(charts::SetUp&)>& edit, bool needsFigures);
    void setScale(charts::BarScale scale);
    void askMinutes();
    void toggleValues(charts::ValueScale scale);
    std::size_t paneMeant() const; ///< under the pointer, else the first
    void makeTaller(std::size_t pane, double pixels);
    void movePane(int by);
    void removePane();
    void lookAgain(); ///< after anything that changes what is drawn
    void move(const std::function<void(charts::Viewport&)>& by);
    void point(const std::optional<QPointF>& at);
    void tick(); ///< checks the actions that are on
    void layOut(ChartPicture& picture) const;
    void paintOn(QPainter& painter, const QRectF& area, const Palette& colours) const;
    bool paintPage(QPagedPaintDevice& page) const;
    void print();
    double priceMeant() const;
    void offerTools();
    void offerMarks();
    void offerSetUps();
    void keepSetUp();
    std::vector<charts::SetUp> setUpsOffered() const;
    QFont drawingFont() const;
    void paintStrips(QPainter& painter, const ChartPicture& picture, const Palette& colours) const;
    void paintPointer(QPainter& painter) const;
    void paintCard(QPainter& painter) const;
    void stepToMark(int by);
    void tellBar(std::size_t bar);
    void addReadyLayer();
    void editLayers();
    void editSetUp();
    void askForFile();

    ChartPicture picture_;
    DrawingPen* pen_;
    std::unique_ptr<PlanGauge> gauge_;
    bool isDrawable_ = false;
    charts::Viewport viewport_;
    charts::SetUp setUp_ = charts::standardSetUp();
    std::vector<charts::SetUp> ownSetUps_;
    double shownBars_ = 190.0;
    int stillFrames_ = 0; ///< painted since the chart changed: from the second on it is kept
    QPixmap kept_;        ///< all but the pointer
    std::vector<QRectF> wordsTaken_; ///< by drawings in it
    std::optional<QPointF> pointer_;
    int pointedBar_ = -1;
    std::vector<std::size_t> told_; ///< the marks whose card is shown
    QPointF pressedAt_;
    double dragFrom_ = 0.0;
    bool isDragging_ = false;
    std::optional<std::size_t> edge_; ///< below that pane, while it is dragged
    std::vector<std::pair<QAction*, std::function<bool()>>> checked_;
};

} // namespace sieve::app
