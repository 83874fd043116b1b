#include "app/chart/drawing_pen.h"

#include "app/chart/chart_picture.h"
#include "app/look/palette.h"
#include "app/parts/number_text.h"
#include "core/base/missing.h"
#include "core/drawings/snap.h"
#include "core/drawings/stock.h"
#include "core/drawings/time_line.h"

#include <QApplication>
#include <QClipboard>
#include <QKeyEvent>
#include <QLineF>
#include <QPainter>
#include <algorithm>
#include <cmath>

namespace sieve::app {

using drawings::Anchor;
using drawings::Drawing;
using drawings::Point;
using drawings::Tool;

namespace {

constexpr double reach = 6.0;    ///< pixels from a line within which it is meant
constexpr double dragFrom = 4.0; ///< pixels after which a press is a drag
constexpr double step = 4.0;     ///< pixels of a key that moves up or down

bool isArrow(int key)
{
    return key == Qt::Key_Left || key == Qt::Key_Right || key == Qt::Key_Up || key == Qt::Key_Down;
}

/// Words on a ground of their own.
void paintNote(QPainter& painter, const QRectF& box, const QString& words, const Palette& colours)
{
    painter.setPen(QPen(colours.rule, 1.0));
    painter.setBrush(colours.ground);
    painter.drawRect(box);
    painter.setPen(colours.ink);
    painter.drawText(box, Qt::AlignCenter, words);
}

/// By how many bars and pixels an arrow key moves.
QPointF stepOf(const QKeyEvent& event)
{
    const double times = event.modifiers() & Qt::ShiftModifier ? 5.0 : 1.0;
    switch (event.key()) {
    case Qt::Key_Left:
        return {-times, 0.0};
    case Qt::Key_Right:
        return {times, 0.0};
    case Qt::Key_Up:
        return {0.0, -step * times};
    default:
        return {0.0, step * times};
    }
}

} // namespace

DrawingPen::DrawingPen(const ChartPicture& chart, QObject* parent) : QObject(parent), chart_(chart)
{
}

void DrawingPen::setDrawings(std::vector<Drawing> drawings)
{
    drawings_ = std::move(drawings);
    drag_.reset();
    if (chosen_ && !chosen())
        chosen_.reset();
    Q_EMIT stillChanged();
}

void DrawingPen::setAllHidden(bool areHidden)
{
    areAllHidden_ = areHidden;
    choose(std::nullopt);
    Q_EMIT stillChanged();
}

void DrawingPen::begin(Tool tool, bool isLogarithmic)
{
    stop();
    setAllHidden(false);
    hand_.emplace(tool, isLogarithmic);
    Q_EMIT movingChanged();
}

void DrawingPen::beginMeasuring()
{
    stop();
    hand_.emplace(Tool::Line, false);
    isMeasuring_ = true;
    Q_EMIT movingChanged();
}

void DrawingPen::stop()
{
    hand_.reset();
    pointer_.reset(); // it may have been on another stock
    measure_.reset();
    isMeasuring_ = false;
    drag_.reset();
    choose(std::nullopt);
}

const Drawing* DrawingPen::chosen() const
{
    const auto place = std::ranges::find(drawings_, chosen_.value_or(0), &Drawing::id);
    return chosen_ && place != drawings_.end() ? &*place : nullptr;
}

void DrawingPen::choose(std::optional<std::int64_t> id)
{
    if (chosen_ == id)
        return Q_EMIT movingChanged();
    chosen_ = id;
    Q_EMIT stillChanged(); // the chosen one is drawn with what moves
}

void DrawingPen::chooseNext(int by)
{
    std::vector<const Drawing*> seen;
    for (const Drawing& drawing : drawings_)
        if (isSeen(drawing))
            seen.push_back(&drawing);
    if (seen.empty())
        return;
    std::ranges::stable_sort(seen, [](const Drawing* a, const Drawing* b) {
        return a->anchors.front().day > b->anchors.front().day;
    });
    const auto count = static_cast<std::ptrdiff_t>(seen.size());
    const auto now = std::ranges::find(seen, chosen());
    const std::ptrdiff_t at = now == seen.end() ? (by > 0 ? -1 : 0) : now - seen.begin();
    choose(seen[static_cast<std::size_t>((at + by + count) % count)]->id);
}

void DrawingPen::removeChosen()
{
    const Drawing* drawing = chosen();
    if (drawing && !drawing->isLocked)
        Q_EMIT removed(drawing->id);
}

void DrawingPen::copyChosen() const
{
    if (const Drawing* drawing = chosen())
        QApplication::clipboard()->setText(text(toToml(*drawing)));
}

void DrawingPen::paste()
{
    const auto drawing = drawings::drawingFromToml(utf8(QApplication::clipboard()->text()));
    if (!drawing)
        return Q_EMIT failed(tr("The clipboard has no drawing. Choose one and copy it with Ctrl+C "
                                "first."));
    if (chart_.hasBars())
        Q_EMIT pasted(*drawing);
}

bool DrawingPen::isSeen(const Drawing& drawing) const
{
    return !drawing.isHidden && !areAllHidden_;
}

/// The nearest drawing within reach; of equally near ones the newest.
const Drawing* DrawingPen::drawingAt(const QPointF& at) const
{
    const Drawing* found = nullptr;
    double nearest = reach;
    for (const Drawing& drawing : drawings_) {
        if (!isSeen(drawing))
            continue;
        const double distance = DrawingPicture::of(drawing, chart_, QFont()).distanceTo(at);
        if (distance <= nearest) {
            nearest = distance;
            found = &drawing;
        }
    }
    return found;
}

/// Where a point is meant: at a price of a bar nearby, unless Ctrl is held.
Point DrawingPen::placeAt(const QPointF& at, Qt::KeyboardModifiers modifiers) const
{
    const charts::Chart& chart = chart_.chart();
    const auto barAt = [&](double x) {
        return static_cast<std::size_t>(std::max(chart_.barAt(x), 0.0));
    };
    const auto onScreen = [&](const Point& other) {
        const double x = chart_.xOf(other.bar);
        return QPointF(x, chart_.yOf(0, other.price));
    };
    // Weeks and months have the prices of their days.
    const bool isOfMinutes = chart.isOfMinutes();
    const auto middle = [&](double bar) { // of a bar of minutes, else of a day
        return isOfMinutes ? chart.places.onDays(std::round(bar)) : std::round(bar);
    };
    const Point free = chart_.placeAt(at);
    Point place{isOfMinutes ? middle(chart_.barAt(at.x())) : middle(free.bar), free.price};
    if (modifiers & Qt::ControlModifier)
        return place;
    const double reach = drawings::snapsToTurn;
    if (isOfMinutes) {
        const auto meant = drawings::meantPoint(
            *chart.bars, barAt(at.x() - reach), barAt(at.x() + reach) + 1,
            [&](const Point& other) { return QLineF(at, onScreen(other)).length(); });
        return meant ? Point{middle(meant->bar), meant->price} : place;
    }
    const auto dayAt = [&](double x) {
        return static_cast<std::size_t>(std::max(chart_.placeAt({x, at.y()}).bar, 0.0));
    };
    return drawings::meantPoint(
               *chart.daily, dayAt(at.x() - reach), dayAt(at.x() + reach) + 1,
               [&](const Point& other) { return QLineF(at, chart_.pointOf(other)).length(); })
        .value_or(place);
}

Anchor DrawingPen::anchorOf(const Point& place) const
{
    return drawings::anchorAt(chart_.chart().daily->days, place.bar, place.price,
                              chart_.chart().isOfMinutes());
}

void DrawingPen::setPoint(const Point& place)
{
    if (place.price > 0.0 && hand_->set(anchorOf(place)))
        finish();
    Q_EMIT movingChanged();
}

/// Requires: a hand with enough points.
void DrawingPen::finish()
{
    Drawing drawing = hand_->made();
    hand_.reset();
    if (std::exchange(isMeasuring_, false))
        measure_ = std::move(drawing);
    else
        Q_EMIT made(drawing);
    Q_EMIT movingChanged();
}

bool DrawingPen::press(const QPointF& at, Qt::KeyboardModifiers modifiers)
{
    if (!chart_.hasBars() || !chart_.panes().front().plot.contains(at))
        return false;
    pressedAt_ = at;
    const Point place = placeAt(at, modifiers);
    if (hand_) {
        setPoint(place);
        return true;
    }
    if (std::exchange(measure_, std::nullopt))
        Q_EMIT movingChanged();
    const Drawing* own = chosen();
    std::optional<std::size_t> point =
        own ? DrawingPicture::of(*own, chart_, QFont()).handleAt(at) : std::nullopt;
    if (!point) {
        own = drawingAt(at);
        choose(own ? std::optional(own->id) : std::nullopt);
    }
    if (own && !own->isLocked)
        beginDrag(*own, point, at);
    return own != nullptr;
}

bool DrawingPen::move(const QPointF& at, Qt::KeyboardModifiers modifiers)
{
    if (!chart_.hasBars() || (!hand_ && !drag_))
        return false;
    pointer_ = placeAt(at, modifiers);
    if (hand_)
        hand_->move(anchorOf(*pointer_));
    else if (QLineF(at, pressedAt_).length() >= dragFrom || drag_->now != drag_->before)
        dragTo(drag_->point ? *pointer_ : chart_.placeAt(at));
    Q_EMIT movingChanged();
    return true;
}

void DrawingPen::beginDrag(const Drawing& own, std::optional<std::size_t> point, const QPointF& at)
{
    drag_ = Drag{point, chart_.placeAt(at), own, own};
    drag_->before.drawnOn = drag_->now.drawnOn = chart_.chart().daily->days.back();
}

void DrawingPen::dragTo(const Point& to)
{
    if (!(to.price > 0.0))
        return;
    if (drag_->point)
        drag_->now.anchors.at(*drag_->point) = anchorOf(to);
    else
        drag_->now =
            drawings::moved(drag_->before, *chart_.chart().daily,
                            chart_.chart().isOfMinutes() ? to.bar - drag_->from.bar
                                                         : std::round(to.bar - drag_->from.bar),
                            drag_->from.price, to.price);
}

bool DrawingPen::release(const QPointF& at, Qt::KeyboardModifiers modifiers)
{
    const bool isDragged = QLineF(at, pressedAt_).length() >= dragFrom;
    if (hand_) {
        // Pressed at one point and let go at another: both are set.
        if (isDragged && hand_->pointsSet() > 0)
            setPoint(placeAt(at, modifiers));
        return true;
    }
    if (!drag_)
        return false;
    const Drag done = *std::exchange(drag_, std::nullopt);
    if (done.now != done.before)
        Q_EMIT moved(done.now);
    Q_EMIT movingChanged();
    return true;
}

bool DrawingPen::doubleClick()
{
    if (hand_) {
        if (hand_->isEnough())
            finish();
        return true;
    }
    if (!chosen())
        return false;
    drag_.reset();
    Q_EMIT opened();
    return true;
}

bool DrawingPen::wants(const QKeyEvent& event) const
{
    const int key = event.key();
    if (hand_)
        return isArrow(key) || key == Qt::Key_Return || key == Qt::Key_Enter ||
               key == Qt::Key_Escape || key == Qt::Key_Backspace || key == Qt::Key_Space;
    const bool isMove = isArrow(key) && event.modifiers() & Qt::AltModifier;
    return (chosen_ && (isMove || key == Qt::Key_Return || key == Qt::Key_Enter)) ||
           ((chosen_ || measure_) && key == Qt::Key_Escape);
}

bool DrawingPen::key(const QKeyEvent& event)
{
    if (!wants(event) || !chart_.hasBars())
        return false;
    if (event.key() == Qt::Key_Escape) {
        stop();
        Q_EMIT stillChanged();
        return true;
    }
    return hand_ ? keyOfHand(event) : keyOfChosen(event);
}

/// A place so many days on, or so many bars of minutes.
double DrawingPen::barsOn(double place, double bars) const
{
    const charts::BarPlaces& places = chart_.chart().places;
    return chart_.chart().isOfMinutes() ? places.onDays(places.onScale(place) + bars)
                                        : place + bars;
}

/// Arrows move the next point, Return sets it; once more where the last was set it ends a drawing
/// that has enough.
bool DrawingPen::keyOfHand(const QKeyEvent& event)
{
    if (!pointer_) {
        const charts::Chart& chart = chart_.chart();
        const market::Bars& bars = chart.isOfMinutes() ? *chart.bars : *chart.daily;
        const double last = static_cast<double>(bars.size()) - 1.0;
        pointer_ = Point{chart.isOfMinutes() ? chart.places.onDays(last) : last, bars.close.back()};
    }
    if (event.key() == Qt::Key_Backspace) {
        hand_->takeBack();
    } else if (isArrow(event.key())) {
        const QPointF by = stepOf(event);
        pointer_->bar = std::max(barsOn(pointer_->bar, by.x()), 0.0);
        const double y = chart_.pointOf(*pointer_).y() + by.y();
        pointer_->price = std::max(chart_.valueAt(0, y), 1e-9);
    } else {
        const std::size_t before = hand_->pointsSet();
        const bool isAgain =
            hand_->isEnough() && before > 0 && hand_->made().anchors.back() == anchorOf(*pointer_);
        if (isAgain)
            finish();
        else
            setPoint(*pointer_);
    }
    if (hand_)
        hand_->move(anchorOf(*pointer_));
    Q_EMIT movingChanged();
    return true;
}

bool DrawingPen::keyOfChosen(const QKeyEvent& event)
{
    if (isArrow(event.key()))
        moveChosen(stepOf(event).x(), stepOf(event).y());
    else
        Q_EMIT opened();
    return true;
}

void DrawingPen::moveChosen(double bars, double pixels)
{
    const Drawing* own = chosen();
    if (!own || own->isLocked)
        return;
    const market::Bars& daily = *chart_.chart().daily;
    const double at = drawings::placeOf(daily.days, own->anchors.front());
    const double from = own->anchors.front().price;
    const double to = chart_.valueAt(0, chart_.yOf(0, from) + pixels);
    if (to > 0.0)
        Q_EMIT moved(drawings::moved(*own, daily, barsOn(at, bars) - at, from, to));
}

void DrawingPen::paintAll(const ChartPicture& on, QPainter& painter, const Palette& colours,
                          const QFont& font) const
{
    std::vector<QRectF> taken;
    for (const Drawing& drawing : drawings_)
        if (isSeen(drawing))
            DrawingPicture::of(drawing, on, font).paint(painter, colours, taken);
}

std::vector<QRectF> DrawingPen::paintStill(QPainter& painter, const Palette& colours,
                                           const QFont& font) const
{
    std::vector<QRectF> taken;
    for (const Drawing& drawing : drawings_)
        if (isSeen(drawing) && drawing.id != chosen_)
            DrawingPicture::of(drawing, chart_, font).paint(painter, colours, taken);
    return taken;
}

void DrawingPen::paintMoving(QPainter& painter, const Palette& colours, const QFont& font,
                             std::vector<QRectF> taken) const
{
    if (!chart_.hasBars())
        return;
    const auto paint = [&](const Drawing& drawing, bool hasHandles) {
        const DrawingPicture picture = DrawingPicture::of(drawing, chart_, font);
        picture.paint(painter, colours, taken);
        if (hasHandles)
            picture.paintHandles(painter, colours);
        return picture;
    };
    if (drag_)
        paint(drag_->now, true);
    else if (const Drawing* own = chosen())
        paint(*own, true);
    if (hand_)
        paintAsking(painter, colours, font);
    const std::optional<Drawing> shown = hand_ ? hand_->shown() : measure_;
    if (!shown)
        return;
    Drawing drawing = *shown;
    drawing.drawnOn = chart_.chart().daily->days.back();
    const bool isMeasure = isMeasuring_ || measure_;
    if (isMeasure && drawing.anchors.size() == 2) {
        drawing.tool = Tool::Arrow;
        drawing.colour = PalettePart::Ink;
        drawing.text.clear();
    }
    const DrawingPicture picture = paint(drawing, true);
    if (!isMeasure || picture.handles().empty())
        return;
    const QString told = measured();
    const QFontMetricsF metrics(font);
    QRectF box(0.0, 0.0, metrics.horizontalAdvance(told) + 12.0, metrics.height() + 6.0);
    const QRectF& plot = chart_.panes().front().plot;
    box.moveCenter(picture.handles().back() + QPointF(0.0, -metrics.height() - 8.0));
    box.moveLeft(std::clamp(box.left(), plot.left() + 2.0,
                            std::max(plot.left() + 2.0, plot.right() - box.width() - 2.0)));
    box.moveTop(std::max(box.top(), plot.top() + 2.0));
    painter.setFont(font);
    paintNote(painter, box, told, colours);
}

void DrawingPen::paintAsking(QPainter& painter, const Palette& colours, const QFont& font) const
{
    const QRectF& plot = chart_.panes().front().plot;
    const QFontMetricsF metrics(font);
    const QString told =
        metrics.elidedText(asks(), Qt::ElideRight, std::max(plot.width() - 28.0, 0.0));
    const QRectF box(plot.left() + 8.0, plot.top() + 6.0, metrics.horizontalAdvance(told) + 12.0,
                     metrics.height() + 6.0);
    painter.setFont(font);
    paintNote(painter, box, told, colours);
}

/// The distance that is measured, in all the units that are of use.
QString DrawingPen::measured() const
{
    std::optional<Drawing> shown = measure_;
    if (hand_ && isMeasuring_)
        shown = hand_->shown();
    if (!shown || shown->anchors.size() != 2)
        return {};
    const market::Bars& daily = *chart_.chart().daily;
    const auto place = [&](const Anchor& anchor) {
        return Point{drawings::placeOf(daily.days, anchor), anchor.price};
    };
    const drawings::Distance distance =
        drawings::distanceOf(place(shown->anchors[0]), place(shown->anchors[1]), daily);
    const charts::Chart& chart = chart_.chart();
    const double bars = chart.places.onScale(place(shown->anchors[1]).bar) -
                        chart.places.onScale(place(shown->anchors[0]).bar);
    QStringList parts{
        chart.isOfMinutes()
            ? tr("%1 bars of %2 min").arg(numberText(bars, Unit::Plain, 0)).arg(chart.setUp.minutes)
            : tr("%1 sessions").arg(numberText(distance.bars, Unit::Plain, 0)),
        tr("%1 days").arg(distance.days),
        signedText(distance.money, Unit::Money, 2),
        signedText(distance.change, Unit::Percent, 1),
    };
    if (!isMissing(distance.trueRanges))
        parts << tr("%1 true ranges").arg(signedText(distance.trueRanges, Unit::Plain, 1));
    return parts.join(QStringLiteral(" · "));
}

QString DrawingPen::asks() const
{
    if (!hand_)
        return {};
    if (isMeasuring_)
        return hand_->pointsSet() == 0 ? tr("Measure: from where? Esc ends.")
                                       : tr("Measure: to where? Esc ends.");
    return tr("%1. Hold Ctrl to stop snapping to prices. Esc ends.").arg(text(hand_->asks()));
}

} // namespace sieve::app
