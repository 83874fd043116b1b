#include "core/base/lower_case.h"
#include "core/engine/operators/families.h"

#include <algorithm>
#include <array>

namespace sieve::engine {

namespace {

std::size_t countOf(const Node& node)
{
    return static_cast<std::size_t>(node.count);
}

// Bars back

Lookback priorBars(const Node& node)
{
    return {countOf(node), countOf(node)};
}

bool prior(Series& series, const Run&, std::size_t from, std::size_t to)
{
    const Series& input = *series.inputs[0];
    const std::size_t count = countOf(*series.node);
    if (series.from >= count) { // where its input lies
        series.lieAt(input.valuesFrom(series.from - count));
        return true;
    }
    series.lieInStore();
    const std::size_t known = std::clamp(count, from, to); // bars before it have none
    double* const out = std::fill_n(series.out(from, to).data(), known - from, missing);
    if (known < to)
        std::copy_n(input.valuesFrom(known - count), to - known, out);
    return true;
}

// Indicators

Lookback reachOf(const Node& node)
{
    return {node.indicator->reach(node.settings), 0};
}

bool indicator(Series& series, const Run&, std::size_t from, std::size_t to)
{
    // All inputs are cut to the bars that this part needs, whatever more others asked of them.
    const std::size_t first = from - std::min(from, series.lookback.most);
    std::array<indicators::Values, 5> columns;
    for (std::size_t i = 0; i < series.inputs.size(); ++i)
        columns.at(i) = {series.inputs[i]->valuesFrom(first), to - first};
    const Node& node = *series.node;
    return node.indicator->compute(
        {std::span(columns).first(series.inputs.size()), node.settings, {first, from}},
        series.out(from, to));
}

// Bars that are named

Bars theBar(const Node& node, const BarFrame&, Bars asked)
{
    return {std::max(countOf(node), std::size_t{1}) - 1, std::min(asked.to, countOf(node))};
}

bool onBar(Series& series, const Run&, std::size_t from, std::size_t to)
{
    const std::size_t count = countOf(*series.node);
    const std::span<double> out = series.out(from, to);
    for (std::size_t i = 0; i < out.size(); ++i)
        out[i] = count >= 1 && from + i + 1 >= count ? series.inputs[0]->value(count - 1) : missing;
    return true;
}

Day dayOf(const Node& node)
{
    return Day::fromSerial(static_cast<int>(node.number));
}

Bars theDay(const Node& node, const BarFrame& frame, Bars asked)
{
    const std::size_t end = std::min(asked.to, barsBy(frame, dayOf(node)));
    return {std::max(end, std::size_t{1}) - 1, end};
}

bool onDay(Series& series, const Run& run, std::size_t from, std::size_t to)
{
    const Day day = dayOf(*series.node);
    const std::size_t end = barsBy(run.frame, day);
    const std::span<double> out = series.out(from, to);
    for (std::size_t i = 0; i < out.size(); ++i) { // before that day nobody knew
        const bool isThere = end > 0 && from + i + 1 >= end && run.frame.days[from + i] >= day;
        out[i] = isThere ? series.inputs[0]->value(end - 1) : missing;
    }
    return true;
}

/// How many bars there are before the year of a bar.
std::size_t yearEndBefore(const BarFrame& frame, std::size_t bar)
{
    const auto date = frame.days[bar].date();
    const Day newYear = *Day::of({date.year(), std::chrono::January, std::chrono::day(1)});
    return barsBy(frame, newYear.plusDays(-1));
}

Bars theYearEnds(const Node&, const BarFrame& frame, Bars asked)
{
    const std::size_t first = yearEndBefore(frame, asked.from);
    return {std::max(first, std::size_t{1}) - 1, yearEndBefore(frame, asked.to - 1)};
}

bool atYearEnd(Series& series, const Run& run, std::size_t from, std::size_t to)
{
    const std::span<const Day> days = run.frame.days.subspan(from, to - from);
    const std::span<double> out = series.out(from, to);
    for (std::size_t i = 0; i < out.size(); ++i) {
        if (i > 0 && days[i].date().year() == days[i - 1].date().year()) {
            out[i] = out[i - 1];
            continue;
        }
        const std::size_t end = yearEndBefore(run.frame, from + i);
        out[i] = end > 0 ? series.inputs[0]->value(end - 1) : missing;
    }
    return true;
}

// The same bar, looked at otherwise

bool asTraded(Series& series, const Run& run, std::size_t from, std::size_t to)
{
    const BarFrame& frame = run.frame;
    const bool isVolume = series.node->unit == Unit::Shares;
    const std::span<double> out = series.out(from, to);
    for (std::size_t i = 0; i < out.size(); ++i) {
        const double factor =
            frame.market->priceFactor(frame.instrument, frame.days[from + i], frame.footing);
        const double value = series.inputs[0]->value(from + i);
        out[i] = isVolume ? value * factor : value / factor;
    }
    return true;
}

/// Where the instrument is in the market's currency its values lie where the input's do.
bool converted(Series& series, const Run& run, std::size_t from, std::size_t to)
{
    const BarFrame& frame = run.frame;
    const double* const money = series.inputs[0]->valuesFrom(from);
    if (!frame.market->isInOtherCurrency(frame.instrument)) {
        series.lieAt(series.inputs[0]->valuesFrom(series.from));
        return true;
    }
    series.lieInStore();
    const std::span<const market::ExchangeRate> rates = frame.market->rates(frame.instrument);
    const std::span<double> out = series.out(from, to);
    double rate = missing;
    for (std::size_t i = 0; i < out.size(); ++i) {
        const Day day = frame.days[from + i];
        if (i == 0 || day != frame.days[from + i - 1])
            rate = market::rateOn(rates, day);
        out[i] = money[i] * rate;
    }
    return true;
}

bool contains(Series& series, const Run& run, std::size_t from, std::size_t to)
{
    const market::TextTable& texts = run.frame.market->texts(); // a line has its own
    const std::string sought = lowerCase(series.node->text);
    const auto answerOf = [&](double number) {
        if (isMissing(number))
            return missing;
        const auto text = lowerCase(texts.textOf(number));
        return text.find(sought) != std::string::npos ? 1.0 : 0.0;
    };
    const std::span<double> out = series.out(from, to);
    double number = missing;
    double answer = missing;
    for (std::size_t i = 0; i < out.size(); ++i) {
        if (const double own = series.inputs[0]->value(from + i); own != number) {
            answer = answerOf(own);
            number = own;
        }
        out[i] = answer;
    }
    return true;
}

constexpr std::array priorParameters{Parameter{"x", Accepts::Anything},
                                     Parameter{"n", Accepts::Whole, 1.0}};
constexpr std::array onBarParameters{Parameter{"n", Accepts::Whole, std::nullopt, 1, 100'000},
                                     Parameter{"x", Accepts::Anything}};
constexpr std::array onDayParameters{Parameter{"day", Accepts::Day},
                                     Parameter{"x", Accepts::Anything}};
constexpr std::array containsParameters{Parameter{"text", Accepts::Text},
                                        Parameter{"word", Accepts::Quoted}};

constexpr std::array alongBarsRows{
    Operator{.op = Op::Prior,
             .family = Family::AlongBars,
             .name = "prior",
             .help = "The value n bars ago",
             .parameters = priorParameters,
             .typed = Typed::AsInput,
             .lookback = priorBars,
             .fill = prior,
             .liesInPlace = true,
             .cost = 0.0},
    Operator{.op = Op::Indicator,
             .family = Family::AlongBars,
             .lookback = reachOf,
             .mayReadMore = true,
             .fill = indicator,
             .cost = 4.0},
    Operator{.op = Op::OnBar,
             .family = Family::AlongBars,
             .name = "on_bar",
             .help = "The value on the n-th bar of the instrument",
             .parameters = onBarParameters,
             .typed = Typed::AsInput,
             .namedBars = theBar,
             .fill = onBar},
    Operator{.op = Op::OnDay,
             .family = Family::AlongBars,
             .name = "on_day",
             .help = "The value on the newest bar by a day; none before that day",
             .parameters = onDayParameters,
             .typed = Typed::AsInput,
             .namedBars = theDay,
             .knowsDays = true,
             .fill = onDay},
    Operator{.op = Op::AtYearEnd,
             .family = Family::AlongBars,
             .name = "at_year_end",
             .help = "The value on the last bar of the calendar year before",
             .parameters = anything,
             .typed = Typed::AsInput,
             .namedBars = theYearEnds,
             .knowsDays = true,
             .fill = atYearEnd},
    Operator{.op = Op::AsTraded,
             .family = Family::AlongBars,
             .name = "as_traded",
             .help = "A price or volume as it was traded, later splits left in",
             .parameters = oneFigure,
             .typed = Typed::AsTraded,
             .fill = asTraded},
    Operator{.op = Op::Converted,
             .family = Family::AlongBars,
             .name = "converted",
             .help = "Money in the market's currency, at the rate of the bar's day",
             .parameters = oneFigure,
             .typed = Typed::AsMoney,
             .fill = converted,
             .liesInPlace = true,
             .cost = 0.0},
    Operator{.op = Op::Contains,
             .family = Family::AlongBars,
             .name = "contains",
             .help = "Whether a text has a word in it, small or capital",
             .parameters = containsParameters,
             .kind = Kind::YesNo,
             .fill = contains,
             .isSteady = true},
};

} // namespace

std::span<const Operator> alongBarsOperators()
{
    return alongBarsRows;
}

} // namespace sieve::engine
