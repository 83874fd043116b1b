#include "app/chart/price_chart.h"
#include "app/lists/review_view.h"
#include "app/parts/actions.h"
#include "app/wall/chart_wall.h"
#include "core/watchlists/stocks.h"
#include "tests/app/opened.h"

#include <QTreeWidget>
#include <algorithm>
#include <catch2/catch.hpp>

// What became of ideas, in the window.

namespace sieve::app {

using namespace test;

TEST_CASE("Review: its cases open as a wall on which the day of each is marked", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    const market::Market& market = bench.desk->market().data();
    const auto sessions = market.sessions();
    const Day first = sessions[sessions.size() - 40];
    const Day later = sessions[sessions.size() - 15];
    const auto entryOf = [&](std::size_t stock, Day day) {
        watchlists::Entry entry{market::symbolOn(market.instrument(stock), day), day,
                                watchlists::priceOn(market, stock, day)};
        entry.reason = "tight";
        return entry;
    };
    bench.desk->work().edit(QStringLiteral("test"), [&](Work& work) {
        work.lists = {
            listOf(bench.desk->work().newId(), "Quay", {entryOf(3, first), entryOf(4, later)}),
            listOf(bench.desk->work().newId(), "Pier", {entryOf(3, later)})};
    });
    bench.go("lists");
    findAction(*bench.window, ActionId::ShowReview)->trigger();
    bench.settle();
    const auto* review = bench.window->findChild<ReviewView*>();
    REQUIRE(review->isVisible());
    buttonOf<QPushButton>(*review, QStringLiteral("&Wall of these cases"))->click();
    bench.settle();
    const auto* wall = bench.window->place(QStringLiteral("lists"))->findChild<ChartWall*>();
    REQUIRE(wall->isVisible());
    CHECK(wall->stocksShown() == 2); // a stock that came twice has one chart
    std::vector<std::pair<Day, std::string>> marked;
    for (auto* chart : wall->findChildren<PriceChart*>())
        for (const charts::Mark& mark : chart->view().chart().marks)
            if (mark.kind == charts::MarkKind::Match)
                marked.emplace_back(chart->view().chart().bars->days[mark.bar], mark.text);
    std::ranges::sort(marked);
    using Marked = std::vector<std::pair<Day, std::string>>;
    CHECK(marked == Marked{{first, "onto Quay: tight"},
                           {later, "onto Pier: tight"},
                           {later, "onto Quay: tight"}});
}

} // namespace sieve::app
