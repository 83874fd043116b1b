#include "core/screens/scatter.h"

#include <algorithm>
#include <numeric>

namespace sieve::screens {

namespace {

/// Where each figure stands among the known ones, from 0 to 1; 0.5 where it is not known.
std::vector<double> rankShares(std::span<const double> figures)
{
    std::vector<std::size_t> known;
    for (std::size_t i = 0; i < figures.size(); ++i)
        if (!isMissing(figures[i]))
            known.push_back(i);
    std::ranges::stable_sort(known, {}, [figures](std::size_t i) { return figures[i]; });
    std::vector<double> shares(figures.size(), 0.5);
    for (std::size_t place = 0; place < known.size() && known.size() > 1; ++place)
        shares[known[place]] = static_cast<double>(place) / static_cast<double>(known.size() - 1);
    return shares;
}

std::vector<ScatterAxis::Bound> boundsOn(const ScreenRun& run, const std::string& text)
{
    std::vector<ScatterAxis::Bound> bounds;
    for (std::size_t i = 0; i < run.criteria.size(); ++i)
        for (std::size_t at = 0; at < run.criteria[i].limits.size(); ++at) {
            const Limit& limit = run.criteria[i].limits[at].limit;
            if (limit.fixed && limit.field == text)
                bounds.push_back({i, at, *limit.fixed, limit.wantsMore()});
        }
    return bounds;
}

} // namespace

Scatter scatterOf(const ScreenRun& run, const std::array<std::string, 3>& texts,
                  const language::Names& names, engine::Evaluator& evaluator,
                  const Progress& progress)
{
    ResultTable table = makeTable(run.stocks, texts, names, evaluator, run.day, {}, progress);
    const std::vector<double> sizes = rankShares(table.columns[2].compared());
    std::vector<char> passes(evaluator.market().size());
    for (const std::size_t stock : run.matches)
        passes[stock] = 1;
    Scatter scatter;
    for (std::size_t row = 0; row < run.stocks.size(); ++row) {
        const std::size_t stock = run.stocks[row];
        const double across = table.columns[0].compared()[row];
        const double up = table.columns[1].compared()[row];
        if (isMissing(across) || isMissing(up)) {
            ++scatter.leftOut;
            continue;
        }
        scatter.points.push_back({stock, across, up, sizes[row],
                                  evaluator.market().text(stock, market::TextField::Sector),
                                  passes[stock] == 1});
    }
    std::stable_partition(scatter.points.begin(), scatter.points.end(),
                          [](const ScatterPoint& point) { return !point.passes; });
    for (std::size_t i = 0; i < texts.size(); ++i) {
        ScatterAxis& axis = scatter.axes[i];
        axis.spread = distributionOf(table.columns[i].compared());
        axis.bounds = boundsOn(run, texts[i]);
        axis.column = std::move(table.columns[i]);
        axis.column.figures.clear();
        axis.column.inMarket.clear();
    }
    return scatter;
}

} // namespace sieve::screens
