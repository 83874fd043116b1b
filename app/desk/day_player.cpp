#include "app/desk/day_player.h"

#include "app/desk/focus.h"
#include "app/desk/open_market.h"

#include <QLocale>
#include <algorithm>
#include <array>
#include <cmath>

namespace sieve::app {

namespace {

constexpr std::array paces{0.25, 0.5, 1.0, 2.0, 5.0, 10.0}; ///< sessions a second
constexpr int usualPace = 2;

} // namespace

DayPlayer::DayPlayer(OpenMarket& market, Focus& focus, QObject* parent)
    : QObject(parent), focus_(focus), pace_(usualPace)
{
    connect(&timer_, &QTimer::timeout, this, &DayPlayer::step);
    connect(&market, &OpenMarket::opened, this, &DayPlayer::stop);
}

QString DayPlayer::pace() const
{
    return tr("%1 sessions a second")
        .arg(QLocale(QLocale::English).toString(paces[static_cast<std::size_t>(pace_)]));
}

int DayPlayer::interval() const
{
    return static_cast<int>(std::lround(1000.0 / paces[static_cast<std::size_t>(pace_)]));
}

void DayPlayer::toggle()
{
    if (isPlaying())
        return stop();
    if (focus_.isLatest())
        return Q_EMIT told(
            tr("This is the latest session. Choose a past day first; from there it goes forward."));
    timer_.start(interval());
    Q_EMIT changed();
}

void DayPlayer::stop()
{
    if (!isPlaying())
        return;
    timer_.stop();
    Q_EMIT changed();
}

void DayPlayer::changePace(int by)
{
    pace_ = std::clamp(pace_ + by, 0, static_cast<int>(paces.size()) - 1);
    if (isPlaying())
        timer_.start(interval());
    Q_EMIT told(pace());
    Q_EMIT changed();
}

void DayPlayer::step()
{
    focus_.stepSessions(1);
    if (focus_.isLatest())
        stop();
}

} // namespace sieve::app
