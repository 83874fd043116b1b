#include "core/studies/study_sheets.h"

#include "core/market/instrument.h"
#include "core/studies/cautions.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <numeric>

namespace sieve::studies {

namespace {

using exports::Cell;
using exports::Sheet;

Cell figure(double value)
{
    return isMissing(value) ? Cell() : Cell(value);
}

Cell number(std::size_t count)
{
    return static_cast<double>(count);
}

void addFigures(std::vector<Cell>& row, std::initializer_list<double> values)
{
    for (const double value : values)
        row.push_back(figure(value));
}

} // namespace

Sheet sheetOf(const Following& following)
{
    Sheet sheet{{"after",
                 "cases",
                 "known",
                 "mean",
                 "mean_low",
                 "mean_high",
                 "median",
                 "lower_quarter",
                 "upper_quarter",
                 "deviation",
                 "least",
                 "most",
                 "share_up",
                 "share_up_low",
                 "share_up_high",
                 "all_mean",
                 "all_median",
                 "all_share_up",
                 "excess",
                 "excess_low",
                 "excess_high",
                 "chance",
                 "picks",
                 "effective_cases",
                 "worst_on_the_way",
                 "best_on_the_way",
                 "bars_to_best",
                 "repeated",
                 "repeated_mean",
                 "repeated_share_up",
                 "without_delisted_mean",
                 "matches",
                 "stocks",
                 "days",
                 "most_on_a_day",
                 "overlapping",
                 "delisted"},
                {}};
    for (const FollowedHorizon& each : following.horizons) {
        auto& row = sheet.rows.emplace_back();
        row.emplace_back(static_cast<double>(each.bars));
        row.push_back(number(following.cases.size()));
        row.push_back(number(each.own.known));
        addFigures(row, {each.own.mean, each.sure.mean.low, each.sure.mean.high, each.own.median,
                         each.own.lowerQuarter, each.own.upperQuarter, each.own.deviation,
                         each.own.least, each.own.most, each.own.shareUp, each.sure.shareUp.low,
                         each.sure.shareUp.high, meanOfKnown(each.others), each.all.median,
                         each.all.shareUp, each.excess, each.sure.excess.low, each.sure.excess.high,
                         each.chance});
        row.emplace_back(static_cast<double>(following.picks));
        addFigures(row, {each.effective, each.lowMedian, each.highMedian, each.barsToBestMedian});
        row.push_back(number(each.repeated.known));
        addFigures(row, {each.repeated.mean, each.repeated.shareUp, each.withoutGone});
        for (const std::size_t count :
             {following.matches, following.stocks, following.daysWithCases, following.mostOnADay,
              following.overlapping, following.gone})
            row.push_back(number(count));
    }
    return sheet;
}

Sheet groupsSheet(const Following& following, const CaseGroups& groups)
{
    constexpr Unit share = Unit::Percent;
    Sheet sheet{{groups.by, "after", "known", "mean", "median", "share_up", "all_mean", "excess"},
                {},
                {Unit::Plain, Unit::Plain, Unit::Plain, share, share, share, share, share}};
    for (std::size_t horizon = 0; horizon < following.horizons.size(); ++horizon)
        for (const GroupTold& told : groupsTold(following, groups, horizon)) {
            auto& row = sheet.rows.emplace_back();
            row.emplace_back(told.name);
            row.emplace_back(static_cast<double>(following.horizons[horizon].bars));
            row.push_back(number(told.own.known));
            addFigures(row, {told.own.mean, told.own.median, told.own.shareUp, told.others,
                             told.own.mean - told.others});
        }
    return sheet;
}

Sheet casesSheet(const Following& following, const market::Market& market)
{
    Sheet sheet{{"symbol", "date", "first", "overlapping", "bought_at"}, {}};
    for (const FollowedHorizon& each : following.horizons)
        for (const char* what : {"after", "all_after", "lowest", "highest", "bars_to_best"})
            sheet.columns.push_back(fmt::format("{}_{}", what, each.bars));
    for (const std::string& text : following.question.strengths)
        sheet.columns.push_back(text);
    for (std::size_t at = 0; at < following.cases.size(); ++at) {
        const FollowedCase& own = following.cases[at];
        auto& row = sheet.rows.emplace_back();
        row.emplace_back(market::symbolOn(market.instrument(own.of.stock), own.day));
        row.emplace_back(own.day);
        row.emplace_back(own.isFirst);
        row.emplace_back(own.isOverlapping);
        row.push_back(figure(own.bought));
        for (const FollowedHorizon& each : following.horizons)
            addFigures(row, {each.changes[at], each.others[at], each.lowest[at], each.highest[at],
                             each.barsToBest[at]});
        for (const auto& strength : following.strengths)
            row.push_back(figure(strength[at]));
    }
    return sheet;
}

Sheet sheetOf(const Neighbours& neighbours)
{
    Sheet sheet{{neighbours.down, neighbours.across, "cases", "mean", "excess", "own"}, {}};
    const auto& question = neighbours.question;
    for (std::size_t down = 0; down < question.down.bounds.size(); ++down)
        for (std::size_t across = 0; across < question.across.bounds.size(); ++across) {
            const Neighbours::Cell& cell = neighbours.at(down, across);
            auto& row = sheet.rows.emplace_back();
            addFigures(row, {question.down.bounds[down], question.across.bounds[across]});
            row.push_back(number(cell.cases));
            addFigures(row, {cell.mean, cell.excess});
            row.emplace_back(down == neighbours.ownDown && across == neighbours.ownAcross);
        }
    return sheet;
}

Sheet walkSheet(const Neighbours& neighbours)
{
    Sheet sheet{{"year", neighbours.down, neighbours.across, "cases_before", "excess_before",
                 "cases_after", "excess_after", "own_cases", "own_excess"},
                {}};
    const auto& question = neighbours.question;
    for (const Neighbours::WalkStep& step : neighbours.walk) {
        auto& row = sheet.rows.emplace_back();
        row.push_back(number(static_cast<std::size_t>(step.year)));
        addFigures(row, {question.down.bounds[step.down], question.across.bounds[step.across]});
        for (const Neighbours::Cell* cell : {&step.before, &step.after, &step.own}) {
            row.push_back(number(cell->cases));
            addFigures(row, {cell->excess});
        }
    }
    return sheet;
}

namespace {

std::string sideOf(const screens::Screen& screen)
{
    return screen.side == screens::ScreenSide::Short ? "short" : "long";
}

} // namespace

Sheet healthSheet(const Standings& standings)
{
    Sheet sheet{{"start", "long_gain", "long_share_gained", "short_gain", "short_share_gained",
                 "benchmark"},
                {}};
    const Health rising = healthOf(standings, screens::ScreenSide::Long);
    const Health falling = healthOf(standings, screens::ScreenSide::Short);
    for (std::size_t start = 0; start < standings.startAt.size(); ++start) {
        auto& row = sheet.rows.emplace_back();
        row.emplace_back(standings.question.starts[start]);
        addFigures(row, {rising.gain[start], rising.share[start], falling.gain[start],
                         falling.share[start],
                         standings.of.empty() || standings.of.front().benchmark.empty()
                             ? missing
                             : standings.of.front().benchmark[start]});
    }
    return sheet;
}

Sheet sheetOf(const Standings& standings)
{
    Sheet sheet{{"screen",         "side",
                 "starts",         "gain_mean",
                 "gain_median",    "gain_deviation",
                 "gain_least",     "gain_most",
                 "share_gained",   "worst_fall",
                 "all_mean",       "share_above_all",
                 "benchmark_mean", "share_above_benchmark",
                 "chance",         "pickings",
                 "mean_picks",     "empty_starts",
                 "fewer_starts",   "fault"},
                {}};
    std::vector<std::size_t> order(standings.of.size());
    std::iota(order.begin(), order.end(), std::size_t{0});
    std::ranges::stable_sort(order, [&](std::size_t a, std::size_t b) {
        const double first = standings.of[a].gain.mean;
        const double second = standings.of[b].gain.mean;
        if (isMissing(first) || isMissing(second))
            return !isMissing(first) && isMissing(second);
        return first > second;
    });
    for (const std::size_t at : order) {
        const Standing& own = standings.of[at];
        const auto& fault = standings.faults[at];
        auto& row = sheet.rows.emplace_back();
        row.emplace_back(standings.question.screens[at].name);
        row.emplace_back(sideOf(standings.question.screens[at]));
        row.push_back(number(own.gain.known));
        addFigures(row,
                   {own.gain.mean, own.gain.median, own.gain.deviation, own.gain.least,
                    own.gain.most, own.gain.shareUp, own.worstFall, own.meanAll, own.shareAboveAll,
                    own.meanBenchmark, own.shareAboveBenchmark, own.chance});
        row.emplace_back(static_cast<double>(own.pickings));
        addFigures(row, {own.meanPicks});
        row.push_back(number(own.empty));
        row.push_back(number(own.fewer));
        row.push_back(fault ? Cell(sentence(*fault)) : Cell());
        std::string cautions;
        for (const Caution& caution : cautionsOf(standings, at))
            cautions += (cautions.empty() ? "" : " ") + caution.words;
        row.push_back(fault || cautions.empty() ? Cell() : Cell(cautions));
    }
    return sheet;
}

Sheet startsSheet(const Standings& standings)
{
    Sheet sheet{{"screen", "start", "picks", "gain", "all", "benchmark"}, {}};
    for (std::size_t at = 0; at < standings.of.size(); ++at) {
        const Standing& own = standings.of[at];
        for (std::size_t start = 0; start < own.gains.size(); ++start) {
            auto& row = sheet.rows.emplace_back();
            row.emplace_back(standings.question.screens[at].name);
            row.emplace_back(standings.question.starts[start]);
            row.push_back(number(own.picks[start]));
            addFigures(row, {own.gains[start], own.all[start], own.benchmark[start]});
        }
    }
    return sheet;
}

Sheet curvesSheet(const Standings& standings)
{
    Sheet sheet{{"date"}, {}};
    for (const screens::Screen& screen : standings.question.screens)
        sheet.columns.push_back(screen.name);
    sheet.columns.emplace_back("benchmark");
    for (std::size_t session = 0; session < standings.sessions.size(); ++session) {
        auto& row = sheet.rows.emplace_back();
        row.emplace_back(standings.sessions[session]);
        for (const Standing& own : standings.of)
            row.push_back(own.curve.empty() ? Cell() : figure(own.curve[session]));
        row.push_back(standings.benchmarkCurve.empty() ? Cell()
                                                       : figure(standings.benchmarkCurve[session]));
    }
    return sheet;
}

Sheet gainsBySheet(const Standings& standings, std::span<const std::size_t> places,
                   std::span<const std::string> names)
{
    Sheet sheet{{"screen", "side", "when", "starts", "gain_mean", "gain_median", "share_gained"},
                {}};
    for (std::size_t at = 0; at < standings.of.size(); ++at) {
        const auto gains = gainsBy(standings.of[at], places, names.size());
        for (std::size_t name = 0; name < names.size(); ++name) {
            auto& row = sheet.rows.emplace_back();
            row.emplace_back(standings.question.screens[at].name);
            row.emplace_back(sideOf(standings.question.screens[at]));
            row.emplace_back(names[name]);
            row.push_back(number(gains[name].known));
            addFigures(row, {gains[name].mean, gains[name].median, gains[name].shareUp});
        }
    }
    return sheet;
}

Sheet sheetOf(const Portfolio& portfolio, const PortfolioTold& told)
{
    Sheet sheet{{"metric", "value", "benchmark"}, {}};
    const auto benchmark = told.ofBenchmark ? namedMeasures(*told.ofBenchmark)
                                            : std::vector<std::pair<std::string, double>>();
    const auto own = namedMeasures(told.measures);
    for (std::size_t i = 0; i < own.size(); ++i)
        sheet.rows.push_back({own[i].first, figure(own[i].second),
                              benchmark.empty() ? Cell() : figure(benchmark[i].second)});
    const auto add = [&](const char* name, Cell value) {
        sheet.rows.push_back({std::string(name), std::move(value), Cell()});
    };
    if (told.beside)
        for (const auto& [name, value] : namedMeasures(*told.beside))
            add(name.c_str(), figure(value));
    if (told.fall) {
        // The first return is that of the second session.
        add("mdd_peak_date", told.fall->peak ? portfolio.sessions[*told.fall->peak + 1]
                                             : portfolio.sessions.front());
        add("mdd_trough_date", portfolio.sessions[told.fall->trough + 1]);
        add("mdd_recovery_date", told.fall->recovery
                                     ? Cell(portfolio.sessions[*told.fall->recovery + 1])
                                     : Cell(std::string("none")));
        add("mdd_days", number(told.fall->days(portfolio.equity.size() - 1)));
    }
    add("final_equity", figure(portfolio.equity.back()));
    add("exposure", figure(told.exposure));
    add("turnover", figure(told.turnover));
    add("costs", figure(portfolio.costs));
    add("trades", number(told.trades));
    add("share_won", figure(told.shareWon));
    add("mean_change", figure(told.meanChange));
    add("gain_by_loss", figure(told.gainByLoss));
    add("mean_bars", figure(told.meanBars));
    add("delisted_trades", number(told.delisted));
    add("without_best_three", figure(told.withoutBestThree));
    add("chosen_on", number(portfolio.chosenOn));
    add("unfilled_orders", number(portfolio.unfilled));
    add("unknown_market_sessions", number(portfolio.unknownMarket));
    add("ruined", portfolio.isRuined);
    return sheet;
}

Sheet sheetOf(const SplitMeasures& split)
{
    Sheet sheet{{"metric", "before", "from"}, {}};
    const auto before = namedMeasures(split.before);
    const auto from = namedMeasures(split.from);
    for (std::size_t i = 0; i < before.size(); ++i)
        sheet.rows.push_back({before[i].first, figure(before[i].second), figure(from[i].second)});
    return sheet;
}

Sheet curveSheet(const Portfolio& portfolio)
{
    Sheet sheet{{"date", "equity", "cash", "invested", "held", "step", "drawdown", "benchmark"},
                {}};
    double highest = 0.0;
    for (std::size_t at = 0; at < portfolio.sessions.size(); ++at) {
        highest = std::max(highest, portfolio.equity[at]);
        auto& row = sheet.rows.emplace_back();
        row.emplace_back(portfolio.sessions[at]);
        addFigures(row, {portfolio.equity[at], portfolio.cash[at], portfolio.invested[at]});
        row.push_back(number(portfolio.held[at]));
        row.push_back(portfolio.step[at] < 0 ? Cell() : Cell(portfolio.step[at] + 1.0));
        addFigures(row, {portfolio.equity[at] / highest - 1.0,
                         portfolio.benchmark.empty() ? missing : portfolio.benchmark[at]});
    }
    return sheet;
}

Sheet tradesSheet(const Portfolio& portfolio, const market::Market& market)
{
    Sheet sheet{{"symbol", "entered", "left", "why", "entry_price", "exit_price", "paid", "gain",
                 "change", "bars", "worst", "best"},
                {}};
    for (const Trade& trade : portfolio.trades) {
        auto& row = sheet.rows.emplace_back();
        const Day entered = portfolio.sessions[trade.entered];
        row.emplace_back(market::symbolOn(market.instrument(trade.stock), entered));
        row.emplace_back(entered);
        row.push_back(trade.left ? Cell(portfolio.sessions[*trade.left]) : Cell());
        row.emplace_back(trade.left ? std::string(whyName(trade.why)) : "held");
        addFigures(row, {trade.entryPrice, trade.exitPrice, trade.paid, trade.gain, trade.change});
        row.emplace_back(static_cast<double>(trade.bars));
        addFigures(row, {trade.worst, trade.best});
    }
    return sheet;
}

Sheet fillsSheet(const Portfolio& portfolio, const market::Market& market)
{
    Sheet sheet{{"date", "symbol", "why", "shares", "price", "money", "cost"}, {}};
    for (const Fill& fill : portfolio.fills) {
        auto& row = sheet.rows.emplace_back();
        const Day day = portfolio.sessions[fill.session];
        row.emplace_back(day);
        row.emplace_back(market::symbolOn(market.instrument(fill.stock), day));
        row.emplace_back(std::string(whyName(fill.why)));
        addFigures(row, {fill.shares, fill.price, fill.money, fill.cost});
    }
    return sheet;
}

Sheet monthsSheet(const PortfolioTold& told)
{
    Sheet sheet{{"year", "month", "change", "benchmark"},
                {},
                {Unit::Plain, Unit::Plain, Unit::Percent, Unit::Percent}};
    for (const auto& month : told.months) {
        auto& row = sheet.rows.emplace_back();
        row.emplace_back(static_cast<double>(month.year));
        row.emplace_back(static_cast<double>(month.month));
        addFigures(row, {month.change, month.benchmark});
    }
    return sheet;
}

Sheet yearsSheet(const PortfolioTold& told)
{
    const auto inPercent = [](double change) -> exports::Cell {
        if (isMissing(change))
            return std::string();
        const double tenths = std::round(1000.0 * change);
        return fmt::format("{:.1f}", tenths == 0.0 ? 0.0 : tenths / 10.0);
    };
    Sheet sheet{{"%", "year", "index", "Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug",
                 "Sep", "Oct", "Nov", "Dec"},
                {}};
    for (const auto& year : told.years) {
        auto& row = sheet.rows.emplace_back();
        row.emplace_back(std::to_string(year.year));
        row.push_back(inPercent(year.change));
        row.push_back(inPercent(year.benchmark));
        for (const double month : year.months)
            row.push_back(inPercent(month));
    }
    return sheet;
}

Sheet contributionsSheet(const PortfolioTold& told, const market::Market& market, Day day)
{
    Sheet sheet{{"symbol", "trades", "gain", "share"},
                {},
                {Unit::Plain, Unit::Plain, Unit::Money, Unit::Percent}};
    for (const auto& own : told.contributions) {
        auto& row = sheet.rows.emplace_back();
        row.emplace_back(market::symbolOn(market.instrument(own.stock), day));
        row.push_back(number(own.trades));
        addFigures(row, {own.gain, own.share});
    }
    return sheet;
}

void addPicks(Sheet& sheet, const std::string& screen, Day start,
              std::span<const StandingPick> picks, const market::Market& market)
{
    for (const StandingPick& pick : picks) {
        auto& row = sheet.rows.emplace_back();
        row.emplace_back(screen);
        row.emplace_back(start);
        row.emplace_back(market::symbolOn(market.instrument(pick.stock), start));
        row.emplace_back(pick.weight);
        row.push_back(figure(pick.gain));
    }
}

} // namespace sieve::studies
