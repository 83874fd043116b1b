#include "core/studies/portfolio.h"

#include <algorithm>
#include <cmath>
#include <map>

namespace sieve::studies {

namespace {

void tellTrades(PortfolioTold& told, const Portfolio& portfolio)
{
    double won = 0.0;
    double gains = 0.0;
    double losses = 0.0;
    double changes = 0.0;
    double bars = 0.0;
    for (const Trade& trade : portfolio.trades) {
        if (!trade.left)
            continue;
        ++told.trades;
        told.delisted += trade.why == Why::Delisted ? 1U : 0U;
        won += trade.gain > 0.0 ? 1.0 : 0.0;
        (trade.gain > 0.0 ? gains : losses) += trade.gain;
        changes += isMissing(trade.change) ? 0.0 : trade.change;
        bars += trade.bars;
    }
    if (told.trades == 0)
        return;
    const auto count = static_cast<double>(told.trades);
    told.shareWon = won / count;
    told.meanChange = changes / count;
    told.meanBars = bars / count;
    if (losses < 0.0)
        told.gainByLoss = gains / -losses;
}

void tellContributions(PortfolioTold& told, const Portfolio& portfolio)
{
    std::map<std::size_t, PortfolioTold::Contribution> byStock;
    for (const Trade& trade : portfolio.trades) {
        auto& own = byStock[trade.stock];
        own.stock = trade.stock;
        own.gain += trade.gain;
        ++own.trades;
    }
    const double money = portfolio.rule.trading.money;
    for (auto& [stock, own] : byStock) {
        own.share = own.gain / money;
        told.contributions.push_back(own);
    }
    std::ranges::stable_sort(told.contributions, std::ranges::greater{},
                             &PortfolioTold::Contribution::gain);
    double best = 0.0;
    for (std::size_t i = 0; i < std::min<std::size_t>(3, told.contributions.size()); ++i)
        best += std::max(0.0, told.contributions[i].gain);
    told.withoutBestThree = (portfolio.equity.back() - best) / money - 1.0;
}

/// Each month from the last close before it, the first one from the first session.
void tellMonths(PortfolioTold& told, const Portfolio& portfolio)
{
    const auto& sessions = portfolio.sessions;
    std::size_t begin = 0; // session at whose close the month in hand begins
    const auto monthOf = [&](std::size_t at) {
        const auto date = sessions[at].date();
        return std::pair(static_cast<int>(date.year()), static_cast<unsigned>(date.month()));
    };
    for (std::size_t at = 1; at < sessions.size(); ++at) {
        const bool isLast = at + 1 == sessions.size() || monthOf(at + 1) != monthOf(at);
        if (!isLast)
            continue;
        const auto change = [&](const std::vector<double>& worths) {
            return worths.empty() || worths[begin] <= 0.0 ? missing
                                                          : worths[at] / worths[begin] - 1.0;
        };
        const auto [year, month] = monthOf(at);
        told.months.push_back({year, month, change(portfolio.equity), change(portfolio.benchmark)});
        begin = at;
    }
}

void tellYears(PortfolioTold& told)
{
    const auto compound = [](double& change, double month) {
        if (!isMissing(month))
            change = (isMissing(change) ? 1.0 : 1.0 + change) * (1.0 + month) - 1.0;
    };
    for (const PortfolioTold::Month& month : told.months) {
        if (told.years.empty() || told.years.back().year != month.year) {
            told.years.emplace_back().year = month.year;
            told.years.back().months.fill(missing);
        }
        PortfolioTold::Year& year = told.years.back();
        year.months.at(month.month - 1) = month.change;
        compound(year.change, month.change);
        compound(year.benchmark, month.benchmark);
    }
}

} // namespace

SplitMeasures splitMeasures(const Portfolio& portfolio, Day split)
{
    const std::vector<double> returns = portfolio.returns(); // the first is that of the second day
    const auto at =
        std::ranges::lower_bound(portfolio.sessions, split) - portfolio.sessions.begin();
    const auto before = static_cast<std::size_t>(std::max<std::ptrdiff_t>(0, at - 1));
    const std::span<const double> all = returns;
    return {measuresOf(all.first(std::min(before, all.size()))),
            measuresOf(all.subspan(std::min(before, all.size())))};
}

PortfolioTold toldOf(const Portfolio& portfolio)
{
    PortfolioTold told;
    const std::vector<double> returns = portfolio.returns();
    told.measures = measuresOf(returns);
    told.fall = deepestFall(returns);
    if (!portfolio.benchmark.empty()) {
        const std::vector<double> benchmark = portfolio.benchmarkReturns();
        told.ofBenchmark = measuresOf(benchmark);
        told.beside = besideBenchmark(returns, benchmark);
    }
    double invested = 0.0;
    double known = 0.0;
    double mean = 0.0;
    for (std::size_t at = 0; at < portfolio.equity.size(); ++at) {
        mean += portfolio.equity[at];
        if (isMissing(portfolio.invested[at]))
            continue;
        invested += portfolio.invested[at];
        known += 1.0;
    }
    mean /= static_cast<double>(portfolio.equity.size());
    if (known > 0.0)
        told.exposure = invested / known;
    double traded = 0.0;
    for (const Fill& fill : portfolio.fills)
        if (fill.shares != 0.0)
            traded += std::abs(fill.money + fill.cost);
    if (mean > 0.0 && !returns.empty())
        told.turnover = 0.5 * traded / mean * daysAYear / static_cast<double>(returns.size());
    tellTrades(told, portfolio);
    tellContributions(told, portfolio);
    tellMonths(told, portfolio);
    tellYears(told);
    return told;
}

std::optional<SplitMeasures> asideMeasures(const Portfolio& portfolio)
{
    const auto aside = portfolio.rule.setAside;
    if (!aside || portfolio.sessions.empty() || *aside <= portfolio.sessions.front() ||
        *aside > portfolio.sessions.back())
        return std::nullopt;
    return splitMeasures(portfolio, *aside);
}

} // namespace sieve::studies
