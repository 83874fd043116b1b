#include "core/indicators/catalog.h"

#include "core/indicators/bars_since.h"
#include "core/indicators/recursive_average.h"
#include "core/indicators/relative_strength_index.h"
#include "core/indicators/true_range.h"
#include "core/indicators/window.h"

#include <algorithm>
#include <array>

namespace sieve::indicators {

namespace {

using Columns = std::span<const std::span<const double>>;
using Out = std::span<double>;

constexpr std::array figure{Input::Figure};
constexpr std::array condition{Input::Condition};
constexpr std::array highLowClose{Input::High, Input::Low, Input::Close};

const std::array indicators{
    Indicator{.key = "sma",
              .title = "Simple moving average",
              .help = "Mean of the last n values",
              .inputs = figure,
              .period = PeriodParameter{},
              .compute = [](Columns c, int n, std::size_t first,
                            Out out) { simpleMovingAverage(c[0], n, first, out); }},
    Indicator{.key = "ema",
              .title = "Exponential moving average",
              .help = "Mean of all values, each weighing less than the next; weight 2 / (n + 1)",
              .inputs = figure,
              .period = PeriodParameter{},
              .reach = Reach::Beginning,
              .compute = [](Columns c, int n, std::size_t,
                            Out out) { exponentialMovingAverage(c[0], n, out); }},
    Indicator{.key = "wma",
              .title = "Weighted moving average",
              .help = "Mean of the last n values, the newest weighing most",
              .inputs = figure,
              .period = PeriodParameter{},
              .compute = [](Columns c, int n, std::size_t,
                            Out out) { weightedMovingAverage(c[0], n, out); }},
    Indicator{
        .key = "wilder",
        .title = "Wilder's average",
        .help = "Mean of all values, each weighing less than the next; weight 1 / n",
        .inputs = figure,
        .period = PeriodParameter{},
        .reach = Reach::Beginning,
        .compute = [](Columns c, int n, std::size_t, Out out) { wilderAverage(c[0], n, out); }},
    Indicator{.key = "rsi",
              .title = "Relative strength index",
              .help =
                  "Gains as a share of all movement; high after many rises, low after many falls",
              .inputs = figure,
              .period = PeriodParameter{.initial = 14, .most = 500},
              .reach = Reach::Beginning,
              .unit = Unit::Points,
              .compute = [](Columns c, int n, std::size_t,
                            Out out) { relativeStrengthIndex(c[0], n, out); }},
    Indicator{
        .key = "true_range",
        .title = "True range",
        .help = "The bar's range with the gap from the close before it",
        .inputs = highLowClose,
        .period = std::nullopt,
        .reach = Reach::PriorBar,
        .unit = Unit::Money,
        .compute = [](Columns c, int, std::size_t, Out out) { trueRange(c[0], c[1], c[2], out); }},
    Indicator{.key = "atr",
              .title = "Average true range",
              .help = "Wilder's average of the true range: how far the price moves in a day",
              .inputs = highLowClose,
              .period = PeriodParameter{.initial = 14, .most = 500},
              .reach = Reach::Beginning,
              .unit = Unit::Money,
              .compute = [](Columns c, int n, std::size_t,
                            Out out) { averageTrueRange(c[0], c[1], c[2], n, out); }},
    Indicator{
        .key = "stdev",
        .title = "Standard deviation",
        .help = "Spread of the last n values about their mean (divisor n)",
        .inputs = figure,
        .period = PeriodParameter{.least = 2},
        .compute = [](Columns c, int n, std::size_t, Out out) { standardDeviation(c[0], n, out); }},
    Indicator{.key = "highest",
              .title = "Highest",
              .help = "Highest of the last n values, this one included",
              .inputs = figure,
              .period = PeriodParameter{},
              .compute = [](Columns c, int n, std::size_t first,
                            Out out) { windowHighest(c[0], n, first, out); }},
    Indicator{.key = "lowest",
              .title = "Lowest",
              .help = "Lowest of the last n values, this one included",
              .inputs = figure,
              .period = PeriodParameter{},
              .compute = [](Columns c, int n, std::size_t first,
                            Out out) { windowLowest(c[0], n, first, out); }},
    Indicator{.key = "sum",
              .title = "Sum",
              .help = "Sum of the last n values",
              .inputs = figure,
              .period = PeriodParameter{},
              .compute = [](Columns c, int n, std::size_t first,
                            Out out) { windowSum(c[0], n, first, out); }},
    Indicator{.key = "count",
              .title = "Count",
              .help = "On how many of the last n bars the condition held",
              .inputs = condition,
              .period = PeriodParameter{},
              .unit = Unit::Plain,
              .compute = [](Columns c, int n, std::size_t first,
                            Out out) { windowSum(c[0], n, first, out); }},
    Indicator{.key = "any",
              .title = "Any",
              .help = "Whether the condition held on any of the last n bars",
              .inputs = condition,
              .period = PeriodParameter{},
              .kind = Kind::YesNo,
              .unit = Unit::Plain,
              .compute = [](Columns c, int n, std::size_t first,
                            Out out) { windowHighest(c[0], n, first, out); }},
    Indicator{.key = "all",
              .title = "All",
              .help = "Whether the condition held on each of the last n bars",
              .inputs = condition,
              .period = PeriodParameter{},
              .kind = Kind::YesNo,
              .unit = Unit::Plain,
              .compute = [](Columns c, int n, std::size_t first,
                            Out out) { windowLowest(c[0], n, first, out); }},
    Indicator{.key = "since",
              .title = "Bars since",
              .help = "How many bars ago the condition last held; 0 is now",
              .inputs = condition,
              .period = std::nullopt,
              .reach = Reach::Beginning,
              .unit = Unit::Days,
              .compute = [](Columns c, int, std::size_t, Out out) { barsSince(c[0], out); }},
    Indicator{.key = "streak",
              .title = "Streak",
              .help = "How many bars in a row, up to now, the condition has held",
              .inputs = condition,
              .period = std::nullopt,
              .reach = Reach::Beginning,
              .unit = Unit::Days,
              .compute = [](Columns c, int, std::size_t, Out out) { streak(c[0], out); }},
};

} // namespace

std::span<const Indicator> catalog()
{
    return indicators;
}

const Indicator* indicatorNamed(std::string_view key)
{
    const auto* found = std::ranges::find(indicators, key, &Indicator::key);
    return found == indicators.end() ? nullptr : found;
}

} // namespace sieve::indicators
