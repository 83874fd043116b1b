#pragma once

namespace sieve::engine {

/// How many days ahead the calendar's dates are taken as announced.
inline constexpr int announcedDays = 100;

} // namespace sieve::engine
