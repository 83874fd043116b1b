#include "core/base/fetch_ahead.h"
#include "core/engine/operators/families.h"

#include <algorithm>
#include <array>

namespace sieve::engine {

namespace {

bool barColumn(Series& series, const Run& run, std::size_t from, std::size_t to)
{
    const BarFrame& frame = run.frame;
    const market::BarField field = series.node->barField;
    const auto inPlace = barsInPlace(frame, field, series.from, series.to);
    if (!inPlace.empty()) {
        series.lieAt(inPlace.data());
        return true;
    }
    series.lieInStore();
    frame.market->adjusted(frame.instrument, field, frame.footing, from, series.out(from, to));
    return true;
}

/// The column is read at once, so its lines are asked for while the instrument before it computes.
void fetchColumn(const Series& series, const Run& run, const market::Market& market,
                 std::size_t next, FetchAhead& ahead)
{
    if (!series.isNeeded())
        return;
    const auto column = tradedColumn(market, next, series.node->barField);
    const std::size_t fromEnd = std::min(run.frame.size() - series.from, column.size());
    ahead.add(column.last(fromEnd).first(std::min(series.to - series.from, fromEnd)));
}

bool totalReturn(Series& series, const Run& run, std::size_t from, std::size_t to)
{
    const BarFrame& frame = run.frame;
    const std::span<double> out = series.out(from, to);
    if (frame.dailyBars.empty()) {
        frame.market->totalReturn(frame.instrument, frame.footing, from, out);
        return true;
    }
    std::vector<double> daily(frame.dailyBar(to - 1) + 1);
    frame.market->totalReturn(frame.instrument, frame.footing, 0, daily);
    for (std::size_t i = 0; i < out.size(); ++i)
        out[i] = daily[frame.dailyBar(from + i)];
    return true;
}

bool barDay(Series& series, const Run& run, std::size_t from, std::size_t to)
{
    const std::span<double> out = series.out(from, to);
    for (std::size_t i = 0; i < out.size(); ++i)
        out[i] = run.frame.days[from + i].serial();
    return true;
}

bool barNumber(Series& series, const Run&, std::size_t from, std::size_t to)
{
    const std::span<double> out = series.out(from, to);
    for (std::size_t i = 0; i < out.size(); ++i)
        out[i] = static_cast<double>(from + i + 1);
    return true;
}

/// What a running session alone has: it comes with the feed.
bool liveOnly(Series& series, const Run&, std::size_t from, std::size_t to)
{
    std::ranges::fill(series.out(from, to), missing);
    return true;
}

ValueDates ofItsBar(const Node&, const market::Market&, std::size_t, Day day)
{
    return {.day = day, .periodEnd = {}, .knownOn = {}};
}

constexpr std::array barRows{
    Operator{.op = Op::BarColumn,
             .family = Family::Data,
             .fill = barColumn,
             .liesInPlace = true,
             .cost = 0.0,
             .fetch = fetchColumn,
             .dates = ofItsBar},
    Operator{.op = Op::TotalReturn, .family = Family::Data, .fill = totalReturn, .dates = ofItsBar},
    Operator{.op = Op::BarDay, .family = Family::Data, .fill = barDay},
    Operator{.op = Op::BarNumber, .family = Family::Data, .fill = barNumber},
    Operator{.op = Op::LiveOnly, .family = Family::Data, .fill = liveOnly},
};

} // namespace

std::span<const Operator> barOperators()
{
    return barRows;
}

} // namespace sieve::engine
