#pragma once

#include <array>
#include <string>
#include <string_view>

namespace sieve::valuation {

/// The five sides from which a stock is scored: a percentile each among all stocks of the day, by a
/// field of the dictionary whose formula says of what.
struct ScoreSide {
    std::string_view name;  ///< "value"
    std::string_view field; ///< "value_percentile"
};
inline constexpr std::array scoreSides{
    ScoreSide{"value", "value_percentile"}, ScoreSide{"quality", "quality_percentile"},
    ScoreSide{"growth", "growth_percentile"}, ScoreSide{"momentum", "strength_blend"},
    ScoreSide{"steadiness", "steadiness_percentile"}};

/// What each side counts; a side with 0 does not.
using ScoreWeights = std::array<double, scoreSides.size()>;
inline constexpr ScoreWeights equalWeights{1.0, 1.0, 1.0, 1.0, 1.0};

/// The blend as an expression of the language: the weighted mean of the sides that are known.
/// Missing:  where none is known. Requires: no negative weight, not all 0.
std::string blendOf(const ScoreWeights& weights);

} // namespace sieve::valuation
