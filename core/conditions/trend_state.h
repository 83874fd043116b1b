#pragma once

#include "core/market/composite.h"

#include <array>
#include <cstddef>
#include <optional>
#include <string_view>
#include <vector>

namespace sieve::conditions {

enum class Trend { Rising, Sideways, Falling };
enum class Horizon { Short, Medium, Long };
inline constexpr std::array horizons{Horizon::Short, Horizon::Medium, Horizon::Long};

std::string_view trendName(Trend trend);       ///< "rising", "sideways", "falling"
std::string_view horizonName(Horizon horizon); ///< "short", "medium", "long"

/// When a line counts as rising or falling over a horizon: two conditions of the language. Where
/// neither holds it goes sideways.
struct TrendRule {
    Horizon horizon;
    std::string_view rising;
    std::string_view falling;
};

std::span<const TrendRule> trendRules();

/// The state on each session of a line; empty until there are bars enough to say. A state is made
/// of what was known on its day and never changes in hindsight.
using TrendHistory = std::vector<std::optional<Trend>>;
TrendHistory trendHistory(const market::Composite& line, const TrendRule& rule);

/// For how many sessions, up to `session`, the state has been what it is then; 0 where there is
/// none.
std::size_t ageInSessions(const TrendHistory& history, std::size_t session);

} // namespace sieve::conditions
