#include "core/indicators/true_range.h"

#include "core/base/require.h"
#include "core/indicators/recursive_average.h"

#include <algorithm>

namespace sieve::indicators {

void trueRange(std::span<const double> highs, std::span<const double> lows,
               std::span<const double> closes, std::span<double> range)
{
    require(highs.size() == range.size() && lows.size() == range.size() &&
                closes.size() == range.size(),
            "trueRange: sizes differ");
    for (std::size_t bar = 0; bar < range.size(); ++bar) {
        const double prior = bar == 0 ? missing : closes[bar - 1];
        const bool known = !isMissing(prior) && !isMissing(highs[bar]) && !isMissing(lows[bar]);
        range[bar] = known ? std::max(highs[bar], prior) - std::min(lows[bar], prior) : missing;
    }
}

void averageTrueRange(std::span<const double> highs, std::span<const double> lows,
                      std::span<const double> closes, int period, std::span<double> average)
{
    require(period >= 1, "averageTrueRange: period below 1");
    trueRange(highs, lows, closes, average);
    RecursiveAverage state = RecursiveAverage::wilder(period);
    for (double& each : average)
        each = state.step(each);
}

} // namespace sieve::indicators
