#include "core/expressions/stretches.h"

#include <algorithm>

namespace sieve::expressions {

namespace {

constexpr std::size_t farApart = 256; ///< bars

} // namespace

std::span<const Stretch> Stretches::of(std::size_t instrument)
{
    stretches_.clear();
    const market::Tenure& tenure = market_.tenure(instrument);
    if (tenure.bars == 0 || days_.empty() || days_.back() < tenure.firstBar ||
        tenure.gone <= days_.front())
        return stretches_;
    auto day =
        static_cast<std::size_t>(std::ranges::lower_bound(days_, tenure.firstBar) - days_.begin());
    const std::span<const Day> own = market_.bars(instrument).days;
    // Most questions are about the newest session, where no search is needed.
    auto next =
        tenure.lastBar <= days_[day]
            ? own.size()
            : static_cast<std::size_t>(std::ranges::upper_bound(own, days_[day]) - own.begin());
    for (; day < days_.size() && days_[day] < tenure.gone; ++day) {
        while (next < own.size() && own[next] <= days_[day])
            ++next;
        add(instrument, day, next - 1, own);
    }
    return stretches_;
}

void Stretches::add(std::size_t instrument, std::size_t day, std::size_t bar,
                    std::span<const Day> own)
{
    bars_[day] = static_cast<std::uint32_t>(bar);
    if (!stretches_.empty()) {
        Stretch& last = stretches_.back();
        const bool isNear = bar < last.endBar + farApart;
        if (isNear && !isCut(instrument, last, bar, own)) {
            last.endBar = bar + 1;
            last.endDay = day + 1;
            return;
        }
    }
    stretches_.push_back({market_.footing(instrument, bar), bar, bar + 1, day, day + 1});
}

bool Stretches::isCut(std::size_t instrument, const Stretch& last, std::size_t bar,
                      std::span<const Day> own) const
{
    if (!market_.splits(instrument).empty() && market_.footing(instrument, bar) != last.footing)
        return true;
    return std::ranges::any_of(
        cuts_, [&](Day cut) { return own[last.endBar - 1] < cut && cut <= own[bar]; });
}

} // namespace sieve::expressions
