#include "core/market/sessions.h"

#include <algorithm>

namespace sieve::market {

void SessionDays::add(std::span<const Day> days)
{
    if (days.empty())
        return;
    if (traded_.empty())
        first_ = days.front().serial();
    if (days.front().serial() < first_) {
        traded_.insert(traded_.begin(), static_cast<std::size_t>(first_ - days.front().serial()),
                       false);
        first_ = days.front().serial();
    }
    const auto last = static_cast<std::size_t>(days.back().serial() - first_);
    traded_.resize(std::max(traded_.size(), last + 1));
    for (const Day day : days)
        traded_[static_cast<std::size_t>(day.serial() - first_)] = true;
}

std::vector<Day> SessionDays::ascending() const
{
    std::vector<Day> days;
    for (std::size_t i = 0; i < traded_.size(); ++i)
        if (traded_[i])
            days.push_back(Day::fromSerial(first_ + static_cast<std::int32_t>(i)));
    return days;
}

} // namespace sieve::market
