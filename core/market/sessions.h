#pragma once

#include "core/base/day.h"

#include <cstdint>
#include <span>
#include <vector>

namespace sieve::market {

/// Gathers the days on which anything traded, however many instruments tell them.
class SessionDays {
public:
    void add(std::span<const Day> days); ///< ascending
    std::vector<Day> ascending() const;

private:
    std::vector<bool> traded_; ///< from `first_` on, a day each
    std::int32_t first_ = 0;
};

} // namespace sieve::market
