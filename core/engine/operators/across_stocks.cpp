#include "core/engine/across.h"
#include "core/engine/operators/families.h"
#include "core/engine/operators/median.h"
#include "core/engine/operators/places.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numeric>

namespace sieve::engine {

namespace {

/// The figures of the members that have one.
std::span<double> knownOf(std::span<const double> all, std::span<const std::uint32_t> own)
{
    static thread_local std::vector<double> store;
    if (store.size() < own.size())
        store.resize(own.size());
    double* const known = store.data();
    std::size_t count = 0;
    for (const std::uint32_t place : own) {
        const double figure = all[place];
        known[count] = figure;
        count += figure == figure ? 1U : 0U;
    }
    return std::span(store).first(count);
}

double meanOf(std::span<const double> figures)
{
    double sum = 0.0;
    for (const double figure : figures)
        sum += figure;
    return sum / static_cast<double>(figures.size());
}

void zScores(const Node&, std::span<const double> all, std::span<const std::uint32_t> own,
             std::span<double> out)
{
    const std::span<const double> figures = knownOf(all, own);
    if (figures.size() < 2)
        return;
    const auto [least, most] = std::ranges::minmax(figures);
    if (least == most)
        return;
    const double mean = meanOf(figures);
    double squares = 0.0;
    for (const double figure : figures)
        squares += (figure - mean) * (figure - mean);
    const double deviation = std::sqrt(squares / static_cast<double>(figures.size() - 1));
    for (const std::uint32_t place : own) // of a missing figure it is missing
        out[place] = (all[place] - mean) / deviation;
}

// One value a group

double median(const Node&, std::span<const double> all, std::span<const std::uint32_t> own,
              double near)
{
    const std::span<double> figures = knownOf(all, own);
    if (figures.empty())
        return missing;
    return isMissing(near) ? medianOf(figures) : medianNear(figures, near);
}

double mean(const Node&, std::span<const double> all, std::span<const std::uint32_t> own, double)
{
    const std::span<const double> figures = knownOf(all, own);
    return figures.empty() ? missing : meanOf(figures);
}

double countOf(const Node&, std::span<const double> all, std::span<const std::uint32_t> own, double)
{
    const std::span<const double> figures = knownOf(all, own);
    return figures.empty() ? missing
                           : std::round(meanOf(figures) * static_cast<double>(figures.size()));
}

double totalOf(const Node&, std::span<const double> all, std::span<const std::uint32_t> own, double)
{
    const std::span<const double> figures = knownOf(all, own);
    return figures.empty() ? missing : std::accumulate(figures.begin(), figures.end(), 0.0);
}

void ranksOfGroups(std::span<double> values)
{
    const std::vector<double> means(values.begin(), values.end());
    for (std::size_t i = 0; i < means.size(); ++i) {
        const auto greater =
            std::ranges::count_if(means, [&](double other) { return other > means[i]; });
        values[i] = isMissing(means[i]) ? missing : 1.0 + static_cast<double>(greater);
    }
}

// One value of the day

double sumOfAll(const KnownSum& all)
{
    return all.sum;
}

double meanOfAll(const KnownSum& all)
{
    return all.sum / all.count;
}

/// Along the bars of one instrument the values lie in the day's table, which the question filled.
bool copyFromTable(Series& series, const Run& run, std::size_t from, std::size_t to)
{
    const BarFrame& frame = run.frame;
    const std::span<const Day> sessions = run.context.market.sessions();
    const AcrossValues& across = run.context.across.at(series.id);
    const bool isStock = frame.market == &run.context.market; // a line has no rank among stocks
    const std::size_t row = series.isOfTheDay     ? 0
                            : !isStock            ? StockGroups::none
                            : across.rows.empty() ? frame.instrument
                                                  : across.rows[frame.instrument];
    auto session = static_cast<std::size_t>(std::ranges::lower_bound(sessions, frame.days[from]) -
                                            sessions.begin());
    for (std::size_t bar = from; bar < to;) {
        while (sessions[session] < frame.days[bar])
            ++session;
        const std::size_t place = across.places[session];
        std::size_t count = 0; // bars on sessions that stand together in the table
        while (bar + count < to && session + count < sessions.size() &&
               frame.days[bar + count] == sessions[session + count] &&
               across.places[session + count] == place + count)
            ++count;
        if (row != StockGroups::none)
            across.table.copyInstrument(row, place, series.out(bar, bar + count));
        else
            std::ranges::fill(series.out(bar, bar + count), missing);
        bar += count;
        session += count;
    }
    return true;
}

constexpr Parameter within{"within", Accepts::Within, 0.0};
constexpr Parameter whichStocks{"stocks", Accepts::Stocks, 0.0};
constexpr std::array figureWithin{Parameter{"x"}, within};
constexpr std::array figureOfStocks{Parameter{"x"}, within, whichStocks};
constexpr std::array conditionOfStocks{Parameter{"condition", Accepts::Condition}, within,
                                       whichStocks};
constexpr std::array groupRankParameters{Parameter{"x"}, Parameter{"of", Accepts::Group, 0.0}};

constexpr Operator acrossStocks(Op op, std::string_view name, std::string_view help,
                                std::span<const Parameter> parameters, const AcrossWays& ways,
                                Typed typed = Typed::AsStated, Unit unit = Unit::Plain)
{
    return {.op = op,
            .family = Family::AcrossStocks,
            .name = name,
            .help = help,
            .parameters = parameters,
            .typed = typed,
            .unit = unit,
            .fill = copyFromTable,
            .cost = 4.0,
            .across = ways};
}

constexpr std::array acrossRows{
    acrossStocks(Op::Percentile, "percentile",
                 "Share of stocks below it that day, those equal counting half; 0 to 100",
                 figureWithin, {.eachMember = percentiles}, Typed::AsStated, Unit::Points),
    acrossStocks(Op::Rank, "rank", "Place among all stocks that day, 1 for the largest",
                 figureWithin, {.eachMember = ranks}),
    acrossStocks(Op::Median, "median",
                 "Middle value of all stocks that day; stocks = traded leaves out those that did "
                 "not trade",
                 figureOfStocks, {.ofGroup = median, .isOneFigure = true}, Typed::AsInput),
    acrossStocks(Op::Mean, "mean", "Mean over all stocks that day", figureOfStocks,
                 {.ofGroup = mean, .isOneFigure = true, .ofSum = meanOfAll}, Typed::AsInput),
    acrossStocks(Op::ZScore, "zscore",
                 "Distance from that day's mean in standard deviations (divisor n - 1)",
                 figureWithin, {.eachMember = zScores}),
    acrossStocks(Op::ShareOf, "share_of", "Share of stocks for which the condition holds that day",
                 conditionOfStocks, {.ofGroup = mean, .isOneFigure = true, .ofSum = meanOfAll},
                 Typed::AsStated, Unit::Percent),
    acrossStocks(Op::CountOf, "count_of", "Number of stocks for which the condition holds that day",
                 conditionOfStocks, {.ofGroup = countOf, .isOneFigure = true, .ofSum = sumOfAll}),
    acrossStocks(Op::TotalOf, "total_of", "Sum over all stocks that day", figureOfStocks,
                 {.ofGroup = totalOf, .isOneFigure = true, .ofSum = sumOfAll}, Typed::AsInput),
    acrossStocks(Op::GroupRank, "group_rank",
                 "Place of the stock's group among all by the mean of x, 1 for the most",
                 groupRankParameters, {.ofGroup = mean, .amongGroups = ranksOfGroups}),
    acrossStocks(Op::LeastPlaced, {}, {}, {}, {.ofGroup = leastPlaced, .isOfKnownMembers = true}),
};

} // namespace

std::span<const Operator> acrossStocksOperators()
{
    return acrossRows;
}

} // namespace sieve::engine
