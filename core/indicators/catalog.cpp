#include "core/indicators/catalog.h"

#include "core/indicators/looking_back.h"
#include "core/indicators/recursive_average.h"
#include "core/indicators/regression.h"
#include "core/indicators/relative_strength_index.h"
#include "core/indicators/running_totals.h"
#include "core/indicators/trailing_stops.h"
#include "core/indicators/true_range.h"
#include "core/indicators/window.h"

#include <algorithm>

namespace sieve::indicators {

namespace {

constexpr std::array figure{Input::Figure};
constexpr std::array twoFigures{Input::Figure, Input::Other};
constexpr std::array condition{Input::Condition};
constexpr std::array conditionAndFigure{Input::Condition, Input::Figure};
constexpr std::array highLowClose{Input::High, Input::Low, Input::Close};
constexpr std::array highLow{Input::High, Input::Low};
constexpr std::array closeVolume{Input::Close, Input::Volume};
constexpr std::array highLowCloseVolume{Input::High, Input::Low, Input::Close, Input::Volume};
constexpr std::array conditionAndBars{Input::Condition, Input::High, Input::Low, Input::Close,
                                      Input::Volume};
constexpr std::array parabolicFactors{FactorParameter{"step", 0.02, 0.0001, 1.0},
                                      FactorParameter{"cap", 0.2, 0.0001, 1.0}};
constexpr std::array trailFactors{FactorParameter{"k", 3.0, 0.01, 100.0}};

// How far back

std::size_t window(const Settings& settings)
{
    return static_cast<std::size_t>(settings.period) - 1;
}
std::size_t priorBar(const Settings& /*settings*/)
{
    return 1;
}
std::size_t aWhile(const Settings& /*settings*/)
{
    return 63; // most things looked for happened within a quarter
}
std::size_t everything(const Settings& /*settings*/)
{
    return wholeHistory;
}
template <Recursion (*made)(int)> std::size_t recursion(const Settings& settings)
{
    return reachBack(made(settings.period)) + 1;
}

// From a call to a kernel

using Window = void (*)(Values, int, Span, Out);

template <Window kernel> Enough overWindow(const Call& call, Out out)
{
    kernel(call.columns[0], call.settings.period, call.span, out);
    return true;
}

using TwoWindows = void (*)(Values, Values, int, Span, Out);

template <TwoWindows kernel> Enough overTwoWindows(const Call& call, Out out)
{
    kernel(call.columns[0], call.columns[1], call.settings.period, call.span, out);
    return true;
}

template <Recursion (*made)(int)> Enough recursive(const Call& call, Out out)
{
    return runRecursion(call.columns[0], made(call.settings.period), call.span, out);
}

const std::array indicators{
    Indicator{.key = "sma",
              .title = "Simple moving average",
              .help = "Mean of the last n values",
              .inputs = figure,
              .period = PeriodParameter{},
              .reach = window,
              .compute = overWindow<simpleMovingAverage>},
    Indicator{.key = "ema",
              .title = "Exponential moving average",
              .help = "Mean of all values, each weighing less than the next; weight 2 / (n + 1)",
              .inputs = figure,
              .period = PeriodParameter{},
              .reach = recursion<Recursion::exponential>,
              .compute = recursive<Recursion::exponential>},
    Indicator{.key = "wma",
              .title = "Weighted moving average",
              .help = "Mean of the last n values, the newest weighing most",
              .inputs = figure,
              .period = PeriodParameter{},
              .reach = window,
              .compute = overWindow<weightedMovingAverage>},
    Indicator{.key = "wilder",
              .title = "Wilder's average",
              .help = "Mean of all values, each weighing less than the next; weight 1 / n",
              .inputs = figure,
              .period = PeriodParameter{},
              .reach = recursion<Recursion::wilder>,
              .compute = recursive<Recursion::wilder>},
    Indicator{.key = "wilder_sum",
              .title = "Wilder's running sum",
              .help = "Sum that loses 1 / n of itself with each value added",
              .inputs = figure,
              .period = PeriodParameter{.least = 2},
              .reach = recursion<Recursion::wilderSum>,
              .compute = recursive<Recursion::wilderSum>},
    Indicator{.key = "rsi",
              .title = "Relative strength index",
              .help =
                  "Gains as a share of all movement; high after many rises, low after many falls",
              .inputs = figure,
              .period = PeriodParameter{.initial = 14, .most = 500},
              .unit = Unit::Points,
              .reach = recursion<Recursion::wilder>,
              .compute =
                  [](const Call& c, Out out) {
                      return relativeStrengthIndex(c.columns[0], c.settings.period, c.span, out);
                  }},
    Indicator{.key = "true_range",
              .title = "True range",
              .help = "The bar's range with the gap from the close before it",
              .inputs = highLowClose,
              .unit = Unit::Money,
              .reach = priorBar,
              .compute =
                  [](const Call& c, Out out) {
                      trueRange(c.columns[0], c.columns[1], c.columns[2], c.span, out);
                      return true;
                  }},
    Indicator{.key = "atr",
              .title = "Average true range",
              .help = "Wilder's average of the true range: how far the price moves in a day",
              .inputs = highLowClose,
              .period = PeriodParameter{.initial = 14, .most = 500},
              .unit = Unit::Money,
              .reach = recursion<Recursion::wilder>,
              .compute =
                  [](const Call& c, Out out) {
                      return averageTrueRange(c.columns[0], c.columns[1], c.columns[2],
                                              c.settings.period, c.span, out);
                  }},
    Indicator{.key = "stdev",
              .title = "Standard deviation",
              .help = "Spread of the last n values about their mean (divisor n)",
              .inputs = figure,
              .period = PeriodParameter{.least = 2},
              .reach = window,
              .compute = overWindow<standardDeviation>},
    Indicator{.key = "mean_deviation",
              .title = "Mean deviation",
              .help = "Mean distance of the last n values from their mean",
              .inputs = figure,
              .period = PeriodParameter{.least = 2},
              .reach = window,
              .compute = overWindow<meanDeviation>},
    Indicator{.key = "highest",
              .title = "Highest",
              .help = "Highest of the last n values, this one included",
              .inputs = figure,
              .period = PeriodParameter{},
              .reach = window,
              .compute = overWindow<windowHighest>},
    Indicator{.key = "lowest",
              .title = "Lowest",
              .help = "Lowest of the last n values, this one included",
              .inputs = figure,
              .period = PeriodParameter{},
              .reach = window,
              .compute = overWindow<windowLowest>},
    Indicator{.key = "sum",
              .title = "Sum",
              .help = "Sum of the last n values",
              .inputs = figure,
              .period = PeriodParameter{},
              .reach = window,
              .compute = overWindow<windowSum>},
    Indicator{.key = "count",
              .title = "Count",
              .help = "On how many of the last n bars the condition held",
              .inputs = condition,
              .period = PeriodParameter{},
              .unit = Unit::Plain,
              .reach = window,
              .compute = overWindow<windowSum>},
    Indicator{.key = "any",
              .title = "Any",
              .help = "Whether the condition held on any of the last n bars",
              .inputs = condition,
              .period = PeriodParameter{},
              .kind = Kind::YesNo,
              .unit = Unit::Plain,
              .reach = window,
              .compute = overWindow<windowHighest>},
    Indicator{.key = "all",
              .title = "All",
              .help = "Whether the condition held on each of the last n bars",
              .inputs = condition,
              .period = PeriodParameter{},
              .kind = Kind::YesNo,
              .unit = Unit::Plain,
              .reach = window,
              .compute = overWindow<windowLowest>},
    Indicator{
        .key = "since",
        .title = "Bars since",
        .help = "How many bars ago the condition last held; 0 is now",
        .inputs = condition,
        .unit = Unit::Days,
        .reach = aWhile,
        .compute = [](const Call& c, Out out) { return barsSince(c.columns[0], c.span, out); }},
    Indicator{.key = "streak",
              .title = "Streak",
              .help = "How many bars in a row, up to now, the condition has held",
              .inputs = condition,
              .unit = Unit::Days,
              .reach = aWhile,
              .compute = [](const Call& c, Out out) { return streak(c.columns[0], c.span, out); }},
    Indicator{
        .key = "value_when",
        .title = "Value when",
        .help = "x on the newest bar on which the condition held",
        .inputs = conditionAndFigure,
        .reach = aWhile,
        .compute = [](const Call& c,
                      Out out) { return valueWhen(c.columns[0], c.columns[1], c.span, out); }},
    Indicator{.key = "slope",
              .title = "Slope",
              .help = "By how much a straight line through the last n values rises a bar",
              .inputs = figure,
              .period = PeriodParameter{.least = 2},
              .reach = window,
              .compute = overWindow<regressionSlope>},
    Indicator{.key = "trend_value",
              .title = "Trend value",
              .help = "Where a straight line through the last n values ends",
              .inputs = figure,
              .period = PeriodParameter{.least = 2},
              .reach = window,
              .compute = overWindow<regressionValue>},
    Indicator{.key = "r_squared",
              .title = "Straightness",
              .help = "How much of the last n values' spread a straight line explains, 0 to 1",
              .inputs = figure,
              .period = PeriodParameter{.least = 3},
              .unit = Unit::Ratio,
              .reach = window,
              .compute = overWindow<regressionFit>},
    Indicator{.key = "correlation",
              .title = "Correlation",
              .help = "How far x and y move together over the last n bars, -1 to 1",
              .inputs = twoFigures,
              .period = PeriodParameter{.least = 3},
              .unit = Unit::Ratio,
              .reach = window,
              .compute = overTwoWindows<correlation>},
    Indicator{.key = "slope_on",
              .title = "Slope on another",
              .help = "By how much x moves for one of y, over the last n bars",
              .inputs = twoFigures,
              .period = PeriodParameter{.least = 3},
              .unit = Unit::Ratio,
              .reach = window,
              .compute = overTwoWindows<slopeOn>},
    Indicator{.key = "running_total",
              .title = "Running total",
              .help = "Sum of all values since the first bar; only its course means anything",
              .inputs = figure,
              .reach = everything,
              .compute =
                  [](const Call& c, Out out) {
                      runningTotal(c.columns[0], c.span, out);
                      return true;
                  }},
    Indicator{.key = "obv",
              .title = "On-balance volume",
              .help =
                  "Volume added on a higher close, taken off on a lower one, since the first bar",
              .inputs = closeVolume,
              .unit = Unit::Shares,
              .reach = everything,
              .compute =
                  [](const Call& c, Out out) {
                      onBalanceVolume(c.columns[0], c.columns[1], c.span, out);
                      return true;
                  }},
    Indicator{.key = "accumulation",
              .title = "Accumulation line",
              .help = "Volume weighed by where in its range the bar closed, summed since the first",
              .inputs = highLowCloseVolume,
              .unit = Unit::Shares,
              .reach = everything,
              .compute =
                  [](const Call& c, Out out) {
                      accumulationLine(c.columns[0], c.columns[1], c.columns[2], c.columns[3],
                                       c.span, out);
                      return true;
                  }},
    Indicator{.key = "vwap_since",
              .title = "Volume-weighted average since",
              .help = "Mean price of all shares traded since the condition last held",
              .inputs = conditionAndBars,
              .unit = Unit::Money,
              .reach = aWhile,
              .compute =
                  [](const Call& c, Out out) {
                      return volumeWeightedSince(c.columns[0], c.columns[1], c.columns[2],
                                                 c.columns[3], c.columns[4], c.span, out);
                  }},
    Indicator{.key = "parabolic_stop",
              .title = "Parabolic stop",
              .help = "Wilder's stop that runs after the price ever faster, and turns when reached",
              .inputs = highLow,
              .factors = parabolicFactors,
              .unit = Unit::Money,
              .reach = everything,
              .compute =
                  [](const Call& c, Out out) {
                      parabolicStop(c.columns[0], c.columns[1], c.settings.factors[0],
                                    c.settings.factors[1], c.span, out);
                      return true;
                  }},
    Indicator{.key = "trail",
              .title = "Trailing stop",
              .help = "Stop that follows the close at k times y, and turns when closed through",
              .inputs = twoFigures,
              .factors = trailFactors,
              .reach = everything,
              .compute =
                  [](const Call& c, Out out) {
                      trailAtRange(c.columns[0], c.columns[1], c.settings.factors[0], c.span, out);
                      return true;
                  }},
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
