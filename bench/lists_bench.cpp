#include "core/briefing/brief.h"
#include "core/screens/name_book.h"
#include "core/screens/run.h"
#include "core/screens/starter.h"
#include "core/storage/market_file.h"
#include "core/watchlists/alert_watch.h"
#include "core/watchlists/list_told.h"

#include <algorithm>
#include <chrono>
#include <cstdio>
#include <cstdlib>
#include <fmt/format.h>
#include <functional>
#include <string>
#include <vector>

// lists_bench MARKET-FOLDER [ROUNDS]
// A person's 200 lists with 20,000 entries and 5,000 alerts over a market taken in before: how long
// a new day's states, alerts and brief take. Each is told as the median of its rounds.

namespace {

using namespace sieve;
using watchlists::Alert;
using watchlists::Entry;
using watchlists::TradePlan;
using watchlists::Watchlist;

/// A plan a few percent above the close of a day half a year before the newest; of every tenth the
/// stop follows the lows.
Entry plannedEntry(const market::Market& market, std::size_t stock, Day day, std::size_t number)
{
    const double close = watchlists::priceOn(market, stock, day);
    Entry entry{market::symbolOn(market.instrument(stock), day), day, close, "why", "Dips"};
    if (!isMissing(close))
        entry.plan = TradePlan{day, 1.03 * close, 0.94 * close, {1.1 * close, 1.25 * close}};
    if (entry.plan && number % 10 == 0)
        entry.plan->stopRule = "lowest(low, 20)";
    if (entry.plan && number % 4 == 0)
        (void)addTrade(entry, {day, close, 100.0});
    return entry;
}

std::vector<Shared<Watchlist>> twoHundredLists(const market::Market& market, Day day)
{
    std::vector<std::size_t> stocks = market::stocksListed(market, day);
    std::vector<Shared<Watchlist>> lists;
    std::size_t next = 0;
    for (int list = 1; list <= 200; ++list) {
        Watchlist made{list, fmt::format("List {}", list), {}};
        for (int entry = 0; entry < 100; ++entry, ++next)
            made.entries.push_back(
                plannedEntry(market, stocks[next * 7 % stocks.size()], day, next));
        lists.emplace_back(std::move(made));
    }
    return lists;
}

/// Four levels for each rule of one stock, and a few of whole lists.
std::vector<Shared<Alert>> fiveThousandAlerts(const market::Market& market, Day since)
{
    const std::vector<std::size_t> stocks = market::stocksListed(market, since);
    const char* rules[] = {"rsi(close, 14) < 30", "close > prior(highest(high, 50))",
                           "close < sma(close, 50)", "volume > 2 * sma(volume, 50)"};
    std::vector<Shared<Alert>> alerts;
    for (std::size_t i = 0; i < 5000; ++i) {
        Alert alert;
        alert.id = static_cast<std::int64_t>(i) + 1;
        alert.since = since;
        const std::size_t stock = stocks[i * 13 % stocks.size()];
        alert.about.symbol = market::symbolOn(market.instrument(stock), since);
        alert.what = i % 5 == 0 ? Alert::What::Rule : Alert::What::Level;
        alert.level = 1.05 * watchlists::priceOn(market, stock, since);
        alert.rule = rules[i % std::size(rules)];
        alert.repeat = Alert::Repeat::EachCrossing;
        alerts.emplace_back(alert);
    }
    return alerts;
}

void tell(const char* what, int rounds, const std::function<std::size_t()>& work)
{
    std::vector<double> times;
    std::size_t count = 0;
    for (int round = 0; round < rounds; ++round) {
        const auto begin = std::chrono::steady_clock::now();
        count = work();
        times.push_back(
            std::chrono::duration<double>(std::chrono::steady_clock::now() - begin).count());
    }
    std::ranges::sort(times);
    std::puts(fmt::format("{:44} {:8.1f} ms   ({})", what, 1000.0 * times[times.size() / 2], count)
                  .c_str());
}

} // namespace

int main(int count, char** arguments)
{
    if (count < 2) {
        std::fputs("lists_bench MARKET-FOLDER [ROUNDS]\n", stderr);
        return 2;
    }
    const int rounds = count > 2 ? std::max(std::atoi(arguments[2]), 1) : 5;
    const auto opened = storage::openMarket(arguments[1]);
    if (!opened) {
        std::fputs((sentence(opened.error()) + '\n').c_str(), stderr);
        return 1;
    }
    engine::Evaluator evaluator(*opened);
    const market::Market& market = evaluator.market();
    const auto sessions = market.sessions();
    const Day today = sessions.back();
    const Day then = sessions[sessions.size() - 126];
    screens::NameBook book;
    for (const screens::Screen& screen : screens::starterScreens())
        book.screens[screen.name] = screens::conditionOf(screen);
    const auto lists = twoHundredLists(market, then);
    tell("states of 20,000 entries, half a year", rounds, [&] {
        std::size_t changes = 0;
        for (const auto& list : lists)
            for (const auto& course : coursesOf(list->entries, evaluator, book.names(), {}, today))
                changes += course.changes.size();
        return changes;
    });
    tell("a list of 100 entries, all that is told of it", rounds,
         [&] { return tell(*lists[0], evaluator, book.names(), {}, today).entries.size(); });
    Watchlist byRule{300, "By rule", {}, {}, {.screen = screens::starterScreens()[0].name}};
    tell("a list that a screen keeps, with a year", rounds,
         [&] { return tell(byRule, evaluator, book.names(), {}, today).entries.size(); });
    const auto alerts = fiveThousandAlerts(market, then);
    tell("5,000 alerts, the newest day of half a year", rounds, [&] {
        return watchlists::watch({alerts, lists}, evaluator, book.names(),
                                 sessions[sessions.size() - 2], today)
            .raised.size();
    });
    library::Work work;
    work.lists = lists;
    for (int list = 0; list < 5; ++list)
        work.lists.emplace_back(
            Watchlist{300 + list,
                      fmt::format("By rule {}", list),
                      {},
                      {},
                      {.screen = screens::starterScreens()[static_cast<std::size_t>(list)].name}});
    for (std::size_t i = 0; i < screens::starterScreens().size(); ++i)
        keepScreen(work, screens::starterScreens()[i], static_cast<std::int64_t>(i));
    const auto reading = conditions::readMarket(evaluator, book.names(), *work.marketBook);
    const auto groups = conditions::readGroups(evaluator);
    for (const auto& [what, back] : {std::pair("the brief since the session before", 1),
                                     std::pair("the brief since a month ago", 21)})
        tell(what, rounds, [&, back = static_cast<std::size_t>(back)] {
            return briefing::makeBrief({work, reading, groups}, evaluator, book.names(),
                                       sessions[sessions.size() - 1 - back], today)
                .parts.size();
        });
    return 0;
}
