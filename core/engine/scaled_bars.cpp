#include "core/engine/scaled_bars.h"

#include <algorithm>
#include <chrono>
#include <limits>

namespace sieve::engine {

namespace {

enum Column : std::size_t { Open, High, Low, Close, Volume };
constexpr std::uint32_t none = std::numeric_limits<std::uint32_t>::max();

/// The first day after the week or month in which a day lies.
std::int32_t endOfPeriod(Op op, Day day)
{
    if (op == Op::Weekly) // 1970-01-01 was a Thursday
        return day.serial() + 7 - (day.serial() + 3 + 7'000'000) % 7;
    using namespace std::chrono;
    const year_month month = day.date().year() / day.date().month() + months(1);
    return static_cast<std::int32_t>(sys_days(month / 1).time_since_epoch().count());
}

} // namespace

void ScaledBars::resize(std::size_t bars)
{
    days_.resize(bars, Day::fromSerial(0));
    dailyBars_.resize(bars);
    for (auto& column : columns_)
        column.resize(bars);
}

void ScaledBars::show()
{
    frame_ = daily_;
    frame_.days = days_;
    frame_.dailyBars = dailyBars_;
    for (std::size_t i = 0; i < columns_.size(); ++i)
        frame_.columns.at(i) = columns_.at(i);
}

void ScaledBars::open(const BarFrame& daily, Op op, int minutes, std::size_t dailyEnd)
{
    daily_ = daily;
    ofDaily_.assign(dailyEnd, none);
    if (op == Op::Minutes)
        return openMinutes(minutes, dailyEnd);
    begins_.clear();
    std::int32_t end = std::numeric_limits<std::int32_t>::min();
    for (std::size_t bar = 0; bar < dailyEnd; ++bar) {
        if (daily.days[bar].serial() >= end) {
            begins_.push_back(bar);
            end = endOfPeriod(op, daily.days[bar]);
        }
        ofDaily_[bar] = static_cast<std::uint32_t>(begins_.size() - 1);
    }
    resize(begins_.size());
    begins_.push_back(dailyEnd);
    for (std::size_t i = 0; i < columns_.size(); ++i) {
        dailyColumns_.at(i) = daily.columns.at(i);
        if (!dailyColumns_.at(i).empty() || dailyEnd == 0)
            continue;
        adjusted_.at(i).resize(dailyEnd);
        daily.market->adjusted(daily.instrument, static_cast<market::BarField>(i), daily.footing, 0,
                               adjusted_.at(i));
        dailyColumns_.at(i) = adjusted_.at(i);
    }
    show();
}

std::optional<std::size_t> ScaledBars::barOf(std::size_t dailyBar) const
{
    return ofDaily_[dailyBar] == none ? std::nullopt
                                      : std::optional<std::size_t>(ofDaily_[dailyBar]);
}

void ScaledBars::fill(std::size_t from, std::size_t to)
{
    for (std::size_t bar = from; bar < to; ++bar)
        fillUpTo(bar, begins_[bar + 1] - 1);
}

void ScaledBars::fillUpTo(std::size_t bar, std::size_t dailyBar)
{
    const std::size_t first = begins_[bar];
    double high = dailyColumns_[High][first];
    double low = dailyColumns_[Low][first];
    double volume = dailyColumns_[Volume][first];
    for (std::size_t day = first + 1; day <= dailyBar; ++day) {
        high = std::max(high, dailyColumns_[High][day]);
        low = std::min(low, dailyColumns_[Low][day]);
        volume += dailyColumns_[Volume][day];
    }
    columns_[Open][bar] = dailyColumns_[Open][first];
    columns_[High][bar] = high;
    columns_[Low][bar] = low;
    columns_[Close][bar] = dailyColumns_[Close][dailyBar];
    columns_[Volume][bar] = volume;
    days_[bar] = daily_.days[dailyBar];
    dailyBars_[bar] = static_cast<std::uint32_t>(dailyBar);
}

void ScaledBars::openMinutes(int minutes, std::size_t dailyEnd)
{
    const market::Market& market = *daily_.market;
    const market::MinuteBarsView& bars = market.minuteBars(daily_.instrument);
    const market::Exchange* exchange =
        market.exchange(market.instrument(daily_.instrument).exchange);
    resize(0);
    minutes_.clear();
    std::size_t daily = 0;
    std::optional<Day> day;
    double factor = 1.0;
    std::int64_t opens = 0;
    std::int64_t period = 0;
    for (std::size_t i = 0; i < bars.size(); ++i) {
        const Minute minute = bars.minutes[i];
        const Day own = exchange ? market::localDay(*exchange, minute) : minute.day();
        if (own != day) {
            while (daily < dailyEnd && daily_.days[daily] < own)
                ++daily;
            if (daily == dailyEnd)
                break;
            const auto hours = exchange ? market::sessionHours(*exchange, own) : std::nullopt;
            opens = hours ? hours->opens.serial() : 0;
            factor = market.priceFactor(daily_.instrument, own, daily_.footing);
        }
        if (daily_.days[daily] != own)
            continue; // minutes of a day that has no daily bar
        const std::int64_t since = minute.serial() - opens;
        const std::int64_t ownPeriod = (since - (since < 0 ? minutes - 1 : 0)) / minutes;
        const double volume = bars.volume[i] / factor;
        if (own != day || ownPeriod != period) {
            days_.push_back(own);
            minutes_.push_back(
                Minute::fromSerial(static_cast<std::int32_t>(opens + ownPeriod * minutes)));
            dailyBars_.push_back(static_cast<std::uint32_t>(daily));
            columns_[Open].push_back(bars.open[i] * factor);
            columns_[High].push_back(bars.high[i] * factor);
            columns_[Low].push_back(bars.low[i] * factor);
            columns_[Close].push_back(bars.close[i] * factor);
            columns_[Volume].push_back(volume);
        } else {
            columns_[High].back() = std::max(columns_[High].back(), bars.high[i] * factor);
            columns_[Low].back() = std::min(columns_[Low].back(), bars.low[i] * factor);
            columns_[Close].back() = bars.close[i] * factor;
            columns_[Volume].back() += volume;
        }
        ofDaily_[daily] = static_cast<std::uint32_t>(days_.size() - 1);
        day = own;
        period = ownPeriod;
    }
    show();
}

} // namespace sieve::engine
