#include "app/chart/time_plot.h"

#include "app/chart/picture_file.h"
#include "app/look/look.h"
#include "app/parts/actions.h"
#include "app/parts/number_text.h"
#include "core/base/missing.h"
#include "core/charts/ticks.h"

#include <QApplication>
#include <QClipboard>
#include <QSvgGenerator>
#include <algorithm>
#include <cmath>

namespace sieve::app {

namespace {

constexpr double leastBars = 10.0;

/// Names the sessions with which a year, a quarter, a month or a week begins.
class SessionTicker : public QCPAxisTicker {
public:
    explicit SessionTicker(const std::vector<Day>& days) : days_(days) {}

protected:
    QVector<double> createTickVector(double, const QCPRange& range) override
    {
        ticks_ = charts::sessionTicks(days_, range.lower, range.upper);
        QVector<double> bars;
        for (const charts::SessionTick& tick : ticks_)
            bars.append(static_cast<double>(tick.bar));
        return bars;
    }
    int getSubTickCount(double) override { return 0; }
    QString getTickLabel(double bar, const QLocale&, QChar, int) override
    {
        const auto tick =
            std::ranges::find(ticks_, static_cast<std::size_t>(bar), &charts::SessionTick::bar);
        if (tick == ticks_.end())
            return {};
        const QDate date = dateOf(days_[tick->bar]);
        const bool isWeek = tick->names == charts::CalendarStep::Week;
        return tick->names == charts::CalendarStep::Year
                   ? QString::number(date.year())
                   : QLocale(QLocale::English)
                         .toString(date, isWeek ? QStringLiteral("d MMM") : QStringLiteral("MMM"));
    }

private:
    const std::vector<Day>& days_;
    std::vector<charts::SessionTick> ticks_;
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
        return locale.toString(tick, 'f', charts::decimalsFor(step_));
    }
    int getSubTickCount(double) override { return 0; }

private:
    double step_ = 1.0;
};

} // namespace

TimePlot::TimePlot(QWidget* parent) : QCustomPlot(parent)
{
    addActions();
    plotLayout()->clear();
    setLocale(QLocale(QLocale::English)); // with thousands separators, as all figures
    plotLayout()->setRowSpacing(2);
    setFocusPolicy(Qt::StrongFocus);
    setMouseTracking(true);
    setBufferDevicePixelRatio(devicePixelRatioF());
    setPlottingHint(QCP::phFastPolylines); // wide lines are what a frame's time goes to
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
    rect->setMinimumSize(50, 12); // many panes share a small window
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
    if (panes_.size() > 1)
        rect->axis(QCPAxis::atBottom)->setRange(shownBars());
    nameSessionsBelow();
    style();
    return rect;
}

/// Only the lowest pane names the sessions.
void TimePlot::nameSessionsBelow()
{
    for (const Pane& pane : panes_)
        pane.rect->axis(QCPAxis::atBottom)->setTickLabels(pane.rect == panes_.back().rect);
}

void TimePlot::removePane(QCPAxisRect* pane)
{
    const auto found = std::ranges::find(panes_, pane, &Pane::rect);
    if (found == panes_.end() || found == panes_.begin())
        return; // the first one stays
    removeItem(found->pointer);
    for (QCPAxis* axis : pane->axes()) {
        for (QCPAbstractPlottable* drawn : axis->plottables())
            removePlottable(drawn);
        for (QCPAbstractItem* item : axis->items())
            removeItem(item);
    }
    panes_.erase(found);
    plotLayout()->remove(pane);
    plotLayout()->simplify();
    nameSessionsBelow();
}

void TimePlot::setShares(const std::vector<double>& shares)
{
    for (std::size_t i = 0; i < std::min(shares.size(), panes_.size()); ++i)
        plotLayout()->setRowStretchFactor(static_cast<int>(i), shares[i]);
}

void TimePlot::setLogarithmic(bool isLogarithmic)
{
    if (isLogarithmic == isLogarithmic_)
        return;
    isLogarithmic_ = isLogarithmic;
    logarithmic_->setChecked(isLogarithmic);
    scaleValues();
    replot(QCustomPlot::rpQueuedReplot);
    Q_EMIT scaleChanged(isLogarithmic);
}

QString TimePlot::dataText() const
{
    std::vector<const QCPGraph*> graphs;
    const std::vector<Figures> bars = figuresOfBars ? figuresOfBars() : std::vector<Figures>();
    QStringList head{tr("Day")};
    for (const Figures& each : bars)
        head << each.title;
    for (int i = 0; i < graphCount(); ++i)
        if (!graph(i)->name().isEmpty() && graph(i)->dataCount() > 0) {
            graphs.push_back(graph(i));
            head << graph(i)->name();
        }
    const auto cell = [](double value) {
        return isMissing(value) ? QString() : QString::number(value, 'g', 10);
    };
    QStringList lines{head.join(u'\t')};
    for (std::size_t bar = 0; bar < days_.size(); ++bar) {
        QStringList cells{text(days_[bar].iso())};
        for (const Figures& each : bars)
            cells << cell(bar < each.values.size() ? each.values[bar] : missing);
        for (const QCPGraph* graph : graphs) {
            const auto found = graph->data()->findBegin(static_cast<double>(bar), false);
            const bool isThere =
                found != graph->data()->constEnd() && found->key == static_cast<double>(bar);
            cells << cell(isThere ? found->value : missing);
        }
        lines << cells.join(u'\t');
    }
    return lines.join(u'\n');
}

bool TimePlot::savePicture(const QString& file)
{
    if (!isSvg(file))
        return savePng(file, 0, 0, 2.0);
    QSvgGenerator generator;
    generator.setFileName(file);
    generator.setSize(size());
    generator.setViewBox(rect());
    generator.setTitle(accessibleName());
    QCPPainter painter;
    if (!painter.begin(&generator))
        return false;
    painter.setMode(QCPPainter::pmVectorized);
    painter.setMode(QCPPainter::pmNoCaching);
    toPainter(&painter, width(), height());
    return painter.end();
}

void TimePlot::askForFile()
{
    const QString fault =
        savePictureAsked(this, [this](const QString& file) { return savePicture(file); });
    if (!fault.isEmpty())
        Q_EMIT failed(fault);
}

void TimePlot::addActions()
{
    setContextMenuPolicy(Qt::ActionsContextMenu);
    makeAction(this, ActionId::ZoomIn, [this] { zoom(0.8, shownBars().upper); });
    makeAction(this, ActionId::ZoomOut, [this] { zoom(1.25, shownBars().upper); });
    makeAction(this, ActionId::PanEarlier, [this] { pan(-shownBars().size() / 10.0); });
    makeAction(this, ActionId::PanLater, [this] { pan(shownBars().size() / 10.0); });
    makeAction(this, ActionId::FitChart, [this] { fit(); });
    logarithmic_ =
        makeAction(this, ActionId::LogarithmicScale, [this] { setLogarithmic(!isLogarithmic_); });
    logarithmic_->setCheckable(true);
    makeAction(this, ActionId::CopyFigures,
               [this] { QApplication::clipboard()->setText(dataText()); });
    makeAction(this, ActionId::CopyPicture,
               [this] { QApplication::clipboard()->setPixmap(toPixmap(0, 0, 2.0)); });
    makeAction(this, ActionId::SavePicture, [this] { askForFile(); });
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
        const bool isLogarithmic =
            isLogarithmic_ && pane.rect == panes_.front().rect && range.lower > 0.0;
        double room = range.size() > 0.0 ? range.size() * 0.06
                                         : std::max(std::fabs(range.upper) * 0.05, 0.01);
        double floor = pane.beginsAtZero ? 0.0 : range.lower - room;
        if (isLogarithmic) {
            const double factor = std::max(std::pow(range.upper / range.lower, 0.06), 1.01);
            floor = range.lower / factor;
            room = range.upper * (factor - 1.0);
        }
        for (QCPAxis* axis :
             {pane.rect->axis(QCPAxis::atRight), pane.rect->axis(QCPAxis::atLeft)}) {
            axis->setScaleType(isLogarithmic ? QCPAxis::stLogarithmic : QCPAxis::stLinear);
            axis->setRange(floor, range.upper + room);
        }
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
    pressedAt_ = event->pos();
    dragFrom_ = timeAxis()->pixelToCoord(event->position().x());
    setCursor(Qt::ClosedHandCursor);
}

void TimePlot::mouseMoveEvent(QMouseEvent* event)
{
    if (isDragging_)
        pan(dragFrom_ - timeAxis()->pixelToCoord(event->position().x()));
    point(event->position().toPoint());
}

void TimePlot::mouseReleaseEvent(QMouseEvent* event)
{
    isDragging_ = false;
    unsetCursor();
    const bool isClick =
        event->button() == Qt::LeftButton && (event->pos() - pressedAt_).manhattanLength() < 4;
    const int bar = static_cast<int>(std::lround(timeAxis()->pixelToCoord(event->pos().x())));
    if (isClick && bar >= 0 && bar < static_cast<int>(days_.size()))
        Q_EMIT clicked(bar,
                       panes_.front().rect->axis(QCPAxis::atRight)->pixelToCoord(event->pos().y()));
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
