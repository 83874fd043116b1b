#include "core/intake/take_in.h"
#include "core/screens/name_book.h"
#include "core/screens/starter.h"
#include "core/studies/following.h"
#include "core/studies/neighbours.h"
#include "core/studies/portfolio.h"
#include "core/studies/standings.h"
#include "core/studies/study_files.h"

#include <chrono>
#include <fmt/format.h>
#include <fstream>
#include <functional>
#include <string>

// What studies cost on a market that was taken in: studies_bench MARKET.

namespace {

using namespace sieve;

/// Two hundred different screens: the ready ones, and copies whose price must also be higher.
std::vector<screens::Screen> manyScreens(std::size_t count)
{
    std::vector<screens::Screen> screens;
    for (int round = 0; screens.size() < count; ++round)
        for (screens::Screen screen : screens::starterScreens()) {
            if (round > 0)
                screen.criteria.push_back({fmt::format("close > {}", round)});
            screen.name += fmt::format(" {}", round);
            screens.push_back(std::move(screen));
            if (screens.size() == count)
                break;
        }
    return screens;
}

void timed(const std::string& what, const std::function<void()>& work)
{
    const auto begin = std::chrono::steady_clock::now();
    work();
    const double seconds =
        std::chrono::duration<double>(std::chrono::steady_clock::now() - begin).count();
    std::size_t memory = 0;
    std::ifstream status("/proc/self/status");
    for (std::string line; std::getline(status, line);)
        if (line.starts_with("RssAnon:"))
            memory = std::stoul(line.substr(8)) / 1024;
    fmt::print("{:66} {:8.2f} s  {:6} MB of its own\n", what, seconds, memory);
    std::fflush(stdout);
}

} // namespace

int main(int count, char** arguments)
{
    if (count != 2 && count != 3) {
        fmt::print(stderr, "studies_bench MARKET [first|others]\n");
        return 2;
    }
    auto opened = intake::openFolder(arguments[1]);
    if (!opened) {
        fmt::print(stderr, "{}\n", sentence(opened.error()));
        return 1;
    }
    const market::MarketPtr market = opened->market;
    const Day last = market->sessions().back();
    const screens::NameBook book;
    const auto standings = [&](engine::Evaluator& evaluator, std::size_t screens, int starts,
                               std::optional<int> held) {
        studies::StandingsTerms terms;
        terms.newest = starts;
        terms.held = held;
        const auto made =
            studies::standingsOf(studies::questionOf(terms, manyScreens(screens), *market, last),
                                 book.names(), evaluator);
        if (!made)
            fmt::print(stderr, "{}\n", sentence(made.error()));
    };
    if (count == 2 || std::string(arguments[2]) == "first") {
        engine::Evaluator evaluator(market);
        timed("200 screens, 250 starts, to the end", [&] { standings(evaluator, 200, 250, {}); });
        if (count == 3)
            return 0;
        timed("the same again", [&] { standings(evaluator, 200, 250, {}); });
        timed("the same, held 10 sessions", [&] { standings(evaluator, 200, 250, 10); });
    }
    for (const std::size_t screens :
         count == 2 ? std::vector<std::size_t>{50, 100} : std::vector<std::size_t>()) {
        engine::Evaluator evaluator(market);
        timed(fmt::format("{} screens, 250 starts, to the end", screens),
              [&] { standings(evaluator, screens, 250, {}); });
    }
    for (const int starts : count == 2 ? std::vector<int>{60, 1000} : std::vector<int>()) {
        engine::Evaluator evaluator(market);
        timed(fmt::format("200 screens, {} starts, to the end", starts),
              [&] { standings(evaluator, 200, starts, {}); });
    }
    for (const char* condition :
         {"close > highest(prior(close), 250) and volume > 2 * sma(volume, 50)",
          "close > sma(close, 200) and rsi(close, 14) < 30", "close > sma(close, 50)"}) {
        engine::Evaluator evaluator(market);
        studies::FollowingQuestion question;
        question.screen.criteria.push_back({condition});
        question.to = last;
        const auto ask = [&] {
            const auto made = studies::followingOf(question, book.names(), evaluator, last);
            if (made)
                fmt::print("  {} cases\n", made->cases.size());
            else
                fmt::print("  {}\n", sentence(made.error()));
        };
        timed(fmt::format("what followed, all years: {}", condition), ask);
        timed("the same again", ask);
    }
    for (const auto by : {studies::Rebalancing::By::Months, studies::Rebalancing::By::Sessions}) {
        engine::Evaluator evaluator(market);
        studies::PortfolioRule rule;
        studies::PortfolioStep step;
        step.screen.criteria = {
            {"close > 5"}, {"close > sma(close, 150)"}, {"sma(volume, 50) * close > 1000000"}};
        step.screen.rankBy = "change(close, 126)";
        step.hold = 20;
        rule.steps.push_back(step);
        rule.rebalancing.by = by;
        rule.to = last;
        timed(by == studies::Rebalancing::By::Months ? "a monthly portfolio, all years"
                                                     : "a daily portfolio, all years",
              [&] {
                  const auto made = studies::runPortfolio(rule, book.names(), evaluator, last);
                  if (made)
                      fmt::print("  {} trades in {} sessions\n", made->trades.size(),
                                 made->sessions.size());
              });
    }
    {
        engine::Evaluator evaluator(market);
        studies::NeighbourQuestion question;
        question.of.screen.criteria = {{"percentile(sma(volume, 50) * close) > 80"},
                                       {"rsi(close, 14) < 35"},
                                       {"distance(close, sma(close, 200)) > 5%"}};
        question.of.to = last;
        question.across.criterion = 1;
        question.down.criterion = 2;
        timed("400 neighbours of two limits, all years", [&] {
            const auto made = studies::neighboursOf(question, book.names(), evaluator, last);
            if (made)
                fmt::print("  {} cells, {} cases in its own\n", made->cells.size(),
                           made->own().cases);
            else
                fmt::print("  {}\n", sentence(made.error()));
        });
    }
    return 0;
}
