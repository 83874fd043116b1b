#include "app/market/state_board.h"

#include "app/look/look.h"
#include "app/parts/number_text.h"

#include <QHelpEvent>
#include <QPainter>
#include <QToolTip>

namespace sieve::app {

namespace {

constexpr int headHeight = 24;
constexpr int rowHeight = 58;
constexpr int titleWidth = 200;
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

StateBoard::StateBoard(QWidget* parent) : QWidget(parent)
{
    setObjectName(QStringLiteral("sheet"));
    setAttribute(Qt::WA_StyledBackground);
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    setAccessibleName(tr("State of the market"));
    setMouseTracking(true);
}

void StateBoard::setReading(std::shared_ptr<const conditions::Reading> reading)
{
    reading_ = std::move(reading);
    updateGeometry();
    update();
}

void StateBoard::setSession(std::size_t session)
{
    session_ = session;
    QStringList said;
    if (reading_)
        for (const conditions::Line& line : reading_->lines)
            for (std::size_t i = 0; i < line.trends.size(); ++i)
                said << tr("%1, %2: %3")
                            .arg(text(line.title),
                                 text(conditions::horizonName(conditions::horizons[i])),
                                 trendWord(line.trends[i].at(session)));
    setAccessibleDescription(said.join(QStringLiteral("; ")));
    update();
}

QSize StateBoard::sizeHint() const
{
    const auto lines = reading_ ? static_cast<int>(reading_->lines.size()) : 2;
    return {900, headHeight + lines * rowHeight + 10};
}

QRect StateBoard::cell(std::size_t line, std::size_t horizon) const
{
    const int width = (this->width() - titleWidth - 16) / 3;
    return {titleWidth + 8 + static_cast<int>(horizon) * width,
            headHeight + static_cast<int>(line) * rowHeight, width - 14, rowHeight};
}

void StateBoard::paintEvent(QPaintEvent* event)
{
    QWidget::paintEvent(event);
    QPainter painter(this);
    if (!reading_)
        return;
    painter.setPen(look().softInk);
    painter.setFont(fontOf(Weight::Regular, 0.92));
    const QString spans[] = {tr("short: the 10-day exponential average"),
                             tr("medium: the 50-day average"), tr("long: the 200-day average")};
    for (std::size_t horizon = 0; horizon < conditions::horizons.size(); ++horizon) {
        const QRect area = cell(0, horizon);
        painter.drawText(QRect(area.left(), 0, area.width(), headHeight),
                         Qt::AlignLeft | Qt::AlignBottom, spans[horizon]);
    }
    for (std::size_t line = 0; line < reading_->lines.size(); ++line) {
        const QRect row = cell(line, 0);
        painter.setPen(look().ink);
        painter.setFont(fontOf(Weight::Medium));
        painter.drawText(QRect(14, row.top() + 9, titleWidth - 14, 22),
                         Qt::AlignLeft | Qt::AlignVCenter, text(reading_->lines[line].title));
        const double level = reading_->lines[line].composite.levels.at(session_);
        const std::size_t before = session_ >= 1 ? session_ - 1 : 0;
        const double change = level / reading_->lines[line].composite.levels.at(before) - 1.0;
        painter.setFont(fontOf(Weight::Regular, 0.92));
        painter.setPen(change < 0.0 ? look().fall : look().rise);
        painter.drawText(
            QRect(14, row.top() + 29, titleWidth - 14, 18), Qt::AlignLeft | Qt::AlignVCenter,
            tr("%1  %2 on the day")
                .arg(numberText(level, Unit::Plain, 1), signedText(change, Unit::Percent, 2)));
        for (std::size_t horizon = 0; horizon < reading_->lines[line].trends.size(); ++horizon)
            paintCell(painter, cell(line, horizon), reading_->lines[line].trends[horizon]);
    }
}

void StateBoard::paintCell(QPainter& painter, const QRect& area,
                           const conditions::TrendHistory& history)
{
    const auto now = history.at(session_);
    painter.setFont(fontOf(Weight::SemiBold, 1.2));
    painter.setPen(trendColour(now));
    const QString word = trendSign(now) + QLatin1Char(' ') + trendWord(now);
    painter.drawText(area.adjusted(0, 8, 0, 0), Qt::AlignLeft | Qt::AlignTop, word);
    const int used = painter.fontMetrics().horizontalAdvance(word) + 10;
    painter.setFont(fontOf(Weight::Regular, 0.92));
    painter.setPen(look().softInk);
    const auto age = static_cast<int>(conditions::ageInSessions(history, session_));
    if (now)
        painter.drawText(area.adjusted(used, 11, 0, 0), Qt::AlignLeft | Qt::AlignTop,
                         age == 1 ? tr("since today") : tr("for %1 sessions").arg(age));

    // The band is what the state was: rising stands high, falling low, sideways in the middle.
    const QRectF band(area.left(), area.top() + 36, area.width(), 12);
    painter.fillRect(band, look().wash(look().rule, 0.35));
    const std::size_t first = session_ + 1 > bandSessions ? session_ + 1 - bandSessions : 0;
    const double step = band.width() / static_cast<double>(bandSessions);
    for (std::size_t session = first; session <= session_; ++session) {
        const auto state = history[session];
        if (!state)
            continue;
        const double x = band.right() - static_cast<double>(session_ + 1 - session) * step;
        const double y = *state == conditions::Trend::Rising    ? band.top()
                         : *state == conditions::Trend::Falling ? band.top() + 6
                                                                : band.top() + 4;
        const double height = *state == conditions::Trend::Sideways ? 4 : 6;
        painter.fillRect(QRectF(x, y, step + 0.6, height), look().wash(trendColour(state), 0.75));
    }
}

bool StateBoard::event(QEvent* event)
{
    if (event->type() == QEvent::ToolTip && reading_) {
        const auto* help = static_cast<QHelpEvent*>(event);
        for (std::size_t line = 0; line < reading_->lines.size(); ++line)
            for (std::size_t horizon = 0; horizon < conditions::horizons.size(); ++horizon)
                if (cell(line, horizon).contains(help->pos())) {
                    const conditions::TrendRule& rule = conditions::trendRules()[horizon];
                    QToolTip::showText(help->globalPos(),
                                       tr("<p style='white-space:pre'>rising:  %1\nfalling: %2\n"
                                          "sideways: neither</p>")
                                           .arg(text(rule.rising).toHtmlEscaped(),
                                                text(rule.falling).toHtmlEscaped()),
                                       this);
                    return true;
                }
        QToolTip::hideText();
        return true;
    }
    return QWidget::event(event);
}

} // namespace sieve::app
