#include "core/studies/resampling.h"

#include "core/base/quantile.h"
#include "core/base/require.h"

#include <algorithm>
#include <cmath>
#include <numeric>

namespace sieve::studies {

namespace {

void addTo(DaySum& sum, const DaySum& other, double sign)
{
    sum.cases += sign * other.cases;
    sum.change += sign * other.change;
    sum.up += sign * other.up;
    sum.others += sign * other.others;
}

/// The sums of the sessions before each one, twice around.
std::vector<DaySum> runningSums(std::span<const DaySum> sessions)
{
    std::vector<DaySum> sums(2 * sessions.size() + 1);
    for (std::size_t i = 0; i + 1 < sums.size(); ++i) {
        sums[i + 1] = sums[i];
        addTo(sums[i + 1], sessions[i % sessions.size()], 1.0);
    }
    return sums;
}

DaySum drawn(const std::vector<DaySum>& sums, std::size_t sessions, std::size_t block,
             Chance& chance)
{
    DaySum sum;
    for (std::size_t left = sessions; left > 0;) {
        const std::size_t taken = std::min(block, left);
        const std::size_t from = chance.below(sessions);
        addTo(sum, sums[from + taken], 1.0);
        addTo(sum, sums[from], -1.0);
        left -= taken;
    }
    return sum;
}

Interval intervalOf(std::vector<double>& values)
{
    std::ranges::sort(values);
    return {quantileOf(values, 0.025), quantileOf(values, 0.975)};
}

} // namespace

std::vector<std::uint32_t> shuffled(std::size_t count, Chance& chance)
{
    std::vector<std::uint32_t> order(count);
    std::iota(order.begin(), order.end(), 0U);
    for (std::size_t left = count; left > 1; --left)
        std::swap(order[left - 1], order[chance.below(left)]);
    return order;
}

Resampled resampled(std::span<const DaySum> sessions, std::size_t block, int times,
                    std::uint64_t seed)
{
    require(block >= 1 && times >= 1, "resampled: no such blocks");
    Resampled told;
    const auto days =
        std::ranges::count_if(sessions, [](const DaySum& day) { return day.cases > 0.0; });
    if (days < 2)
        return told;
    const std::vector<DaySum> sums = runningSums(sessions);
    const std::size_t length = std::min(block, sessions.size());
    std::vector<double> means;
    std::vector<double> shares;
    std::vector<double> excesses;
    Chance chance(seed);
    for (int time = 0; time < times; ++time) {
        const DaySum sum = drawn(sums, sessions.size(), length, chance);
        const double cases = std::round(sum.cases); // sums less sums: whole but for rounding
        if (cases < 1.0)
            continue; // none of the days drawn had a case
        means.push_back(sum.change / cases);
        shares.push_back(std::clamp(sum.up / cases, 0.0, 1.0));
        excesses.push_back((sum.change - sum.others) / cases);
    }
    if (means.size() < 2)
        return told;
    const double mean =
        std::accumulate(means.begin(), means.end(), 0.0) / static_cast<double>(means.size());
    double squares = 0.0;
    for (const double each : means)
        squares += (each - mean) * (each - mean);
    told.deviationOfMean = std::sqrt(squares / static_cast<double>(means.size() - 1));
    told.mean = intervalOf(means);
    told.shareUp = intervalOf(shares);
    told.excess = intervalOf(excesses);
    return told;
}

} // namespace sieve::studies
