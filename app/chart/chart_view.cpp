#include "app/chart/chart_view.h"

#include "app/chart/drawing_pen.h"
#include "app/chart/layers_dialog.h"
#include "app/chart/picture_file.h"
#include "app/chart/set_up_dialog.h"
#include "app/chart/tool_icon.h"
#include "app/look/look.h"
#include "app/parts/actions.h"
#include "app/parts/number_text.h"
#include "core/base/missing.h"
#include "core/charts/figures.h"

#include <QAction>
#include <QApplication>
#include <QClipboard>
#include <QKeyEvent>
#include <QMenu>
#include <QMouseEvent>
#include <QPainter>
#include <QPdfWriter>
#include <QPrintDialog>
#include <QPrinter>
#include <QSvgGenerator>
#include <algorithm>
#include <cmath>
#include <utility>

namespace sieve::app {

using charts::BarScale;
using charts::SetUp;
using charts::ValueScale;
using charts::Viewport;

namespace {

/// Letters choose a tool and are no commands of the place meanwhile.
class ToolMenu : public QMenu {
public:
    using QMenu::QMenu;

protected:
    bool event(QEvent* event) override
    {
        if (event->type() != QEvent::ShortcutOverride)
            return QMenu::event(event);
        event->accept();
        return true;
    }
};

} // namespace

ChartView::ChartView(QWidget* parent) : QWidget(parent), pen_(new DrawingPen(picture_, this))
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

void ChartView::setChart(std::shared_ptr<const charts::Chart> chart)
{
    const charts::Chart& former = picture_.chart();
    const bool isSame = former.size() > 0 && former.symbol == chart->symbol;
    const bool isAtEnd = viewport_.end() == former.size();
    if (isSame && !isAtEnd) {
        viewport_ = viewport_.movedTo(former.bars->days, chart->bars->days);
    } else { // up to the newest bar, whatever day that is
        const double sessions = isSame ? static_cast<double>(viewport_.end() - viewport_.first()) *
                                             charts::sessionsIn(former.setUp.scale)
                                       : shownBars_;
        viewport_ = Viewport(chart->size());
        if (sessions > 0.0)
            viewport_.showNewest(sessions / charts::sessionsIn(chart->setUp.scale));
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

void ChartView::setScale(BarScale scale)
{
    if (setUp_.scale != scale)
        change([scale](SetUp& setUp) { setUp.scale = scale; }, true);
    tick(); // the one that is on stays on
}

void ChartView::toggleValues(ValueScale scale)
{
    change([scale](
               SetUp& setUp) { setUp.values = setUp.values == scale ? ValueScale::Linear : scale; },
           false);
}

std::size_t ChartView::paneMeant() const
{
    const std::size_t last = setUp_.panes.size() - 1;
    return std::min(pointer_ ? picture_.paneAt(pointer_->y()).value_or(0) : 0, last);
}

/// Gives a pane so many pixels of the next one's (the last: of the one before).
void ChartView::makeTaller(std::size_t pane, double pixels)
{
    if (setUp_.panes.size() < 2 || picture_.panes().size() != setUp_.panes.size())
        return;
    const std::size_t other = pane + 1 < setUp_.panes.size() ? pane + 1 : pane - 1;
    const double own = picture_.panes()[pane].plot.height();
    const double both = own + picture_.panes()[other].plot.height();
    constexpr double least = 24.0;
    if (both < 2.0 * least)
        return;
    double& height = setUp_.panes[pane].height;
    const double shares = height + setUp_.panes[other].height;
    height = shares * std::clamp(own + pixels, least, both - least) / both;
    setUp_.panes[other].height = shares - height;
    lookAgain();
}

/// The prices stay where they are.
void ChartView::movePane(int by)
{
    const std::size_t pane = paneMeant();
    const std::size_t to = pane + static_cast<std::size_t>(by);
    if (pane > 0 && to > 0 && to < setUp_.panes.size())
        change([&](SetUp& setUp) { std::swap(setUp.panes[pane], setUp.panes[to]); }, true);
}

void ChartView::removePane()
{
    if (const std::size_t pane = paneMeant(); pane > 0)
        change(
            [&](SetUp& setUp) {
                setUp.panes.erase(setUp.panes.begin() + static_cast<std::ptrdiff_t>(pane));
            },
            true);
}

void ChartView::addActions()
{
    setContextMenuPolicy(Qt::ActionsContextMenu);
    const auto newest = [this] { return viewport_.to(); };
    makeAction(this, ActionId::ZoomIn,
               [this, newest] { move([&](Viewport& view) { view.zoom(0.8, newest()); }); });
    makeAction(this, ActionId::ZoomOut,
               [this, newest] { move([&](Viewport& view) { view.zoom(1.25, newest()); }); });
    makeAction(this, ActionId::PanEarlier,
               [this] { move([](Viewport& view) { view.pan(-view.width() / 10.0); }); });
    makeAction(this, ActionId::PanLater,
               [this] { move([](Viewport& view) { view.pan(view.width() / 10.0); }); });
    makeAction(this, ActionId::FitChart, [this] { move([](Viewport& view) { view.fit(); }); });
    const auto checkable = [this](ActionId id, std::function<void()> done,
                                  std::function<bool()> isOn) {
        QAction* action = makeAction(this, id, std::move(done));
        action->setCheckable(true);
        checked_.emplace_back(action, std::move(isOn));
    };
    for (const auto& [id, scale] : {std::pair(ActionId::DayBars, BarScale::Day),
                                    std::pair(ActionId::WeekBars, BarScale::Week),
                                    std::pair(ActionId::MonthBars, BarScale::Month)})
        checkable(
            id, [this, scale = scale] { setScale(scale); },
            [this, scale = scale] { return setUp_.scale == scale; });
    for (const auto& [id, scale] : {std::pair(ActionId::LogarithmicScale, ValueScale::Logarithmic),
                                    std::pair(ActionId::PercentScale, ValueScale::Percent)})
        checkable(
            id, [this, scale = scale] { toggleValues(scale); },
            [this, scale = scale] { return setUp_.values == scale; });
    makeAction(this, ActionId::NextMark, [this] { stepToMark(1); });
    makeAction(this, ActionId::MarkBefore, [this] { stepToMark(-1); });
    checkable(
        ActionId::ShowMarks,
        [this] {
            change(
                [](SetUp& setUp) {
                    setUp.marks =
                        setUp.marks.empty() ? SetUp().marks : std::vector<charts::MarkKind>();
                },
                true);
        },
        [this] { return !setUp_.marks.empty(); });
    makeAction(this, ActionId::NextBarForm, [this] {
        change(
            [](SetUp& setUp) {
                setUp.form = static_cast<charts::BarForm>((static_cast<int>(setUp.form) + 1) % 4);
            },
            false);
    });
    constexpr double step = 16.0; // pixels
    const auto resize = [this](double pixels) {
        makeTaller(paneMeant(), pixels);
        change([](SetUp&) {}, false); // which keeps it
    };
    makeAction(this, ActionId::TallerPane, [resize] { resize(step); });
    makeAction(this, ActionId::LowerPane, [resize] { resize(-step); });
    makeAction(this, ActionId::PaneUp, [this] { movePane(-1); });
    makeAction(this, ActionId::PaneDown, [this] { movePane(1); });
    makeAction(this, ActionId::RemovePane, [this] { removePane(); });
    makeAction(this, ActionId::EditLayers, [this] { editLayers(); });
    makeAction(this, ActionId::EditSetUp, [this] { editSetUp(); });
    makeAction(this, ActionId::NextSetUp, [this] {
        const auto& all = charts::readySetUps();
        const auto own = std::ranges::find(all, setUp_.name, &SetUp::name);
        const std::size_t next =
            own == all.end() ? 0 : static_cast<std::size_t>(own - all.begin() + 1) % all.size();
        change([&](SetUp& setUp) { setUp = all[next]; }, true);
    });
    makeAction(this, ActionId::CopyFigures,
               [this] { QApplication::clipboard()->setText(figuresText()); });
    makeAction(this, ActionId::CopyPicture,
               [this] { QApplication::clipboard()->setPixmap(picture()); });
    makeAction(this, ActionId::SavePicture, [this] { askForFile(); });
    makeAction(this, ActionId::PrintChart, [this] { print(); });
    tick();
}

void ChartView::allowDrawing()
{
    isDrawable_ = true;
    makeAction(this, ActionId::Draw, [this] { offerTools(); });
    makeAction(this, ActionId::Measure, [this] { pen_->beginMeasuring(); });
    makeAction(this, ActionId::NextDrawing, [this] { pen_->chooseNext(1); });
    makeAction(this, ActionId::DrawingBefore, [this] { pen_->chooseNext(-1); });
    makeAction(this, ActionId::RemoveDrawing, [this] { pen_->removeChosen(); });
    makeAction(this, ActionId::CopyDrawing, [this] { pen_->copyChosen(); });
    makeAction(this, ActionId::PasteDrawing, [this] { pen_->paste(); });
    QAction* hide = makeAction(this, ActionId::HideDrawings,
                               [this] { pen_->setAllHidden(!pen_->areAllHidden()); });
    hide->setCheckable(true);
    connect(pen_, &DrawingPen::stillChanged, hide,
            [this, hide] { hide->setChecked(pen_->areAllHidden()); });
    makeAction(this, ActionId::ListDrawings, [this] { Q_EMIT pen_->opened(); });
}

/// The tools, each by its letter.
void ChartView::offerTools()
{
    if (!picture_.hasBars())
        return;
    auto* menu = new ToolMenu(this);
    menu->setAttribute(Qt::WA_DeleteOnClose);
    menu->setAccessibleName(tr("Tools to draw with"));
    for (const drawings::ToolRow& row : drawings::toolRows()) {
        QString title = text(row.title);
        title.insert(title.indexOf(QLatin1Char(row.letter), 0, Qt::CaseInsensitive),
                     QLatin1Char('&'));
        menu->addAction(toolIcon(row.tool, look()), title, this, [this, tool = row.tool] {
            pen_->begin(tool, setUp_.values == ValueScale::Logarithmic);
            setFocus();
        });
    }
    menu->popup(mapToGlobal(picture_.plots().topLeft().toPoint() + QPoint(8, 8)));
}

QFont ChartView::drawingFont() const
{
    return fontOf(Weight::Medium, 0.86);
}

void ChartView::tick()
{
    for (const auto& [action, isOn] : checked_)
        action->setChecked(isOn());
}

void ChartView::lookAgain()
{
    layOut(picture_);
    drawn_ = QPixmap();
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
    picture.setFont(fontOf(Weight::Regular, 0.86));
    picture.layOut(rect(), viewport_);
}

void ChartView::paintEvent(QPaintEvent*)
{
    const double ratio = devicePixelRatioF();
    if (drawn_.isNull() || drawn_.size() != size() * ratio) {
        drawn_ = QPixmap(size() * ratio);
        drawn_.setDevicePixelRatio(ratio);
        QPainter painter(&drawn_);
        picture_.paint(painter, look());
        wordsTaken_ = pen_->paintStill(painter, look(), drawingFont());
    }
    QPainter painter(this);
    painter.drawPixmap(0, 0, drawn_);
    pen_->paintMoving(painter, look(), drawingFont(), wordsTaken_);
    paintPointer(painter);
    paintStrips(painter, picture_, look());
    paintCard(painter);
}

/// What the marks under the pointer, or the one that was gone to, have to tell.
void ChartView::paintCard(QPainter& painter) const
{
    if (told_.empty())
        return;
    const Palette& colours = look();
    constexpr std::size_t most = 6;
    QStringList lines;
    for (std::size_t i = 0; i < std::min(told_.size(), most); ++i) {
        const charts::Mark& mark = chart().marks[told_[i]];
        lines << shortDayText(mark.day) + QStringLiteral(": ") + text(mark.text);
    }
    if (told_.size() > most)
        lines << tr("and %1 more").arg(told_.size() - most);
    painter.setFont(fontOf(Weight::Regular, 0.92));
    const QFontMetrics metrics(painter.font());
    constexpr int padding = 8;
    const int room = std::min(340, width() - 2 * padding);
    const QRect bounds = metrics.boundingRect(QRect(0, 0, room - 2 * padding, height()),
                                              Qt::TextWordWrap, lines.join(QLatin1Char('\n')));
    QRectF card(0, 0, bounds.width() + 2 * padding, bounds.height() + 2 * padding);
    const QRectF& prices = picture_.panes().front().plot;
    const double x = picture_.xOf(static_cast<double>(chart().marks[told_.front()].bar));
    card.moveCenter({x, 0.0});
    card.moveBottom(prices.bottom() - 40.0); // above the marks
    card.moveLeft(std::clamp(card.left(), 4.0, std::max(4.0, width() - card.width() - 4.0)));
    card.moveTop(std::max(card.top(), 4.0));
    painter.setPen(QPen(colours.rule, 1.0));
    painter.setBrush(colours.ground);
    painter.drawRect(card);
    painter.setPen(colours.ink);
    painter.drawText(card.adjusted(padding, padding, -padding, -padding), Qt::TextWordWrap,
                     lines.join(QLatin1Char('\n')));
}

void ChartView::stepToMark(int by)
{
    const std::vector<charts::Mark>& marks = chart().marks;
    if (marks.empty())
        return;
    // From the bar that is told, over all of its marks; they stand by bar.
    const std::size_t from = told_.empty() ? marks.size() : marks[told_.front()].bar;
    auto next = told_.empty() ? (by > 0 ? marks.begin() : marks.end())
                : by > 0      ? std::ranges::upper_bound(marks, from, {}, &charts::Mark::bar)
                              : std::ranges::lower_bound(marks, from, {}, &charts::Mark::bar);
    if (next == (by > 0 ? marks.end() : marks.begin()))
        return; // there is no other
    const std::size_t bar = by > 0 ? next->bar : std::prev(next)->bar;
    told_.clear();
    for (std::size_t i = 0; i < marks.size(); ++i)
        if (marks[i].bar == bar)
            told_.push_back(i);
    pointedBar_ = static_cast<int>(bar);
    const double at = static_cast<double>(bar);
    if (at < viewport_.from() + 1.0 || at > viewport_.to() - 1.0)
        viewport_.pan(at - (viewport_.from() + viewport_.to()) / 2.0);
    lookAgain();
    Q_EMIT pointed(pointedBar_);
}

/// The figures of each pane's layers on the bar that is read, in their colours.
void ChartView::paintStrips(QPainter& painter, const ChartPicture& picture,
                            const Palette& colours) const
{
    painter.setFont(fontOf(Weight::Regular, 0.86));
    const QFontMetricsF metrics(painter.font());
    for (std::size_t i = 0; i < picture.panes().size(); ++i) {
        const QRectF& strip = picture.panes()[i].strip;
        if (strip.height() < metrics.height())
            continue;
        double x = strip.left();
        const double baseline = strip.top() + 2.0 + metrics.ascent();
        for (const charts::Layer& layer : chart().panes[i].layers) {
            QString told = text(layer.title);
            QColor colour = ChartPicture::colourOf(layer.setUp.colour, colours);
            if (layer.error) {
                told += QStringLiteral(": ") + text(layer.error->problem) + QStringLiteral("; ") +
                        text(layer.error->remedy);
                colour = colours.caution;
            } else if (barRead() < layer.values->size()) {
                const auto value = [&](const charts::Series& of) {
                    if (barRead() >= of->size())
                        return QString();
                    if (layer.setUp.isCompared && i == 0)
                        return signedText(picture.comparedChange(layer, barRead()), Unit::Percent,
                                          1);
                    const double figure = (*of)[barRead()];
                    const bool isSmall = std::fabs(figure) < 1.0 && layer.decimals == 2;
                    return numberText(figure, layer.unit, isSmall ? 4 : layer.decimals);
                };
                if (charts::isOfCondition(layer.setUp.form))
                    told += (*layer.values)[barRead()] == 1.0 ? tr(": yes") : tr(": no");
                else
                    told += QLatin1Char(' ') + value(layer.values);
                if (layer.setUp.form == charts::LayerForm::Band)
                    told += tr(" to ") + value(layer.to);
            }
            const double room = strip.right() - x;
            if (room < metrics.averageCharWidth() * 6.0)
                break;
            const QString shown = metrics.elidedText(told, Qt::ElideRight, room);
            painter.setPen(colour);
            painter.drawText(QPointF(x, baseline), shown);
            x += metrics.horizontalAdvance(shown) + metrics.averageCharWidth() * 2.0;
        }
    }
}

/// Lines through the bar and the price under the pointer, with both named at the edges.
void ChartView::paintPointer(QPainter& painter) const
{
    if (pointedBar_ < 0 || chart().size() == 0)
        return;
    const Palette& colours = look();
    painter.setPen(QPen(colours.softInk, 1.0, Qt::DotLine));
    const QRectF plots = picture_.plots();
    const double x = std::floor(picture_.xOf(pointedBar_)) + 0.5;
    for (const ChartPicture::PaneArea& pane : picture_.panes())
        painter.drawLine(QPointF(x, pane.plot.top()), QPointF(x, pane.plot.bottom()));
    const QFont font = fontOf(Weight::Medium, 0.86);
    painter.setFont(font);
    const QFontMetricsF metrics(font);
    const auto tag = [&](const QString& told, QPointF middle, bool isAtRight) {
        const double width = metrics.horizontalAdvance(told) + 8.0;
        QRectF box(isAtRight ? middle.x() : middle.x() - width / 2.0,
                   middle.y() - metrics.height() / 2.0 - 1.0, width, metrics.height() + 2.0);
        box.moveLeft(std::clamp(box.left(), 0.0, std::max(0.0, this->width() - width)));
        painter.fillRect(box, colours.ink);
        painter.setPen(colours.sheet);
        painter.drawText(box, Qt::AlignCenter, told);
    };
    const auto pane = pointer_ ? picture_.paneAt(pointer_->y()) : std::nullopt;
    if (pane) {
        const double y = std::floor(pointer_->y()) + 0.5;
        painter.drawLine(QPointF(plots.left(), y), QPointF(plots.right(), y));
        tag(picture_.valueText(*pane, picture_.valueAt(*pane, pointer_->y())),
            {plots.right() + 1.0, y}, true);
    }
    tag(shortDayText(chart().bars->days[barRead()]),
        {x, plots.bottom() + 3.0 + metrics.height() / 2.0}, false);
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
    if (!isDragging_)
        pen_->move(event->position(), event->modifiers());
    if (isDragging_) {
        const double moved = (pressedAt_.x() - event->position().x()) / picture_.barWidth();
        move([&](Viewport& view) { view.pan(dragFrom_ + moved - view.from()); });
    }
    point(event->position());
    if (!isDragging_ && !pen_->isDrawing())
        setCursor(picture_.edgeAt(event->position().y()) ? Qt::SplitVCursor : Qt::ArrowCursor);
}

void ChartView::mouseReleaseEvent(QMouseEvent* event)
{
    if (std::exchange(edge_, std::nullopt))
        return change([](SetUp&) {}, false); // which keeps it
    if (!std::exchange(isDragging_, false)) {
        pen_->release(event->position(), event->modifiers());
        return;
    }
    unsetCursor();
    const bool isClick = event->button() == Qt::LeftButton &&
                         (event->position() - pressedAt_).manhattanLength() < 4.0;
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

void ChartView::pointAt(std::optional<Day> day)
{
    pointer_.reset();
    told_.clear();
    pointedBar_ = -1;
    if (day) {
        const auto& days = chart().bars->days;
        const auto bar = std::ranges::lower_bound(days, *day);
        pointedBar_ = bar == days.end() ? -1 : static_cast<int>(bar - days.begin());
    }
    update();
    Q_EMIT pointed(pointedBar_);
}

QString ChartView::figuresText() const
{
    return text(exports::toTabs(charts::figuresOf(chart())));
}

QPixmap ChartView::picture() const
{
    constexpr double ratio = 2.0; // sharp on paper too
    QPixmap page(size() * ratio);
    page.setDevicePixelRatio(ratio);
    QPainter painter(&page);
    paintOn(painter, rect(), look());
    return page;
}

/// All of the chart but what follows the pointer, as it stands now, on an area.
void ChartView::paintOn(QPainter& painter, const QRectF& area, const Palette& colours) const
{
    ChartPicture picture = picture_;
    picture.layOut(area, viewport_);
    picture.paint(painter, colours);
    pen_->paintAll(picture, painter, colours, drawingFont());
    paintStrips(painter, picture, colours);
}

/// A page with the chart under a line that says what it shows; in light colours, as paper is.
bool ChartView::paintPage(QPagedPaintDevice& page) const
{
    const Palette colours = paperPalette();
    QPainter painter;
    if (chart().size() == 0 || !painter.begin(&page))
        return false;
    constexpr double width = 1000.0; // so wide as on a screen, whatever the page's resolution
    const double scale = page.width() / width;
    painter.scale(scale, scale);
    const double height = page.height() / scale;
    painter.fillRect(QRectF(0.0, 0.0, width, height), colours.sheet);
    painter.setPen(colours.ink);
    painter.setFont(fontOf(Weight::SemiBold, 1.3));
    const double line = QFontMetricsF(painter.font()).height() * 1.6;
    painter.drawText(QRectF(8.0, 0.0, width - 16.0, line), Qt::AlignVCenter | Qt::AlignLeft,
                     tr("%1, %2").arg(text(chart().symbol), dayText(chart().bars->days.back())));
    painter.setFont(fontOf(Weight::Regular));
    painter.setPen(colours.softInk);
    painter.drawText(QRectF(8.0, 0.0, width - 16.0, line), Qt::AlignVCenter | Qt::AlignRight,
                     text(setUp_.name));
    paintOn(painter, QRectF(0.0, line, width, height - line), colours);
    return painter.end();
}

void ChartView::print()
{
    QPrinter printer(QPrinter::HighResolution);
    printer.setPageOrientation(QPageLayout::Landscape);
    printer.setDocName(text(chart().symbol));
    QPrintDialog dialog(&printer, this);
    if (dialog.exec() == QDialog::Accepted && !paintPage(printer))
        Q_EMIT failed(tr("The chart could not be printed. Look whether the printer is ready."));
}

bool ChartView::savePicture(const QString& file) const
{
    if (isPdf(file)) {
        QPdfWriter page(file);
        page.setPageSize(QPageSize(QPageSize::A4));
        page.setPageOrientation(QPageLayout::Landscape);
        page.setTitle(accessibleName());
        return paintPage(page);
    }
    if (!isSvg(file))
        return picture().save(file);
    QSvgGenerator generator;
    generator.setFileName(file);
    generator.setSize(size());
    generator.setViewBox(rect());
    generator.setTitle(accessibleName());
    QPainter painter;
    if (!painter.begin(&generator))
        return false;
    paintOn(painter, rect(), look());
    return painter.end();
}

void ChartView::editSetUp()
{
    auto* dialog = new SetUpDialog(setUp_, this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    connect(dialog, &QDialog::accepted, this,
            [this, dialog] { change([dialog](SetUp& setUp) { setUp = dialog->setUp(); }, true); });
    dialog->open();
}

void ChartView::editLayers()
{
    auto* dialog = new LayersDialog(setUp_, this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    dialog->setChart(chart());
    connect(dialog, &LayersDialog::changed, this,
            [this, dialog] { change([dialog](SetUp& setUp) { setUp = dialog->setUp(); }, true); });
    connect(this, &ChartView::chartChanged, dialog, [this, dialog] { dialog->setChart(chart()); });
    dialog->open();
}

void ChartView::askForFile()
{
    const QString fault =
        savePictureAsked(this, [this](const QString& file) { return savePicture(file); });
    if (!fault.isEmpty())
        Q_EMIT failed(fault);
}

} // namespace sieve::app
