#include "core/screens/starter.h"

#include "core/language/checker.h"
#include "core/screens/run.h"
#include "core/screens/table.h"
#include "demo_market/dataset.h"

#include <atomic>
#include <catch2/catch.hpp>
#include <set>

namespace sieve::screens {

namespace {

/// All screens on every session of a market's last five years at once: what they share is evaluated
/// once.
struct Best {
    std::vector<std::uint32_t> passing;  ///< a screen: on its best session
    std::vector<std::uint32_t> universe; ///< of that session
};

Best bestDays(const std::vector<Screen>& screens, engine::Evaluator& evaluator)
{
    engine::Plan plan;
    const language::Names names{language::Vocabulary::builtIn()};
    std::vector<engine::NodeId> targets; // a screen: itself and its universe
    for (const Screen& screen : screens) {
        std::string text = "(" + screen.universe + ")";
        for (const Criterion& criterion : screen.criteria)
            text += " and (" + criterion.text + ")";
        for (const std::string& each : {text, screen.universe})
            targets.push_back(checkCondition(each, names, plan)->node);
    }
    const auto days = evaluator.market().sessions().last(1300);
    std::vector<std::atomic<std::uint32_t>> counts(targets.size() * days.size());
    evaluator.sweep(plan, targets, days, [&](const engine::SweepValues& swept) {
        for (std::size_t target = 0; target < targets.size(); ++target)
            for (std::size_t day = 0; day < swept.bars.size(); ++day)
                if (swept.value(target, day) == 1.0)
                    ++counts[target * days.size() + swept.firstDay + day];
    });
    Best best;
    for (std::size_t screen = 0; screen < screens.size(); ++screen) {
        const auto first = counts.begin() + static_cast<std::ptrdiff_t>(2 * screen * days.size());
        const auto most = std::max_element(first, first + static_cast<std::ptrdiff_t>(days.size()));
        best.passing.push_back(*most);
        best.universe.push_back(*(most + static_cast<std::ptrdiff_t>(days.size())));
    }
    return best;
}

} // namespace

TEST_CASE("Starter screens: each checks, has a purpose, tags and columns that mean something",
          "[screens]")
{
    const language::Names names{language::Vocabulary::builtIn()};
    std::set<std::string> purposes;
    std::set<std::string> contents;
    CHECK(starterScreens().size() >= 50);
    for (const Screen& screen : starterScreens()) {
        INFO(screen.name);
        engine::Plan plan;
        CHECK(screen.purpose.size() > 20);
        CHECK(purposes.insert(screen.purpose).second);
        CHECK_FALSE(screen.tags.empty());
        CHECK(screen.criteria.size() >= 2);
        CHECK(screen.columns.size() >= 5);
        std::string all;
        for (const Criterion& criterion : screen.criteria) {
            const auto checked = checkCondition(criterion.text, names, plan);
            INFO(criterion.text);
            CHECK(checked);
            CHECK((checked && checked->warnings.empty()));
            all += criterion.text + "\n";
        }
        CHECK(contents.insert(all).second);
        CHECK(checkCondition(screen.universe, names, plan));
        CHECK(check(screen.rankBy, names, plan));
        for (const std::string& column : screen.columns) {
            INFO(column);
            CHECK(language::Vocabulary::builtIn().field(column));
        }
    }
}

TEST_CASE("Starter screens: on its best day each finds some of the demo market and not all",
          "[screens][whole]")
{
    demo_market::DemoMarket made = demo_market::makeMarket(20260930);
    engine::Evaluator evaluator(std::make_shared<const market::Market>(std::move(made.description),
                                                                       std::move(made.records)));
    const std::vector<Screen>& screens = starterScreens();
    const Best best = bestDays(screens, evaluator);
    for (std::size_t i = 0; i < screens.size(); ++i) {
        INFO(screens[i].name << ": " << best.passing[i] << " of " << best.universe[i]);
        CHECK(best.passing[i] > 0);
        CHECK(best.passing[i] < best.universe[i] / 2);
    }
}

} // namespace sieve::screens
