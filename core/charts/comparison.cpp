#include "core/charts/comparison.h"

#include "core/base/missing.h"

#include <algorithm>

namespace sieve::charts {

namespace {

double firstKnown(std::span<const double> values, std::size_t first, std::size_t end)
{
    for (std::size_t bar = first; bar < std::min(end, values.size()); ++bar)
        if (!isMissing(values[bar]))
            return values[bar];
    return missing;
}

} // namespace

double changeInSight(std::span<const double> values, std::size_t first, std::size_t end,
                     std::size_t bar)
{
    return bar < values.size() ? values[bar] / firstKnown(values, first, end) - 1.0 : missing;
}

std::vector<double> fromFirstClose(std::span<const double> values, std::span<const double> closes,
                                   std::size_t first, std::size_t end)
{
    const double factor = closes[first] / firstKnown(values, first, end);
    std::vector<double> drawn(values.begin(), values.end());
    for (double& value : drawn)
        value *= factor;
    return drawn;
}

} // namespace sieve::charts
