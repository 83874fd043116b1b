#pragma once

#include "core/base/day.h"

#include <QWidget>
#include <functional>
#include <qcustomplot.h>
#include <span>
#include <vector>

namespace sieve::app {

/// Panes above each other that share one axis of sessions, so days without trade leave no gap. The
/// wheel zooms at the pointer, a drag pans, a double click fits; + - and the arrows do the same,
/// Shift+L turns the first pane's scale logarithmic. The picture and its figures can be copied and
/// saved. The chart of every place is made of it.
class TimePlot : public QCustomPlot {
    Q_OBJECT
public:
    /// The least and the most to be seen of bars [first, last]; NaN where there is nothing.
    using Extent = std::function<QCPRange(int first, int last)>;

    explicit TimePlot(QWidget* parent = nullptr);

    /// Adds a pane below the others; its height is `share` of all. `beginsAtZero` keeps 0 in sight.
    QCPAxisRect* addPane(double share, bool beginsAtZero = false);
    void setExtent(QCPAxisRect* pane, Extent extent);
    void removePane(QCPAxisRect* pane); ///< with all that is drawn in it
    /// How the heights of the panes are shared out, from the first on.
    void setShares(const std::vector<double>& shares);
    /// The first pane's values: equal steps are equal shares, not equal amounts.
    void setLogarithmic(bool isLogarithmic);
    bool isLogarithmic() const { return isLogarithmic_; }
    /// The figures of bars and of all graphs that have a name, a row a session: for a spreadsheet.
    QString dataText() const;
    /// Writes the picture as it stands, as PNG or SVG by the file's ending. Says whether it could.
    bool savePicture(const QString& file);
    /// Gives the axis its sessions and shows the newest `shown` of them (0: all).
    void setDays(std::vector<Day> days, int shown);
    const std::vector<Day>& days() const { return days_; }
    void showBars(double first, double last);
    void fit();
    QCPRange shownBars() const;
    /// Figures, a session each.
    struct Figures {
        QString title;
        std::span<const double> values;
    };
    /// Gives those of what no graph draws, such as bars; they are copied before the graphs'.
    std::function<std::vector<Figures>()> figuresOfBars;
    /// Called when panes and plottables should take the palette's colours again.
    std::function<void()> restyle;

Q_SIGNALS:
    void pointed(int bar); ///< the bar under the pointer; -1 when it left
    /// A click that was no drag, with the value under it in the first pane.
    void clicked(int bar, double value);
    void failed(const QString& message);
    void scaleChanged(bool isLogarithmic);

protected:
    void wheelEvent(QWheelEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void mouseDoubleClickEvent(QMouseEvent* event) override;
    void leaveEvent(QEvent* event) override;
    void changeEvent(QEvent* event) override;

private:
    struct Pane {
        QCPAxisRect* rect;
        Extent extent;
        bool beginsAtZero;
        QCPItemLine* pointer;
    };
    void zoom(double factor, double centre);
    void pan(double bars);
    void scaleValues();
    void style();
    void point(const QPoint& at);
    void nameSessionsBelow();
    void addActions();
    void askForFile();
    QCPAxis* timeAxis() const;

    std::vector<Day> days_;
    std::vector<Pane> panes_;
    double dragFrom_ = 0.0;
    QPoint pressedAt_;
    bool isDragging_ = false;
    QAction* logarithmic_ = nullptr;
    bool isLogarithmic_ = false;
};

} // namespace sieve::app
