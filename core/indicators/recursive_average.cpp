#include "core/indicators/recursive_average.h"

#include "core/base/require.h"

#include <algorithm>

namespace sieve::indicators {

namespace {

void run(RecursiveAverage state, std::span<const double> values, std::span<double> average)
{
    require(values.size() == average.size(), "recursive average: sizes differ");
    std::ranges::transform(values, average.begin(),
                           [&state](double value) { return state.step(value); });
}

} // namespace

void exponentialMovingAverage(std::span<const double> values, int period, std::span<double> average)
{
    require(period >= 1, "exponentialMovingAverage: period below 1");
    run(RecursiveAverage::exponential(period), values, average);
}

void wilderAverage(std::span<const double> values, int period, std::span<double> average)
{
    require(period >= 1, "wilderAverage: period below 1");
    run(RecursiveAverage::wilder(period), values, average);
}

} // namespace sieve::indicators
