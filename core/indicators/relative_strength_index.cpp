#include "core/indicators/relative_strength_index.h"

#include "core/base/require.h"
#include "core/indicators/recursive_average.h"

#include <algorithm>

namespace sieve::indicators {

void relativeStrengthIndex(std::span<const double> closes, int period, std::span<double> rsi)
{
    require(period >= 1, "relativeStrengthIndex: period below 1");
    require(closes.size() == rsi.size(), "relativeStrengthIndex: sizes differ");
    RecursiveAverage gains = RecursiveAverage::wilder(period);
    RecursiveAverage losses = RecursiveAverage::wilder(period);
    for (std::size_t bar = 0; bar < closes.size(); ++bar) {
        const double change = bar == 0 ? missing : closes[bar] - closes[bar - 1];
        const bool known = !isMissing(change);
        const double gain = gains.step(known ? std::max(change, 0.0) : missing);
        const double loss = losses.step(known ? std::max(-change, 0.0) : missing);
        rsi[bar] = 100.0 * gain / (gain + loss); // before the first move 0 / 0: missing
    }
}

} // namespace sieve::indicators
