#include "app/market/state_board.h"

#include "app/look/look.h"
#include "app/parts/actions.h"
#include "app/parts/number_text.h"

#include <QHelpEvent>
#include <QPainter>
#include <QToolTip>
#include <algorithm>

namespace sieve::app {

namespace {

constexpr int headHeight = 22;
constexpr int rowHeight = 38;
constexpr std::size_t bandSessions = 250;

} // namespace

QColor trendColour(std::optional<conditions::Trend> trend)
{
    if (!trend)
        return look().softInk;
    switch (*trend) {
    case conditions::Trend::Rising:
        return look().rise;
    case conditions::Trend::Falling:
        return look().fall;
    case conditions::Trend::Sideways:
        break;
    }
    return look().softInk;
}

QString trendSign(std::optional<conditions::Trend> trend)
{
    if (!trend)
        return missingText;
    return *trend == conditions::Trend::Rising    ? QStringLiteral("▲")
           : *trend == conditions::Trend::Falling ? QStringLiteral("▼")
                                                  : QStringLiteral("■");
}

QString trendWord(std::optional<conditions::Trend> trend)
{
    return trend ? text(conditions::trendName(*trend)) : StateBoard::tr("too early to say");
}

void paintTrendBand(QPainter& painter, const QRectF& area, const conditions::TrendHistory& history,
                    std::size_t lastBar, std::size_t bars)
{
    painter.fillRect(area, look().wash(look().rule, 0.35));
    const double step = area.width() / static_cast<double>(bars);
    const std::size_t first = lastBar + 1 > bars ? lastBar + 1 - bars : 0;
    for (std::size_t bar = first; bar <= lastBar && bar < history.size(); ++bar) {
        const auto state = history[bar];
        if (!state)
            continue;
        const double x = area.right() - static_cast<double>(lastBar + 1 - bar) * step;
        const double half = area.height() / 2.0;
        const double y = *state == conditions::Trend::Rising    ? area.top()
                         : *state == conditions::Trend::Falling ? area.top() + half
                                                                : area.top() + half * 0.67;
        const double height = *state == conditions::Trend::Sideways ? half * 0.67 : half;
        painter.fillRect(QRectF(x, y, step + 0.6, height), look().wash(trendColour(state), 0.75));
    }
}

StateBoard::StateBoard(QWidget* parent) : QWidget(parent)
{
    setContextMenuPolicy(Qt::ActionsContextMenu);
    const ActionId edits[] = {ActionId::EditShortRule, ActionId::EditMediumRule,
                              ActionId::EditLongRule};
    for (std::size_t i = 0; i < std::size(edits); ++i)
        makeAction(this, edits[i], [this, i] { Q_EMIT ruleWanted(i); });
    setObjectName(QStringLiteral("sheet"));
    setAttribute(Qt::WA_StyledBackground);
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    setAccessibleName(tr("State of the market"));
    setMouseTracking(true);
    setFocusPolicy(Qt::StrongFocus);
}

void StateBoard::setReading(std::shared_ptr<const conditions::Reading> reading)
{
    reading_ = std::move(reading);
    draft_.reset();
    line_ = std::min(line_, reading_->lines.size() - 1);
    describe();
    updateGeometry();
    update();
}

void StateBoard::setDay(Day day)
{
    day_ = day;
    describe();
    update();
}

void StateBoard::setLine(std::size_t line)
{
    if (!reading_ || line >= reading_->lines.size() || line == line_)
        return;
    line_ = line;
    draft_.reset();
    update();
    Q_EMIT lineChosen(line);
}

void StateBoard::setDraft(std::size_t horizon,
                          std::shared_ptr<const conditions::TrendReading> draft)
{
    draftHorizon_ = horizon;
    draft_ = std::move(draft);
    update();
}

const conditions::TrendHistory& StateBoard::history(std::size_t line, std::size_t horizon) const
{
    if (draft_ && line == line_ && horizon == draftHorizon_)
        return draft_->history;
    return reading_->lines[line].trends[horizon].history;
}

/// What a screen reader says.
void StateBoard::describe()
{
    QStringList said;
    if (reading_)
        for (const conditions::LineReading& read : reading_->lines) {
            const auto bar = read.line.barBy(day_);
            for (std::size_t i = 0; i < read.trends.size(); ++i) {
                const conditions::TrendHistory& history = read.trends[i].history;
                const auto state = bar && *bar < history.size()
                                       ? history[*bar]
                                       : std::optional<conditions::Trend>();
                said << tr("%1, %2: %3")
                            .arg(text(read.line.title),
                                 text(conditions::horizonName(conditions::horizons[i])),
                                 trendWord(state));
            }
        }
    setAccessibleDescription(said.join(QStringLiteral("; ")));
}

QSize StateBoard::sizeHint() const
{
    const auto lines = reading_ ? static_cast<int>(reading_->lines.size()) : 3;
    return {760, headHeight + lines * rowHeight + 6};
}

int StateBoard::titleWidth() const
{
    return width() < 560 ? 150 : 196;
}

QRect StateBoard::rowArea(std::size_t line) const
{
    return {1, headHeight + static_cast<int>(line) * rowHeight, width() - 2, rowHeight};
}

QRect StateBoard::cell(std::size_t line, std::size_t horizon) const
{
    const int width = (this->width() - titleWidth() - 12) / 3;
    const QRect row = rowArea(line);
    return {titleWidth() + 6 + static_cast<int>(horizon) * width, row.top(), width - 10, rowHeight};
}

std::optional<std::size_t> StateBoard::lineAt(const QPoint& at) const
{
    for (std::size_t line = 0; reading_ && line < reading_->lines.size(); ++line)
        if (rowArea(line).contains(at))
            return line;
    return std::nullopt;
}

std::optional<std::size_t> StateBoard::horizonAt(const QPoint& at) const
{
    for (std::size_t horizon = 0; horizon < 3; ++horizon)
        if (at.x() >= cell(0, horizon).left() && at.x() <= cell(0, horizon).right())
            return horizon;
    return std::nullopt;
}

void StateBoard::paintEvent(QPaintEvent* event)
{
    QWidget::paintEvent(event);
    QPainter painter(this);
    if (!reading_)
        return;
    painter.setFont(fontOf(Weight::Regular, 0.92));
    painter.setPen(look().softInk);
    painter.drawText(QRect(14, 0, titleWidth() - 20, headHeight), Qt::AlignLeft | Qt::AlignBottom,
                     tr("state, for so many sessions"));
    const QString heads[] = {tr("short: days"), tr("medium: weeks"), tr("long: months")};
    for (std::size_t horizon = 0; horizon < 3; ++horizon) {
        painter.setPen(look().softInk);
        painter.drawText(QRect(cell(0, horizon).left(), 0, cell(0, horizon).width(), headHeight),
                         Qt::AlignLeft | Qt::AlignBottom, heads[horizon]);
    }
    for (std::size_t line = 0; line < reading_->lines.size(); ++line)
        paintRow(painter, line);
}

void StateBoard::paintRow(QPainter& painter, std::size_t at)
{
    const conditions::LineReading& read = reading_->lines[at];
    const QRect row = rowArea(at);
    if (at == line_) {
        painter.fillRect(row, look().wash(look().mark, 0.10));
        painter.fillRect(QRect(row.left(), row.top(), 3, row.height()), look().mark);
    }
    const auto text = [&](const QRect& area, const QString& words) {
        painter.drawText(area, Qt::AlignLeft | Qt::AlignVCenter,
                         painter.fontMetrics().elidedText(words, Qt::ElideRight, area.width()));
    };
    painter.setPen(look().ink);
    painter.setFont(fontOf(Weight::Medium));
    text({14, row.top() + 3, titleWidth() - 20, 18}, app::text(read.line.title));
    painter.setFont(fontOf(Weight::Regular, 0.92));
    const auto bar = read.line.barBy(day_);
    if (!bar) {
        painter.setPen(look().softInk);
        return text({14, row.top() + 20, titleWidth() - 20, 16}, tr("no data by this day"));
    }
    const double close = read.line.bars().close[*bar];
    const double level = close * read.line.scaleOn(day_);
    const double change = *bar > 0 ? close / read.line.bars().close[*bar - 1] - 1.0 : missing;
    painter.setPen(look().softInk);
    const QString figure = numberText(level, Unit::Plain, 1);
    text({14, row.top() + 20, titleWidth() - 20, 16}, figure);
    const int used = painter.fontMetrics().horizontalAdvance(figure) + 10;
    painter.setPen(change < 0.0 ? look().fall : look().rise);
    text({14 + used, row.top() + 20, titleWidth() - 20 - used, 16},
         signedText(change, Unit::Percent, 2));
    for (std::size_t horizon = 0; horizon < 3; ++horizon)
        paintCell(painter, cell(at, horizon), *bar, history(at, horizon));
    if (hasFocus() && at == line_) {
        painter.setPen(QPen(look().mark, 1.0));
        painter.drawRect(cell(at, horizon_).adjusted(-5, 2, 4, -3));
    }
}

void StateBoard::paintCell(QPainter& painter, const QRect& area, std::size_t bar,
                           const conditions::TrendHistory& history)
{
    const auto now = bar < history.size() ? history[bar] : std::optional<conditions::Trend>();
    painter.setFont(fontOf(Weight::SemiBold, 1.1));
    painter.setPen(trendColour(now));
    const QString word = trendSign(now) + QLatin1Char(' ') + trendWord(now);
    const QRect line(area.left(), area.top() + 3, area.width(), 20);
    painter.drawText(line, Qt::AlignLeft | Qt::AlignVCenter, word);
    const int used = painter.fontMetrics().horizontalAdvance(word) + 8;
    painter.setFont(fontOf(Weight::Regular, 0.92));
    const auto bars = static_cast<int>(conditions::ageInBars(history, bar));
    const QString age = !now ? QString() : bars == 1 ? tr("new") : tr("for %1").arg(bars);
    painter.setPen(look().softInk);
    if (used + painter.fontMetrics().horizontalAdvance(age) <= area.width())
        painter.drawText(line.adjusted(used, 1, 0, 1), Qt::AlignLeft | Qt::AlignVCenter, age);
    paintTrendBand(painter, QRectF(area.left(), area.top() + 26, area.width(), 8), history, bar,
                   bandSessions);
}

void StateBoard::mousePressEvent(QMouseEvent* event)
{
    if (const auto horizon = horizonAt(event->pos()))
        horizon_ = *horizon;
    if (const auto line = lineAt(event->pos()))
        setLine(*line);
    update();
}

void StateBoard::mouseDoubleClickEvent(QMouseEvent* event)
{
    if (const auto horizon = horizonAt(event->pos()))
        Q_EMIT ruleWanted(*horizon);
}

void StateBoard::keyPressEvent(QKeyEvent* event)
{
    switch (event->key()) {
    case Qt::Key_Up:
        return setLine(line_ > 0 ? line_ - 1 : 0);
    case Qt::Key_Down:
        return setLine(line_ + 1);
    case Qt::Key_Left:
        horizon_ = horizon_ > 0 ? horizon_ - 1 : 0;
        return update();
    case Qt::Key_Right:
        horizon_ = std::min<std::size_t>(horizon_ + 1, 2);
        return update();
    case Qt::Key_Return:
    case Qt::Key_Enter:
        Q_EMIT ruleWanted(horizon_);
        return;
    default:
        QWidget::keyPressEvent(event);
    }
}

/// The rule, and the newest changes with their days.
QString StateBoard::tipOf(std::size_t line, std::size_t horizon) const
{
    const conditions::TrendRule& rule = reading_->book.trends[horizon];
    QStringList lines;
    const auto add = [&](const QString& what, const std::string& condition) {
        if (!condition.empty())
            lines << what + text(condition).toHtmlEscaped();
    };
    add(tr("rising:  "), rule.rising);
    add(tr("   ends: "), rule.risingEnds);
    add(tr("falling: "), rule.falling);
    add(tr("   ends: "), rule.fallingEnds);
    const conditions::Line& shown = reading_->lines[line].line;
    const auto bar = shown.barBy(day_);
    const auto changes = bar ? conditions::changesOf(history(line, horizon), *bar)
                             : std::vector<conditions::TrendChange>();
    for (std::size_t i = 0; i < std::min<std::size_t>(changes.size(), 5); ++i)
        lines << tr("%1 on %2")
                     .arg(trendWord(changes[i].now),
                          shortDayText(shown.bars().days[changes[i].bar]));
    lines << tr("A double click edits the rule");
    return QStringLiteral("<p style='white-space:pre'>%1</p>").arg(lines.join(u'\n'));
}

bool StateBoard::event(QEvent* event)
{
    if (event->type() == QEvent::ToolTip && reading_) {
        const auto* help = static_cast<QHelpEvent*>(event);
        const auto line = lineAt(help->pos());
        const auto horizon = horizonAt(help->pos());
        if (line && horizon)
            QToolTip::showText(help->globalPos(), tipOf(*line, *horizon), this);
        else
            QToolTip::hideText();
        return true;
    }
    return QWidget::event(event);
}

} // namespace sieve::app
