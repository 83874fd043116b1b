#include "app/wall/chart_wall.h"

#include "app/chart/chart_view.h"
#include "app/parts/actions.h"
#include "app/parts/expression_edit.h"
#include "app/parts/number_text.h"
#include "app/wall/wall_pages.h"
#include "core/watchlists/stocks.h"
#include "tests/app/opened.h"

#include <QComboBox>
#include <QThreadPool>
#include <QToolButton>
#include <catch2/catch.hpp>
#include <fstream>

// Walls of charts: what is on them, in which order, and what is decided there.

namespace sieve::app {

namespace {

using test::OwnFolder;
using test::WindowBench;
using watchlists::Mark;

/// Twelve in hand, on the wall of Weigh.
struct OnWall {
    OnWall() : bench(own.path() / "library.sqlite")
    {
        for (std::size_t stock = 2; stock < 14; ++stock)
            symbols.push_back(bench.desk->market().data().instrument(stock).symbol);
        bench.desk->work().edit(QStringLiteral("test"), [&](Work& work) {
            work.tray = test::trayOf(bench, symbols, "test");
            work.lists = {test::listOf(1, "First")};
        });
        bench.go("weigh");
        place = bench.window->place(QStringLiteral("weigh"));
        findAction(*place, ActionId::ShowTrayWall)->trigger();
        bench.settle();
        wall = place->findChild<ChartWall*>();
    }

    std::vector<std::string> shown() const
    {
        std::vector<std::string> all;
        for (auto* chart : wall->findChildren<PriceChart*>())
            if (chart->isVisible())
                all.push_back(chart->view().chart().symbol);
        return all;
    }
    PriceChart* chartOf(const std::string& symbol) const
    {
        for (auto* chart : wall->findChildren<PriceChart*>())
            if (chart->isVisible() && chart->view().chart().symbol == symbol)
                return chart;
        FAIL("not on the wall");
        return nullptr;
    }
    void press(Qt::Key key) const
    {
        QTest::keyClick(wall, key);
        bench.settle();
    }
    Mark markOf(std::size_t card) const
    {
        return bench.desk->work().now().tray->cards().at(card).mark;
    }

    OwnFolder own;
    WindowBench bench;
    std::vector<std::string> symbols;
    QWidget* place = nullptr;
    ChartWall* wall = nullptr;
};

} // namespace

TEST_CASE("Wall: those in hand in their order, page by page", "[app]")
{
    const OnWall on;
    REQUIRE(on.wall->isVisible());
    const auto part = [&](std::size_t first, std::size_t end) {
        return std::vector<std::string>(on.symbols.begin() + static_cast<std::ptrdiff_t>(first),
                                        on.symbols.begin() + static_cast<std::ptrdiff_t>(end));
    };
    CHECK(on.shown() == part(0, 4));
    on.press(Qt::Key_PageDown);
    CHECK(on.shown() == part(4, 8));
    on.press(Qt::Key_PageDown);
    on.press(Qt::Key_PageDown); // there are no more
    CHECK(on.shown() == part(8, 12));
    on.press(Qt::Key_PageUp);
    CHECK(on.shown() == part(4, 8));
    on.bench.find<QComboBox>(QStringLiteral("Charts a page"))->setCurrentIndex(2);
    on.bench.settle();
    on.press(Qt::Key_PageUp);
    CHECK(on.shown() == on.symbols);
    // Asked for something else before the first answer came, it has both.
    on.bench.find<QComboBox>(QStringLiteral("Charts a page"))->setCurrentIndex(0);
    on.bench.settle();
    auto others = on.wall->stocks();
    std::ranges::reverse(others.stocks);
    on.wall->show(others);
    on.bench.find<QComboBox>(QStringLiteral("Span of the charts"))->setCurrentIndex(3);
    on.bench.settle();
    CHECK(on.shown().front() == on.symbols.back());
    findAction(*on.place, ActionId::ShowTrayWall)->trigger();
    CHECK_FALSE(on.wall->isVisible());
}

TEST_CASE("Wall: ordered by any figure, a mistake told, those without a figure last", "[app]")
{
    const OnWall on;
    on.bench.find<QComboBox>(QStringLiteral("Charts a page"))->setCurrentIndex(2);
    auto* by =
        on.bench.find<ExpressionEdit>(QStringLiteral("Figure that the charts are ordered by"));
    const auto order = [&](const char* figure) {
        by->setText(QLatin1String(figure));
        Q_EMIT by->editingFinished();
        on.bench.settle();
        return on.shown();
    };
    const market::Market& market = on.bench.desk->market().data();
    const auto closes = [&](const std::vector<std::string>& symbols) {
        std::vector<double> all;
        for (const std::string& symbol : symbols)
            if (market.isListed(*market.find(symbol), on.bench.desk->focus().day()))
                all.push_back(market.bars(*market.find(symbol)).close.back());
        return all;
    };
    const auto falling = order("close");
    const std::size_t listed = closes(falling).size();
    CHECK(listed < on.symbols.size()); // those that left come last
    CHECK(closes({falling.begin(), falling.begin() + static_cast<std::ptrdiff_t>(listed)}).size() ==
          listed);
    CHECK(std::ranges::is_sorted(closes(falling), std::greater{}));
    on.bench.find<QToolButton>(QStringLiteral("Lowest first"))->click();
    on.bench.settle();
    CHECK(std::ranges::is_sorted(closes(on.shown())));
    CHECK(order("closs") == on.symbols); // as they came
    CHECK(by->toolTip().contains(QStringLiteral("closs")));
    CHECK(order("sector") == on.symbols); // no figure
    CHECK(by->toolTip().contains(QStringLiteral("no figure")));
    CHECK(order("") == on.symbols);
    // Nobody has a figure before so many bars: all stay, as they came.
    CHECK(order("sma(close, 5000)") == on.symbols);
}

TEST_CASE("Wall: K, X and L decide as Weigh does, undo takes them back", "[app]")
{
    const OnWall on;
    on.bench.desk->focus().selectSymbol(on.symbols[0]);
    on.bench.settle();
    on.press(Qt::Key_K); // and goes on to the next one
    on.press(Qt::Key_X);
    on.press(Qt::Key_L);
    CHECK(on.markOf(0) == Mark::Kept);
    CHECK(on.markOf(1) == Mark::Dropped);
    CHECK(on.markOf(2) == Mark::Later);
    CHECK(on.markOf(3) == Mark::Open);
    REQUIRE(on.bench.desk->work().now().lists[0]->entries.size() == 1);
    CHECK(on.bench.desk->work().now().lists[0]->entries[0].symbol == on.symbols[0]);
    CHECK(on.chartOf(on.symbols[0])->reading().contains(QStringLiteral("kept")));
    CHECK(on.chartOf(on.symbols[1])->reading().contains(QStringLiteral("dropped")));
    auto* open = on.bench.find<QToolButton>(QStringLiteral("Undecided only"));
    open->click();
    on.bench.settle();
    CHECK(on.shown().front() == on.symbols[3]);
    open->click();
    on.bench.settle();
    for (int i = 0; i < 3; ++i)
        on.bench.desk->work().undoStack().undo();
    CHECK(on.markOf(0) == Mark::Open);
    CHECK(on.bench.desk->work().now().lists[0]->entries.empty());
    CHECK_FALSE(on.chartOf(on.symbols[0])->reading().contains(QStringLiteral("kept")));
    // The one under the pointer is meant before the chosen one.
    ChartView& third = on.chartOf(on.symbols[2])->view();
    QEnterEvent enter({5.0, 5.0}, {5.0, 5.0}, {5.0, 5.0});
    QApplication::sendEvent(&third, &enter);
    on.press(Qt::Key_X);
    CHECK(on.markOf(2) == Mark::Dropped);
    // The place's own commands mean the wall too.
    findAction(*on.place, ActionId::KeepOnto, 1)->trigger();
    CHECK(on.markOf(2) == Mark::Kept);
    CHECK(on.bench.desk->work().now().lists[0]->entries.back().symbol == on.symbols[2]);
    findAction(*on.place, ActionId::Drop)->trigger();
    CHECK(on.markOf(2) == Mark::Dropped);
}

TEST_CASE("Wall: one chart large, from page to page, and all again", "[app]")
{
    const OnWall on;
    on.bench.desk->focus().selectSymbol(on.symbols[3]);
    on.bench.settle();
    on.press(Qt::Key_Return);
    CHECK(on.shown() == std::vector<std::string>{on.symbols[3]});
    on.press(Qt::Key_PageDown);
    CHECK(on.shown() == std::vector<std::string>{on.symbols[4]}); // of the next page
    on.press(Qt::Key_X);
    CHECK(on.markOf(4) == Mark::Dropped);
    CHECK(on.shown() == std::vector<std::string>{on.symbols[5]});
    on.press(Qt::Key_Escape);
    CHECK(on.shown().size() == 4);
    QTest::mouseDClick(&on.chartOf(on.symbols[6])->view(), Qt::LeftButton, {}, {30, 30});
    CHECK(on.shown() == std::vector<std::string>{on.symbols[6]});
    QTest::mouseDClick(&on.chartOf(on.symbols[6])->view(), Qt::LeftButton, {}, {30, 30});
    CHECK(on.shown().size() == 4);
}

TEST_CASE("Wall: of a list and of what passes, decisions take the stock in hand", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    const market::Market& market = bench.desk->market().data();
    bench.desk->work().edit(QStringLiteral("list"), [&](Work& work) {
        work.lists = {
            test::listOf(1, "Harbour",
                         {{market.instrument(4).symbol, bench.desk->focus().day(), 5.0},
                          {market.instrument(9).symbol, bench.desk->focus().day(), 5.0}})};
    });
    bench.go("lists");
    QWidget* lists = bench.window->place(QStringLiteral("lists"));
    findAction(*lists, ActionId::ShowListWall)->trigger();
    bench.settle();
    auto* wall = lists->findChild<ChartWall*>();
    REQUIRE(wall->isVisible());
    CHECK(wall->stocks().stocks == std::vector<std::size_t>{4, 9});
    bench.desk->focus().select(9);
    bench.settle();
    QTest::keyClick(wall, Qt::Key_K);
    const watchlists::Tray& tray = *bench.desk->work().now().tray;
    REQUIRE(tray.cards().size() == 1);
    CHECK(tray.cards()[0].symbol == market.instrument(9).symbol);
    CHECK(tray.cards()[0].mark == Mark::Kept);
    CHECK(tray.cards()[0].source == "Harbour");
    bench.desk->focus().stepSessions(-20); // the wall goes along
    bench.settle();
    CHECK(wall->stocks().day == bench.desk->focus().day());
}

TEST_CASE("Wall: its pages as PDF, a page or all, and what cannot be written", "[app]")
{
    const OnWall on;
    WallPages pages;
    pages.stocks = on.wall->stocks().stocks;
    pages.day = on.bench.desk->focus().day();
    pages.title = QStringLiteral("Stocks in hand");
    pages.setUp = charts::standardSetUp();
    engine::Evaluator& evaluator = *on.bench.desk->market().evaluator();
    const auto book = on.bench.desk->work().nameBook();
    const auto file = on.own.path() / "wall.pdf";
    CHECK(writePages(text(file.string()), pages, evaluator, book->names(), {}) == 3);
    std::ifstream in(file, std::ios::binary);
    const std::string bytes((std::istreambuf_iterator<char>(in)), {});
    CHECK(bytes.starts_with("%PDF"));
    std::size_t sheets = 0;
    for (std::size_t at = bytes.find("/Type /Page\n"); at != std::string::npos;
         at = bytes.find("/Type /Page\n", at + 1))
        ++sheets;
    CHECK(sheets == 3);
    pages.side = 5;
    CHECK(writePages(text(file.string()), pages, evaluator, book->names(), {}) == 1);
    CHECK(writePages(text((on.own.path() / "none" / "wall.pdf").string()), pages, evaluator,
                     book->names(), {}) == 0);
    std::stop_source stop;
    stop.request_stop();
    const auto size = std::filesystem::file_size(file);
    CHECK_THROWS_AS(writePages(text(file.string()), pages, evaluator, book->names(),
                               Progress(stop.get_token(), {})),
                    Stopped);
    CHECK(std::filesystem::file_size(file) == size); // the former one stays
}

TEST_CASE("Wall: saved from the window the end is told, and Esc stops it", "[app]")
{
    const OnWall on;
    QStringList told;
    QObject::connect(on.bench.desk.get(), &Desk::noticed, on.wall,
                     [&](const QString& notice) { told << notice; });
    const auto file = on.own.path() / "own.pdf";
    on.wall->savePages(text(file.string()), true);
    on.bench.settle();
    REQUIRE(told.size() == 1);
    CHECK(told[0].startsWith(QStringLiteral("3 pages of charts")));
    on.wall->savePages(text((on.own.path() / "none" / "own.pdf").string()), false);
    on.bench.settle();
    REQUIRE(told.size() == 2);
    CHECK(told[1].contains(QStringLiteral("could not be written")));
    std::filesystem::remove(file);
    on.wall->savePages(text(file.string()), true);
    QTest::keyClick(on.wall, Qt::Key_Escape);
    on.bench.settle();
    QThreadPool::globalInstance()->waitForDone();
    CHECK(told.size() == 2); // no end is told of what was stopped
    CHECK(on.shown().size() == 4);
}

} // namespace sieve::app
