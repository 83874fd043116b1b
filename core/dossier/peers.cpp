#include "core/dossier/parts.h"
#include "core/engine/across.h"
#include "core/indicators/regression.h"
#include "core/market/as_of.h"
#include "core/screens/table.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <fmt/format.h>

// Who competes: others of its industry, near in size, whose price goes along with its own.

namespace sieve::dossier {

namespace {

constexpr std::size_t peersProposed = 6;
constexpr std::size_t sessionsCompared = 120;
/// Below this many sessions in common a correlation says nothing.
constexpr std::size_t fewestCompared = 40;

const std::array<std::string, 11> columns{"market_cap",     "half_year_change", "price_to_earnings",
                                          "price_to_sales", "dividend_yield",   "revenue_growth",
                                          "eps_growth",     "operating_margin", "return_on_equity",
                                          "debt_to_equity", "strength_126"};

/// The stock's daily changes by day, of the newest sessions by a day.
std::vector<std::pair<Day, double>> changesOf(const market::Market& market, std::size_t stock,
                                              Day day)
{
    std::vector<std::pair<Day, double>> changes;
    const auto last = market::barOn(market, stock, day);
    if (!last)
        return changes;
    const std::size_t first = *last - std::min(*last, sessionsCompared);
    std::vector<double> closes(*last - first + 1);
    market.adjusted(stock, market::BarField::Close, market.footing(stock, *last), first, closes);
    const auto days = market.bars(stock).days;
    for (std::size_t i = 1; i < closes.size(); ++i)
        changes.emplace_back(days[first + i], closes[i] / closes[i - 1] - 1.0);
    return changes;
}

/// The correlation of the changes on the days that both have; missing for too few.
double correlationOf(const std::vector<std::pair<Day, double>>& a,
                     const std::vector<std::pair<Day, double>>& b)
{
    std::vector<double> ofA;
    std::vector<double> ofB;
    for (std::size_t i = 0, k = 0; i < a.size() && k < b.size();) {
        if (a[i].first == b[k].first) {
            ofA.push_back(a[i++].second);
            ofB.push_back(b[k++].second);
        } else {
            (a[i].first < b[k].first ? i : k) += 1;
        }
    }
    if (ofA.size() < fewestCompared)
        return missing;
    double correlation = missing;
    indicators::correlation(ofA, ofB, static_cast<int>(ofA.size()), {0, ofA.size() - 1},
                            std::span(&correlation, 1));
    return correlation;
}

struct Proposed {
    std::size_t stock = 0;
    double correlation = missing;
    double nearness = 0.0;
};

/// Shares of the same industry, the nearest first: by the correlation of daily changes over 120
/// sessions, less a tenth for each time that one is e times as large as the other.
std::vector<Proposed> proposedPeers(const Subject& subject, const Progress& progress)
{
    const market::Market& market = subject.evaluator.market();
    const std::string& industry = market.instrument(subject.stock).industry;
    std::vector<Proposed> all;
    if (industry.empty())
        return all;
    engine::Plan plan;
    const engine::NodeId targets[] = {
        language::check("converted(market_cap)", subject.names, plan)->node};
    const auto sizes = subject.evaluator.columns(plan, targets, subject.day, progress)[0];
    const auto own = changesOf(market, subject.stock, subject.day);
    for (const std::size_t stock : market::stocksListed(market, subject.day)) {
        if (stock == subject.stock || market.instrument(stock).industry != industry)
            continue;
        if (progress.stopRequested())
            throw Stopped{};
        Proposed peer{stock, correlationOf(own, changesOf(market, stock, subject.day))};
        const double apart = std::fabs(std::log((*sizes)[stock] / (*sizes)[subject.stock]));
        peer.nearness = (isMissing(peer.correlation) ? 0.0 : peer.correlation) -
                        0.1 * (std::isfinite(apart) ? apart : 5.0);
        all.push_back(peer);
    }
    std::ranges::stable_sort(all, std::ranges::greater(), &Proposed::nearness);
    return all;
}

} // namespace

void layOutPeers(Part& part, const Subject& subject, const Progress& progress)
{
    const market::Market& market = subject.evaluator.market();
    std::vector<Proposed> peers;
    if (subject.choices.peers.empty()) {
        peers = proposedPeers(subject, progress);
        if (peers.size() > peersProposed)
            peers.resize(peersProposed);
        if (peers.empty()) {
            part.words.emplace_back(market.instrument(subject.stock).industry.empty()
                                        ? "Its industry is not known, so that none are proposed."
                                        : "No other stock of its industry is listed.");
            return;
        }
        part.words.push_back(
            fmt::format("Proposed: of the industry “{}”, near in size, and moving alike.",
                        market.instrument(subject.stock).industry));
    } else {
        const auto own = changesOf(market, subject.stock, subject.day);
        for (const std::string& symbol : subject.choices.peers) {
            const auto stock = market.find(symbol, subject.day);
            if (stock && *stock != subject.stock)
                peers.push_back(
                    {*stock, correlationOf(own, changesOf(market, *stock, subject.day))});
            else if (!stock)
                part.words.push_back(fmt::format("The market does not have {}.", symbol));
        }
    }
    std::vector<std::size_t> stocks{subject.stock};
    for (const Proposed& peer : peers)
        stocks.push_back(peer.stock);
    const screens::ResultTable figures = screens::makeTable(
        stocks, columns, subject.names, subject.evaluator, subject.day, {}, progress);
    Table table{"peers.figures", "Side by side", Form::Table, {"correlation"}};
    for (const screens::TableColumn& column : figures.columns)
        table.heads.push_back(column.head);
    const auto add = [&](const std::string& title, double correlation, auto valueOf) {
        Row& row = table.rows.emplace_back();
        row.title = title;
        row.cells.push_back({.value = correlation, .unit = Unit::Ratio, .decimals = 2});
        for (const screens::TableColumn& column : figures.columns)
            row.cells.push_back({.value = valueOf(column),
                                 .kind = column.kind,
                                 .unit = column.unit,
                                 .decimals = column.decimals,
                                 .isInMarketCurrency = true});
    };
    for (std::size_t i = 0; i < stocks.size(); ++i) {
        add(market::symbolOn(market.instrument(stocks[i]), subject.day),
            i == 0 ? missing : peers[i - 1].correlation,
            [i](const screens::TableColumn& column) { return column.compared()[i]; });
        table.rows.back().stock = stocks[i];
        table.rows.back().meaning = market.instrument(stocks[i]).name;
    }
    // Of the peers alone: the stock itself is set against it.
    add("Median of the peers", missing, [](const screens::TableColumn& column) {
        return engine::valueOfTheDay(engine::Op::Median, std::span(column.compared()).subspan(1));
    });
    if (market.hasOtherCurrencies())
        table.notes.push_back(fmt::format("Money in {}.", market.currency()));
    part.tables.push_back(std::move(table));
}

} // namespace sieve::dossier
