#include "app/sift/stack_view.h"

#include "app/parts/number_text.h"
#include "app/sift/band.h"
#include "tests/app/window_bench.h"

#include <QLabel>
#include <QSignalSpy>
#include <catch2/catch.hpp>

namespace sieve::app {

using test::OwnFolder;
using test::WindowBench;

TEST_CASE("Stack: gives back the screen that it was given", "[app]")
{
    screens::Screen screen;
    screen.name = "Name";
    screen.purpose = "Purpose";
    screen.tags = {"mine"};
    screen.universe = "kind == \"share\"";
    screen.criteria = {{"close > 5", true, "why", "from a file\n"}, {"volume > 1k", false, ""}};
    screen.rankBy = "close";
    screen.keep = 12;
    screen.columns = {"symbol"};
    StackView stack;
    const QSignalSpy committed(&stack, &StackView::committed);
    stack.setScreen(screen);
    CHECK(stack.screen() == screen);
    screen.criteria.clear();
    screen.keep = 0;
    stack.setScreen(screen);
    CHECK(stack.screen() == screen);
    CHECK(committed.count() == 0); // being shown is no edit
}

TEST_CASE("Stack: tells the costliest criterion when few are left", "[app]")
{
    StackView stack;
    screens::Screen screen;
    screen.criteria = {{"close > 5", true, ""}, {"volume > 1k", true, ""}};
    stack.setScreen(screen);
    screens::ScreenRun run;
    run.universe = 100;
    run.criteria.resize(2);
    run.criteria[0].leftAfter = 50;
    run.criteria[0].moreWithout = 2;
    run.criteria[1].leftAfter = 1;
    run.criteria[1].moreWithout = 30;
    run.guidance.mostCostly = 1;
    run.guidance.loosenings = {std::nullopt, screens::Loosening{1, 0, 900.0, 12}};
    run.criteria[1].limits.resize(1);
    run.criteria[1].limits[0].limit.bound = "1k";
    run.passing = 1;
    run.matches = {4};
    stack.setRun(run);
    const auto says = [&stack](const char* words) {
        for (const auto* label : stack.findChildren<QLabel*>())
            if (label->text().contains(QLatin1String(words)))
                return true;
        return false;
    };
    CHECK(says("costliest criterion is <i>volume &gt; 1k</i>: without it, 30 more"));
    CHECK(says("900.00 instead of 1k</a> would let 12 more in."));
    CHECK(says("without +30"));
    run.passing = 60;
    run.matches.resize(40);
    stack.setRun(run);
    CHECK(says("60 pass; the best 40 are kept"));
    run.matches.resize(60);
    run.guidance.idle = {0};
    stack.setRun(run);
    CHECK(says("60 are many to go through"));
    CHECK(says("<i>close &gt; 5</i> keeps nobody out"));
}

} // namespace sieve::app
