#include "core/engine/stretches.h"

#include <algorithm>
#include <numeric>

namespace sieve::engine {

namespace {

constexpr std::size_t farApart = 256; ///< bars
constexpr std::size_t together = 32;  ///< days that are compared at once

/// Whether the days are sessions of the market, none left out between them.
bool areInARow(std::span<const Day> days, std::span<const Day> sessions)
{
    if (days.empty())
        return true;
    const auto first = std::ranges::lower_bound(sessions, days.front());
    return static_cast<std::size_t>(sessions.end() - first) >= days.size() &&
           std::ranges::equal(days, std::span(first, days.size()));
}

} // namespace

Stretches::Stretches(const market::Market& market, std::span<const Day> days,
                     std::span<const Day> cuts)
    : market_(market), days_(days), cuts_(cuts), areInARow_(areInARow(days, market.sessions())),
      bars_(days.size())
{
}

/// Whether each of so many days has a bar, `bars` being those from the first day's on.
bool Stretches::areEqual(std::span<const Day> bars, std::span<const Day> days) const
{
    if (bars.front() != days.front() || bars.back() != days.back())
        return false;
    return areInARow_ || std::ranges::equal(bars, days); // so many sessions, so many bars
}

std::span<const Stretch> Stretches::of(std::size_t instrument)
{
    stretches_.clear();
    const market::Tenure& tenure = market_.tenure(instrument);
    if (tenure.bars == 0 || days_.empty() || days_.back() < tenure.firstBar ||
        tenure.gone <= days_.front())
        return stretches_;
    const auto placeOf = [this](Day day) {
        return static_cast<std::size_t>(std::ranges::lower_bound(days_, day) - days_.begin());
    };
    const std::size_t first = placeOf(tenure.firstBar);
    const std::size_t end = tenure.gone > days_.back() ? days_.size() : placeOf(tenure.gone);
    if (first == end)
        return stretches_;
    const std::span<const Day> own = market_.bars(instrument).days;
    findBars(own, tenure, first, end);
    findBreaks(instrument, own, first, end);
    auto idle = idle_.begin();
    for (std::size_t i = 0; i < breaks_.size(); ++i) {
        std::size_t from = breaks_[i];
        const std::size_t next = i + 1 < breaks_.size() ? breaks_[i + 1] : end;
        for (; idle != idle_.end() && *idle < next; ++idle) { // what lies between is left out
            addStretch(instrument, from, *idle);
            from = *idle + 1;
        }
        addStretch(instrument, from, next);
    }
    return stretches_;
}

void Stretches::addStretch(std::size_t instrument, std::size_t from, std::size_t to)
{
    if (from < to)
        stretches_.push_back(
            {market_.footing(instrument, bars_[from]), bars_[from], bars_[to - 1] + 1U, from, to});
}

void Stretches::noteIdle(Day newestBar, std::size_t day)
{
    if (newestBar != days_[day] && market_.isIdleTooLong(newestBar, days_[day]))
        idle_.push_back(day);
}

/// The newest bar by each of days [first, end).
void Stretches::findBars(std::span<const Day> own, const market::Tenure& tenure, std::size_t first,
                         std::size_t end)
{
    // Most questions are about the newest session, where no search is needed.
    auto next =
        tenure.lastBar <= days_[first]
            ? own.size()
            : static_cast<std::size_t>(std::ranges::upper_bound(own, days_[first]) - own.begin());
    bars_[first] = static_cast<std::uint32_t>(next - 1);
    widest_ = 0;
    idle_.clear();
    noteIdle(own[next - 1], first);
    for (std::size_t day = first + 1; day < end;) {
        std::size_t count = std::min(end - day, own.size() - next);
        if (count > 0 && !areEqual(own.subspan(next, count), days_.subspan(day, count)))
            count = count >= together &&
                            areEqual(own.subspan(next, together), days_.subspan(day, together))
                        ? together
                        : 0;
        std::iota(&bars_[day], &bars_[day] + count, static_cast<std::uint32_t>(next));
        day += count;
        next += count;
        if (count > 0 || day == end)
            continue;
        while (next < own.size() && own[next] <= days_[day])
            ++next;
        bars_[day] = static_cast<std::uint32_t>(next - 1);
        noteIdle(own[next - 1], day);
        widest_ = std::max(widest_, bars_[day] - bars_[day - 1]);
        ++day;
    }
}

/// The places of the days on which a stretch begins.
void Stretches::findBreaks(std::size_t instrument, std::span<const Day> own, std::size_t first,
                           std::size_t end)
{
    breaks_.assign(1, first);
    if (end - first == 1)
        return;
    const auto bars = std::span(bars_).subspan(first, end - first);
    const auto breakAt = [&](Day cut) {
        const auto bar =
            static_cast<std::uint32_t>(std::ranges::lower_bound(own, cut) - own.begin());
        const std::size_t day =
            first + static_cast<std::size_t>(std::ranges::lower_bound(bars, bar) - bars.begin());
        if (day < end)
            breaks_.push_back(day);
    };
    for (const market::Split& split : market_.splits(instrument))
        breakAt(split.exDate);
    for (const Day cut : cuts_)
        breakAt(cut);
    for (std::size_t day = first + 1; widest_ > farApart && day < end; ++day)
        if (bars_[day] - bars_[day - 1] > farApart)
            breaks_.push_back(day);
    std::ranges::sort(breaks_);
    breaks_.erase(std::unique(breaks_.begin(), breaks_.end()), breaks_.end());
}

} // namespace sieve::engine
