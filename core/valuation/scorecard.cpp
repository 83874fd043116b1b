#include "core/valuation/scorecard.h"

#include "core/base/require.h"

#include <algorithm>
#include <fmt/format.h>

namespace sieve::valuation {

std::string blendOf(const ScoreWeights& weights)
{
    require(std::ranges::all_of(weights, [](double weight) { return weight >= 0.0; }) &&
                std::ranges::any_of(weights, [](double weight) { return weight > 0.0; }),
            "blendOf: no such weights");
    std::string sum;
    std::string total;
    for (std::size_t i = 0; i < weights.size(); ++i) {
        if (weights[i] == 0.0)
            continue;
        const std::string_view plus = sum.empty() ? "" : " + ";
        sum += fmt::format("{}{} * or_else({}, 0)", plus, weights[i], scoreSides[i].field);
        total += fmt::format("{}if(known({}), {}, 0)", plus, scoreSides[i].field, weights[i]);
    }
    return fmt::format("({}) / ({})", sum, total);
}

} // namespace sieve::valuation
