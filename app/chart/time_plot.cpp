#include "app/chart/time_plot.h"

#include "app/look/look.h"
#include "app/parts/number_text.h"

#include <algorithm>
#include <cmath>

namespace sieve::app {

namespace {

constexpr double leastBars = 10.0;

/// Ticks where a year, a quarter, a month or a week begins, whichever fits the width.
class SessionTicker : public QCPAxisTicker {
public:
    explicit SessionTicker(const std::vector<Day>& days) : days_(days) {}

protected:
    enum class Step { Year, Quarter, Month, Week };

    Step stepFor(double bars) const
    {
        return bars > 1100  ? Step::Year
               : bars > 330 ? Step::Quarter
               : bars > 60  ? Step::Month
                            : Step::Week;
    }
    static bool begins(Step step, Day day, Day before)
    {
        const auto now = day.date();
        const auto then = before.date();
        const auto quarter = [](const std::chrono::year_month_day& date) {
            return (static_cast<unsigned>(date.month()) - 1) / 3;
        };
        switch (step) {
        case Step::Year:
            return now.year() != then.year();
        case Step::Quarter:
            return now.year() != then.year() || quarter(now) != quarter(then);
        case Step::Month:
            return now.month() != then.month() || now.year() != then.year();
        case Step::Week:
            break;
        }
        return day.weekday().iso_encoding() < before.weekday().iso_encoding();
    }
    QVector<double> createTickVector(double, const QCPRange& range) override
    {
        QVector<double> ticks;
        step_ = stepFor(range.size());
        const int first = std::max(1, static_cast<int>(std::ceil(range.lower)));
        const int last =
            std::min(static_cast<int>(days_.size()) - 1, static_cast<int>(std::floor(range.upper)));
        for (int bar = first; bar <= last; ++bar)
            if (begins(step_, at(bar), at(bar - 1)))
                ticks.append(bar);
        return ticks;
    }
    int getSubTickCount(double) override { return 0; }
    double getTickStep(const QCPRange& range) override { return std::max(range.size() / 8.0, 1.0); }
    QString getTickLabel(double tick, const QLocale&, QChar, int) override
    {
        const auto bar = static_cast<int>(tick);
        if (bar < 1 || bar >= static_cast<int>(days_.size()))
            return {};
        const QDate date = QDate(1970, 1, 1).addDays(at(bar).serial());
        const QLocale english(QLocale::English);
        if (step_ == Step::Year || begins(Step::Year, at(bar), at(bar - 1)))
            return QString::number(date.year());
        return english.toString(date, step_ == Step::Week ? QStringLiteral("d MMM")
                                                          : QStringLiteral("MMM"));
    }

private:
    Day at(int bar) const { return days_[static_cast<std::size_t>(bar)]; }
    const std::vector<Day>& days_;
    Step step_ = Step::Year;
};

/// Values with as many decimals as their step needs, no more: 2.5 apart is never shown as 3.
class ValueTicker : public QCPAxisTicker {
protected:
    double getTickStep(const QCPRange& range) override
    {
        step_ = QCPAxisTicker::getTickStep(range);
        return step_;
    }
    QString getTickLabel(double tick, const QLocale& locale, QChar, int) override
    {
        int decimals = 0;
        for (double step = step_; decimals < 6 && std::fabs(step - std::round(step)) > 1e-9 * step;
             step *= 10.0)
            ++decimals;
        return locale.toString(tick, 'f', decimals);
    }
    int getSubTickCount(double) override { return 0; }

private:
    double step_ = 1.0;
};

} // namespace

TimePlot::TimePlot(QWidget* parent) : QCustomPlot(parent)
{
    plotLayout()->clear();
    setLocale(QLocale(QLocale::English)); // with thousands separators, as all figures
    plotLayout()->setRowSpacing(2);
    setFocusPolicy(Qt::StrongFocus);
    setMouseTracking(true);
    setBufferDevicePixelRatio(devicePixelRatioF());
}

QCPAxisRect* TimePlot::addPane(double share, bool beginsAtZero)
{
    auto* rect = new QCPAxisRect(this, true);
    const int row = static_cast<int>(panes_.size());
    plotLayout()->addElement(row, 0, rect);
    plotLayout()->setRowStretchFactor(row, share);
    auto* group =
        panes_.empty() ? new QCPMarginGroup(this) : panes_.front().rect->marginGroup(QCP::msRight);
    rect->setMarginGroup(QCP::msLeft | QCP::msRight, group);
    rect->setAutoMargins(QCP::msRight | QCP::msBottom | QCP::msLeft);
    rect->setMinimumMargins(QMargins(2, 2, 2, 2));
    rect->setupFullAxesBox(false);
    rect->axis(QCPAxis::atLeft)->setTickLabels(false);
    rect->axis(QCPAxis::atLeft)->setTicks(false);
    rect->axis(QCPAxis::atRight)->setVisible(true);
    rect->axis(QCPAxis::atRight)->setTickLabels(true);
    rect->axis(QCPAxis::atTop)->setVisible(false);
    rect->axis(QCPAxis::atRight)->setTicker(QSharedPointer<QCPAxisTicker>(new ValueTicker));
    rect->axis(QCPAxis::atRight)->ticker()->setTickCount(share < 0.3 ? 2 : 5);
    rect->axis(QCPAxis::atBottom)
        ->setTicker(QSharedPointer<QCPAxisTicker>(new SessionTicker(days_)));
    for (Pane& pane : panes_) // only the lowest pane names the sessions
        pane.rect->axis(QCPAxis::atBottom)->setTickLabels(false);
    auto* pointer = new QCPItemLine(this);
    pointer->setClipAxisRect(rect);
    for (QCPItemPosition* end : {pointer->start, pointer->end}) {
        end->setAxisRect(rect);
        end->setAxes(rect->axis(QCPAxis::atBottom), rect->axis(QCPAxis::atRight));
        end->setTypeX(QCPItemPosition::ptPlotCoords);
        end->setTypeY(QCPItemPosition::ptAxisRectRatio);
    }
    pointer->setVisible(false);
    panes_.push_back({rect, nullptr, beginsAtZero, pointer});
    style();
    return rect;
}

void TimePlot::setExtent(QCPAxisRect* pane, Extent extent)
{
    const auto found = std::ranges::find(panes_, pane, &Pane::rect);
    found->extent = std::move(extent);
}

QCPAxis* TimePlot::timeAxis() const
{
    return panes_.front().rect->axis(QCPAxis::atBottom);
}

QCPRange TimePlot::shownBars() const
{
    return timeAxis()->range();
}

void TimePlot::setDays(std::vector<Day> days, int shown)
{
    days_ = std::move(days);
    const double last = static_cast<double>(days_.size()) - 1.0;
    showBars(shown > 0 ? std::max(0.0, last - shown + 1.0) : 0.0, last);
}

void TimePlot::showBars(double first, double last)
{
    for (const Pane& pane : panes_)
        pane.rect->axis(QCPAxis::atBottom)->setRange(first - 0.8, last + 0.8);
    scaleValues();
    replot(QCustomPlot::rpQueuedReplot);
}

void TimePlot::fit()
{
    showBars(0.0, static_cast<double>(days_.size()) - 1.0);
}

void TimePlot::scaleValues()
{
    const QCPRange shown = shownBars();
    const int first = std::max(0, static_cast<int>(std::ceil(shown.lower)));
    const int last =
        std::min(static_cast<int>(days_.size()) - 1, static_cast<int>(std::floor(shown.upper)));
    for (const Pane& pane : panes_) {
        if (!pane.extent || last < first)
            continue;
        QCPRange range = pane.extent(first, last);
        if (std::isnan(range.lower) || std::isnan(range.upper))
            continue;
        const double room = range.size() > 0.0 ? range.size() * 0.06
                                               : std::max(std::fabs(range.upper) * 0.05, 0.01);
        const double floor = pane.beginsAtZero ? 0.0 : range.lower - room;
        pane.rect->axis(QCPAxis::atRight)->setRange(floor, range.upper + room);
        pane.rect->axis(QCPAxis::atLeft)->setRange(floor, range.upper + room);
    }
}

void TimePlot::zoom(double factor, double centre)
{
    const QCPRange shown = shownBars();
    const double all = static_cast<double>(days_.size());
    const double size =
        std::clamp(shown.size() * factor, leastBars, std::max(all + 1.6, leastBars));
    const double share = (centre - shown.lower) / shown.size();
    double lower = centre - size * share;
    lower = std::clamp(lower, -0.8, std::max(-0.8, all - 0.2 - size));
    showBars(lower + 0.8, lower + size - 0.8);
}

void TimePlot::pan(double bars)
{
    const QCPRange shown = shownBars();
    const double all = static_cast<double>(days_.size());
    const double lower =
        std::clamp(shown.lower + bars, -0.8, std::max(-0.8, all - 0.2 - shown.size()));
    showBars(lower + 0.8, lower + shown.size() - 0.8);
}

void TimePlot::wheelEvent(QWheelEvent* event)
{
    const double steps = event->angleDelta().y() / 120.0;
    zoom(std::pow(0.85, steps), timeAxis()->pixelToCoord(event->position().x()));
    event->accept();
}

void TimePlot::mousePressEvent(QMouseEvent* event)
{
    if (event->button() != Qt::LeftButton)
        return;
    isDragging_ = true;
    dragFrom_ = timeAxis()->pixelToCoord(event->position().x());
    setCursor(Qt::ClosedHandCursor);
}

void TimePlot::mouseMoveEvent(QMouseEvent* event)
{
    if (isDragging_)
        pan(dragFrom_ - timeAxis()->pixelToCoord(event->position().x()));
    point(event->position().toPoint());
}

void TimePlot::mouseReleaseEvent(QMouseEvent*)
{
    isDragging_ = false;
    unsetCursor();
}

void TimePlot::mouseDoubleClickEvent(QMouseEvent*)
{
    fit();
}

void TimePlot::point(const QPoint& at)
{
    const int bar = static_cast<int>(std::lround(timeAxis()->pixelToCoord(at.x())));
    const bool isBar = bar >= 0 && bar < static_cast<int>(days_.size());
    for (const Pane& pane : panes_) {
        pane.pointer->setVisible(isBar);
        pane.pointer->start->setCoords(bar, 0.0);
        pane.pointer->end->setCoords(bar, 1.0);
    }
    replot(QCustomPlot::rpQueuedReplot);
    Q_EMIT pointed(isBar ? bar : -1);
}

void TimePlot::leaveEvent(QEvent*)
{
    for (const Pane& pane : panes_)
        pane.pointer->setVisible(false);
    replot(QCustomPlot::rpQueuedReplot);
    Q_EMIT pointed(-1);
}

void TimePlot::keyPressEvent(QKeyEvent* event)
{
    const QCPRange shown = shownBars();
    switch (event->key()) {
    case Qt::Key_Plus:
    case Qt::Key_Equal:
        return zoom(0.8, shown.upper);
    case Qt::Key_Minus:
        return zoom(1.25, shown.upper);
    case Qt::Key_Left:
        return pan(-shown.size() / 10.0);
    case Qt::Key_Right:
        return pan(shown.size() / 10.0);
    case Qt::Key_Home:
        return fit();
    default:
        QCustomPlot::keyPressEvent(event);
    }
}

void TimePlot::changeEvent(QEvent* event)
{
    QCustomPlot::changeEvent(event);
    if (event->type() != QEvent::PaletteChange)
        return;
    style();
    if (restyle)
        restyle();
    replot(QCustomPlot::rpQueuedReplot);
}

void TimePlot::style()
{
    const Palette& colours = look();
    setBackground(QBrush(colours.sheet));
    const QPen line(colours.rule, 1.0);
    for (const Pane& pane : panes_) {
        pane.rect->setBackground(QBrush(colours.sheet));
        pane.pointer->setPen(QPen(colours.softInk, 1.0, Qt::DotLine));
        for (QCPAxis* axis : pane.rect->axes()) {
            axis->setBasePen(axis->axisType() == QCPAxis::atBottom ? line : QPen(Qt::NoPen));
            axis->setTickPen(Qt::NoPen);
            axis->setSubTickPen(Qt::NoPen);
            axis->setTickLabelColor(colours.softInk);
            axis->setTickLabelFont(fontOf(Weight::Regular, 0.86));
            axis->grid()->setVisible(axis->axisType() == QCPAxis::atRight ||
                                     axis->axisType() == QCPAxis::atBottom);
            axis->grid()->setPen(QPen(colours.wash(colours.rule, 0.55), 1.0));
            axis->grid()->setZeroLinePen(Qt::NoPen);
            axis->grid()->setSubGridVisible(false);
        }
        pane.rect->axis(QCPAxis::atRight)->setTickLabelPadding(4);
    }
}

} // namespace sieve::app
