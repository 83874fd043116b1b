#include "core/charts/bar_scale.h"

#include "core/base/missing.h"
#include "core/charts/ticks.h"

#include <algorithm>

namespace sieve::charts {

namespace {

/// Whether a bar begins with a day, of which `before` is the one before.
bool beginsBar(BarScale scale, Day day, Day before)
{
    return scale == BarScale::Day ||
           begins(scale == BarScale::Week ? CalendarStep::Week : CalendarStep::Month, day, before);
}

/// `pick` of those of two that are known.
template <class Pick> double ofKnown(double a, double b, Pick pick)
{
    return isMissing(a) ? b : isMissing(b) ? a : pick(a, b);
}

} // namespace

std::vector<std::size_t> barEnds(std::span<const Day> days, BarScale scale)
{
    std::vector<std::size_t> ends;
    for (std::size_t day = 0; day < days.size(); ++day)
        if (day + 1 == days.size() || beginsBar(scale, days[day + 1], days[day]))
            ends.push_back(day);
    return ends;
}

BarPlaces::BarPlaces(std::span<const std::size_t> ends, BarScale scale)
    : sessionsABar_(scale == BarScale::Month  ? 21.0
                    : scale == BarScale::Week ? 5.0
                                              : 1.0)
{
    if (ends.empty())
        return;
    edges_.push_back(-0.5);
    for (const std::size_t end : ends)
        edges_.push_back(static_cast<double>(end) + 0.5);
}

BarPlaces::BarPlaces(std::span<const std::uint32_t> ofDays, std::span<const double> shares)
{
    if (ofDays.empty())
        return;
    edges_.push_back(static_cast<double>(ofDays.front()) - 0.5);
    for (std::size_t bar = 0; bar < ofDays.size(); ++bar)
        edges_.push_back(static_cast<double>(ofDays[bar]) - 0.5 + shares[bar]);
    std::size_t sessions = 1;
    for (std::size_t bar = 1; bar < ofDays.size(); ++bar)
        sessions += ofDays[bar] != ofDays[bar - 1] ? 1 : 0;
    sessionsABar_ = static_cast<double>(sessions) / static_cast<double>(ofDays.size());
}

double BarPlaces::onScale(double daily) const
{
    if (daily <= edges_.front())
        return -0.5 + (daily - edges_.front()) / sessionsABar_;
    if (daily >= edges_.back())
        return static_cast<double>(edges_.size()) - 1.5 + (daily - edges_.back()) / sessionsABar_;
    const auto right = std::ranges::upper_bound(edges_, daily);
    const double left = *std::prev(right);
    return static_cast<double>(right - edges_.begin()) - 1.5 + (daily - left) / (*right - left);
}

double BarPlaces::onDays(double place) const
{
    const double last = static_cast<double>(edges_.size()) - 1.5;
    if (place <= -0.5)
        return edges_.front() + (place + 0.5) * sessionsABar_;
    if (place >= last)
        return edges_.back() + (place - last) * sessionsABar_;
    const auto bar = static_cast<std::size_t>(place + 0.5);
    return edges_[bar] + (place + 0.5 - static_cast<double>(bar)) * (edges_[bar + 1] - edges_[bar]);
}

std::vector<double> sessionShares(const market::Exchange* exchange, std::span<const Minute> begins,
                                  std::span<const Day> days, int minutes)
{
    std::vector<double> shares(begins.size());
    for (std::size_t first = 0; first < begins.size();) {
        std::size_t end = first;
        while (end < begins.size() && days[end] == days[first])
            ++end;
        const auto hours = exchange ? market::sessionHours(*exchange, days[first]) : std::nullopt;
        const int opens = hours ? hours->opens.serial() : 0;
        const double length = hours ? hours->closes.serial() - opens : 0.0;
        double before = 0.0;
        for (std::size_t bar = first; bar < end; ++bar) {
            const double byCount =
                static_cast<double>(bar - first + 1) / static_cast<double>(end - first);
            double share = byCount;
            if (length > 0.0) // what trades outside of the hours keeps some room at the edges
                share = std::clamp((begins[bar].serial() + minutes - opens) / length,
                                   1e-6 * static_cast<double>(bar - first + 1),
                                   1.0 - 1e-6 * static_cast<double>(end - bar - 1));
            before = shares[bar] = std::max(share, before + 1e-9);
        }
        first = end;
    }
    return shares;
}

std::vector<int> clockOf(const market::Exchange* exchange, std::span<const Minute> begins,
                         std::span<const Day> days)
{
    std::vector<int> clock;
    clock.reserve(begins.size());
    std::optional<market::SessionHours> hours;
    for (std::size_t bar = 0; bar < begins.size(); ++bar) {
        if (exchange && (bar == 0 || days[bar] != days[bar - 1]))
            hours = market::sessionHours(*exchange, days[bar]);
        clock.push_back(hours ? *exchange->opensAt + begins[bar].serial() - hours->opens.serial()
                              : begins[bar].minuteOfDay());
    }
    return clock;
}

market::Bars barsOfScale(const market::Bars& daily, std::span<const std::size_t> ends)
{
    market::Bars bars;
    bars.reserve(ends.size());
    std::size_t first = 0;
    for (const std::size_t end : ends) {
        market::Bar bar = daily.at(first);
        for (std::size_t day = first + 1; day <= end; ++day) {
            const market::Bar next = daily.at(day);
            bar.day = next.day;
            bar.open = isMissing(bar.open) ? next.open : bar.open;
            bar.high =
                ofKnown(bar.high, next.high, [](double a, double b) { return std::max(a, b); });
            bar.low = ofKnown(bar.low, next.low, [](double a, double b) { return std::min(a, b); });
            bar.close = isMissing(next.close) ? bar.close : next.close;
            bar.volume = ofKnown(bar.volume, next.volume, [](double a, double b) { return a + b; });
        }
        bars.add(bar);
        first = end + 1;
    }
    return bars;
}

} // namespace sieve::charts
