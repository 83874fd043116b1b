#include "app/chart/chart_view.h"

#include "app/chart/drawing_pen.h"
#include "app/chart/plan_gauge.h"
#include "app/look/look.h"
#include "app/parts/number_text.h"
#include "core/charts/figures.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <algorithm>
#include <cmath>
#include <utility>

// What a chart shows and what mouse and keys do to it. Its commands stand in
// chart_view_actions.cpp, what it asks in chart_view_menus.cpp, how it is painted in
// chart_view_painting.cpp.

namespace sieve::app {

using charts::SetUp;
using charts::Viewport;

ChartView::ChartView(QWidget* parent)
    : QWidget(parent), pen_(new DrawingPen(picture_, this)), gauge_(std::make_unique<PlanGauge>())
{
    setFocusPolicy(Qt::StrongFocus);
    setMouseTracking(true);
    setAttribute(Qt::WA_OpaquePaintEvent);
    setMinimumSize(80, 60);
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Expanding);
    addActions();
    connect(pen_, &DrawingPen::stillChanged, this, &ChartView::lookAgain);
    connect(pen_, &DrawingPen::movingChanged, this, [this] {
        if (pen_->isDrawing())
            setCursor(Qt::CrossCursor);
        else
            unsetCursor();
        update();
    });
    connect(pen_, &DrawingPen::failed, this, &ChartView::failed);
    lookAgain();
}

ChartView::~ChartView() = default;

void ChartView::setPlan(std::optional<watchlists::TradePlan> plan,
                        const watchlists::PlanTerms& terms)
{
    if (gauge_->setPlan(std::move(plan), terms))
        lookAgain();
}

void ChartView::setChart(std::shared_ptr<const charts::Chart> chart)
{
    const charts::Chart& former = picture_.chart();
    const bool isSame = former.size() > 0 && former.symbol == chart->symbol;
    const bool isAtEnd = viewport_.end() == former.size();
    if (isSame && !isAtEnd) {
        viewport_ = viewport_.movedTo(former.bars->days, chart->bars->days);
    } else { // up to the newest bar, whatever day that is
        const double sessions = isSame ? static_cast<double>(viewport_.end() - viewport_.first()) *
                                             former.places.sessionsEach()
                                       : shownBars_;
        viewport_ = Viewport(chart->size());
        if (sessions > 0.0)
            viewport_.showNewest(sessions / chart->places.sessionsEach());
    }
    picture_.setChart(std::move(chart));
    pointedBar_ = -1;
    told_.clear();
    const charts::Chart& shown = picture_.chart();
    setAccessibleDescription(text(charts::spokenSummary(shown, 63)));
    lookAgain();
    Q_EMIT chartChanged();
}

void ChartView::setShownBars(int bars)
{
    shownBars_ = bars;
}

void ChartView::setCompact(bool isCompact)
{
    picture_.setDetail(isCompact ? ChartPicture::Detail::Compact : ChartPicture::Detail::Full);
    lookAgain();
}

void ChartView::showBars(double from, double to)
{
    move([&](Viewport& view) {
        view.zoom((to - from) / view.width(), view.from());
        view.pan(from - view.from());
    });
}

void ChartView::setSetUp(SetUp setUp)
{
    setUp_ = std::move(setUp);
    tick();
    lookAgain();
}

void ChartView::restoreSetUp(std::string_view toml)
{
    const auto kept = charts::setUpFromToml(toml);
    if (!kept)
        return;
    setSetUp(*kept);
    Q_EMIT setUpChanged(true);
}

void ChartView::change(const std::function<void(SetUp&)>& edit, bool needsFigures)
{
    edit(setUp_);
    tick();
    lookAgain();
    Q_EMIT setUpChanged(needsFigures);
}

void ChartView::lookAgain()
{
    layOut(picture_);
    stillFrames_ = 0;
    update();
}

void ChartView::move(const std::function<void(Viewport&)>& by)
{
    by(viewport_);
    lookAgain();
}

std::size_t ChartView::barRead() const
{
    const std::size_t last = std::max<std::size_t>(chart().size(), 1) - 1;
    return pointedBar_ < 0 ? last : std::min(static_cast<std::size_t>(pointedBar_), last);
}

void ChartView::layOut(ChartPicture& picture) const
{
    picture.setForm(setUp_.form);
    picture.setValueScale(setUp_.values);
    std::vector<double> heights;
    for (const charts::PaneSetUp& pane : setUp_.panes)
        heights.push_back(pane.height);
    picture.setHeights(std::move(heights));
    picture.setWanted(gauge_->prices());
    picture.setFont(fontOf(Weight::Regular, 0.86));
    picture.layOut(rect(), viewport_);
}

void ChartView::resizeEvent(QResizeEvent*)
{
    lookAgain();
}

void ChartView::wheelEvent(QWheelEvent* event)
{
    const double steps = event->angleDelta().y() / 120.0;
    const double centre = picture_.barAt(event->position().x());
    move([&](Viewport& view) { view.zoom(std::pow(0.85, steps), centre); });
    event->accept();
}

void ChartView::mousePressEvent(QMouseEvent* event)
{
    edge_ = event->button() == Qt::LeftButton && !pen_->isDrawing()
                ? picture_.edgeAt(event->position().y())
                : std::nullopt;
    pressedAt_ = event->position();
    if (edge_)
        return;
    if (event->button() == Qt::LeftButton && !pen_->isDrawing() &&
        gauge_->press(picture_, event->position()))
        return;
    if (event->button() != Qt::LeftButton ||
        (isDrawable_ && pen_->press(event->position(), event->modifiers())))
        return;
    isDragging_ = true;
    pressedAt_ = event->position();
    dragFrom_ = viewport_.from();
    setCursor(Qt::ClosedHandCursor);
}

void ChartView::mouseMoveEvent(QMouseEvent* event)
{
    if (edge_) {
        makeTaller(*edge_, event->position().y() - pressedAt_.y());
        pressedAt_ = event->position();
        return;
    }
    if (gauge_->isHeld()) {
        gauge_->drag(picture_, event->position());
        return update();
    }
    if (!isDragging_)
        pen_->move(event->position(), event->modifiers());
    if (isDragging_) {
        const double moved = (pressedAt_.x() - event->position().x()) / picture_.barWidth();
        move([&](Viewport& view) { view.pan(dragFrom_ + moved - view.from()); });
    }
    point(event->position());
    if (!isDragging_ && !pen_->isDrawing())
        setCursor(picture_.edgeAt(event->position().y())         ? Qt::SplitVCursor
                  : gauge_->levelAt(picture_, event->position()) ? Qt::SizeVerCursor
                                                                 : Qt::ArrowCursor);
}

void ChartView::mouseReleaseEvent(QMouseEvent* event)
{
    if (event->button() != Qt::LeftButton)
        return;
    if (std::exchange(edge_, std::nullopt))
        return Q_EMIT setUpChanged(false);
    if (gauge_->isHeld()) {
        if (const auto moved = gauge_->release())
            Q_EMIT planMoved(*moved);
        return lookAgain();
    }
    if (!std::exchange(isDragging_, false)) {
        pen_->release(event->position(), event->modifiers());
        return;
    }
    unsetCursor();
    const bool isClick = (event->position() - pressedAt_).manhattanLength() < 4.0;
    const auto pane = picture_.paneAt(event->position().y());
    const int bar = static_cast<int>(std::lround(picture_.barAt(event->position().x())));
    if (isClick && pane && bar >= 0 && bar < static_cast<int>(chart().size()))
        Q_EMIT clicked(bar, static_cast<int>(*pane),
                       picture_.valueAt(*pane, event->position().y()));
}

void ChartView::mouseDoubleClickEvent(QMouseEvent*)
{
    if (pen_->doubleClick())
        return;
    move([](Viewport& view) { view.fit(); });
}

bool ChartView::event(QEvent* event)
{
    // What the pen waits for is no command meanwhile.
    if (event->type() == QEvent::ShortcutOverride && pen_->wants(*static_cast<QKeyEvent*>(event))) {
        event->accept();
        return true;
    }
    return QWidget::event(event);
}

void ChartView::keyPressEvent(QKeyEvent* event)
{
    if (!pen_->key(*event))
        QWidget::keyPressEvent(event);
}

void ChartView::leaveEvent(QEvent*)
{
    point(std::nullopt);
}

void ChartView::changeEvent(QEvent* event)
{
    QWidget::changeEvent(event);
    if (event->type() == QEvent::PaletteChange || event->type() == QEvent::FontChange)
        lookAgain();
}

void ChartView::point(const std::optional<QPointF>& at)
{
    pointer_ = at;
    const int bar = at ? static_cast<int>(std::lround(picture_.barAt(at->x()))) : -1;
    const bool isBar = bar >= 0 && bar < static_cast<int>(chart().size());
    pointedBar_ = isBar ? bar : -1;
    told_ = at ? picture_.marksAt(*at) : std::vector<std::size_t>();
    update();
    Q_EMIT pointed(pointedBar_);
}

void ChartView::pointAt(std::optional<Day> day, int minute)
{
    pointer_.reset();
    told_.clear();
    pointedBar_ = -1;
    if (day) {
        const auto& days = chart().bars->days;
        const std::vector<int>& clock = chart().clock;
        auto bar = static_cast<std::size_t>(std::ranges::lower_bound(days, *day) - days.begin());
        while (bar < clock.size() && days[bar] == *day && clock[bar] < minute)
            ++bar;
        pointedBar_ = bar == days.size() ? -1 : static_cast<int>(bar);
    }
    update();
    Q_EMIT pointed(pointedBar_);
}

} // namespace sieve::app
