#include "core/expressions/stretches.h"

#include <algorithm>
#include <cstring>

namespace sieve::expressions {

namespace {

constexpr std::size_t farApart = 256; ///< bars
constexpr std::size_t together = 32;  ///< days that are compared at once

bool areEqual(const Day* a, const Day* b)
{
    return std::memcmp(a, b, together * sizeof(Day)) == 0; // a day is its serial
}

} // namespace

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
    for (std::size_t i = 0; i < breaks_.size(); ++i) {
        const std::size_t next = i + 1 < breaks_.size() ? breaks_[i + 1] : end;
        const std::size_t bar = bars_[breaks_[i]];
        stretches_.push_back(
            {market_.footing(instrument, bar), bar, bars_[next - 1] + 1U, breaks_[i], next});
    }
    return stretches_;
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
    std::uint32_t* const bars = bars_.data();
    for (std::size_t day = first + 1; day < end;) {
        if (day + together <= end && next + together <= own.size() &&
            areEqual(own.data() + next, days_.data() + day)) {
            for (std::size_t i = 0; i < together; ++i)
                bars[day + i] = static_cast<std::uint32_t>(next + i);
            day += together;
            next += together;
            continue;
        }
        while (next < own.size() && own[next] <= days_[day])
            ++next;
        bars[day++] = static_cast<std::uint32_t>(next - 1);
    }
}

/// The places of the days on which a stretch begins.
void Stretches::findBreaks(std::size_t instrument, std::span<const Day> own, std::size_t first,
                           std::size_t end)
{
    breaks_.assign(1, first);
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
    std::uint32_t widest = 0;
    for (std::size_t i = 1; i < bars.size(); ++i)
        widest = std::max(widest, bars[i] - bars[i - 1]);
    for (std::size_t day = first + 1; widest > farApart && day < end; ++day)
        if (bars_[day] - bars_[day - 1] > farApart)
            breaks_.push_back(day);
    std::ranges::sort(breaks_);
    breaks_.erase(std::unique(breaks_.begin(), breaks_.end()), breaks_.end());
}

} // namespace sieve::expressions
