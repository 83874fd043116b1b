#include "tests/app/window_bench.h"

#include "app/frame/intake_report_dialog.h"
#include "app/frame/take_in_prices_dialog.h"
#include "app/parts/actions.h"
#include "core/storage/market_file.h"

#include <QComboBox>
#include <QLabel>
#include <QPushButton>
#include <QTableView>
#include <QToolButton>
#include <catch2/catch.hpp>

namespace sieve::app {

using test::OwnFolder;
using test::WindowBench;

namespace {

const std::string odd = "Tag;Eroeffnung;Hoch;Tief;Schluss;Stueck\n"
                        "02.01.2025;1.010,5;1.020;1.000;1.015,25;12.000\n"
                        "03.02.2025;1.015;1.040;1.010;1.030;9.500\n";

void choose(const TakeInPricesDialog& dialog, const char* box, const QString& entry)
{
    for (auto* each : dialog.findChildren<QComboBox*>())
        if (each->accessibleName() == QLatin1String(box)) {
            REQUIRE(each->findText(entry) >= 0);
            each->setCurrentIndex(each->findText(entry));
            return;
        }
    FAIL("no box " << box);
}

const QTableView& preview(const TakeInPricesDialog& dialog)
{
    return *dialog.findChild<QTableView*>();
}

QString shown(const TakeInPricesDialog& dialog, int row, int column)
{
    return preview(dialog).model()->index(row, column).data().toString();
}

QPushButton& takeIn(const TakeInPricesDialog& dialog)
{
    for (auto* button : dialog.findChildren<QPushButton*>())
        if (button->text() == QStringLiteral("&Take in"))
            return *button;
    throw std::runtime_error("no button");
}

} // namespace

TEST_CASE("Take in prices: a known layout is there to begin with", "[app]")
{
    const OwnFolder own;
    own.write("AAAA.csv", "Date;Open;High;Low;Close;Volume\n14.03.2025;1,5;2;1,25;1,75;1000\n");
    TakeInPricesDialog dialog;
    CHECK_FALSE(takeIn(dialog).isEnabled());
    dialog.setSource(own.path());
    test::waitUntil([&] { return takeIn(dialog).isEnabled(); }, "the preview");
    CHECK(shown(dialog, 0, 1) == QStringLiteral("2025-03-14"));
    CHECK(shown(dialog, 0, 5) == QStringLiteral("1.75"));
    CHECK(dialog.layoutChosen().separator == ';');
    CHECK(preview(dialog).isColumnHidden(0)); // the file's name is the symbol
}

TEST_CASE("Take in prices: every choice shows at once what it makes of the rows", "[app]")
{
    const OwnFolder own;
    const OwnFolder files;
    files.write("KELP.csv", odd);
    const WindowBench bench(own.path() / "library.sqlite", {});
    TakeInPricesDialog dialog(bench.window.get());
    dialog.setSource(files.path());
    test::waitUntil([&] { return dialog.findChildren<QComboBox*>().back()->count() > 1; },
                    "the headings");
    CHECK_FALSE(takeIn(dialog).isEnabled()); // nothing says where the day stands
    choose(dialog, "Day", QStringLiteral("Tag"));
    choose(dialog, "Close", QStringLiteral("Schluss"));
    CHECK(shown(dialog, 0, 1) == QStringLiteral("02.01.2025")); // not read as an ISO day
    choose(dialog, "Days are written", QStringLiteral("14.03.2025"));
    CHECK(shown(dialog, 1, 1) == QStringLiteral("2025-02-03"));
    choose(dialog, "Days are written", QStringLiteral("03/14/2025"));
    CHECK(shown(dialog, 1, 1) == QStringLiteral("2025-03-02"));
    choose(dialog, "Days are written", QStringLiteral("14.03.2025"));
    choose(dialog, "Decimal mark", QStringLiteral("comma  1,5"));
    choose(dialog, "Thousands", QStringLiteral("point  1.000"));
    CHECK(shown(dialog, 0, 5) == QStringLiteral("1015.25"));
    choose(dialog, "Open", QStringLiteral("Eroeffnung"));
    choose(dialog, "High", QStringLiteral("Hoch"));
    choose(dialog, "Low", QStringLiteral("Tief"));
    choose(dialog, "Volume", QStringLiteral("Stueck"));
    REQUIRE(takeIn(dialog).isEnabled());

    bench.desk->market().keeper().takeInPrices(dialog.source(), dialog.layoutChosen());
    test::waitUntil([&] { return bench.desk->market().isOpen(); }, "the market");
    const market::Market& market = bench.desk->market().data();
    REQUIRE(market.find("KELP"));
    CHECK(market.bars(0).volume[0] == 12'000);
    CHECK(market.bars(0).days[1].iso() == "2025-02-03");

    // What was said once is remembered: the source opens again by itself.
    files.write("TIDE.csv", odd);
    bench.desk->market().keeper().open(files.path());
    test::waitUntil([&] { return bench.desk->market().data().size() == 2; }, "the market again");
    CHECK(bench.desk->market().data().bars(1).close[0] == 1015.25);
}

TEST_CASE("Window: an update adds to the open market, what was open is remembered", "[app]")
{
    const OwnFolder own;
    const OwnFolder source;
    const OwnFolder news;
    const std::string head = "date,open,high,low,close,volume\n";
    source.write("bars/daily/AAAA.C.csv", head + "2025-01-02,1,2,1,2,5\n2025-01-03,2,3,2,3,5\n");
    news.write("bars/daily/AAAA.C.csv", head + "2025-01-06,3,4,3,4,5\nx,3,4,3,4,5\n");
    {
        const WindowBench bench(own.path() / "library.sqlite", source.path());
        CHECK(bench.desk->market().data().sessions().size() == 2);
        bench.desk->market().keeper().update(news.path());
        test::waitUntil([&] { return bench.desk->market().data().sessions().size() == 3; },
                        "the update");
        CHECK(bench.desk->focus().day().iso() == "2025-01-06");
        CHECK(bench.desk->market().report()->rowsLeftOut == 1);
        bool isTold = false;
        for (const auto* label : bench.window->findChildren<QLabel*>())
            isTold = isTold || label->text().contains(QStringLiteral("1 rows left out"));
        CHECK(isTold);
        bench.desk->keeper().waitUntilDone();
    }
    const WindowBench again(own.path() / "library.sqlite", {});
    REQUIRE(again.desk->market().recentSources().size() == 1);
    CHECK(again.desk->market().recentSources()[0] == source.path());
    again.desk->market().keeper().open(source.path()); // with the update, for it was taken in after
    test::waitUntil([&] { return again.desk->market().isOpen(); }, "the market");
    CHECK(again.desk->market().data().sessions().size() == 3);
}

TEST_CASE("Window: a market that is damaged where opening does not look is made again", "[app]")
{
    const OwnFolder own;
    const OwnFolder source;
    const OwnFolder markets;
    source.write("bars/daily/AAAA.C.csv",
                 "date,open,high,low,close,volume\n2025-01-02,1,2,1,2,5\n");
    const auto open = [&](MarketKeeper& keeper) {
        int opened = 0;
        bool mended = false;
        QObject::connect(&keeper, &MarketKeeper::opened, &keeper, [&] { ++opened; });
        QObject::connect(&keeper, &MarketKeeper::noticed, &keeper, [&] { mended = true; });
        keeper.open(source.path());
        test::waitUntil([&] { return opened == 1; }, "the market");
        QTest::qWait(100);
        if (mended)
            test::waitUntil([&] { return opened == 2; }, "the market again");
        return mended;
    };
    {
        MarketKeeper keeper(markets.path());
        CHECK_FALSE(open(keeper));
    }
    std::filesystem::path file;
    for (const auto& entry : std::filesystem::recursive_directory_iterator(markets.path()))
        if (entry.path().filename() == "market.sieve")
            file = entry.path();
    {
        std::fstream damage(file, std::ios::binary | std::ios::in | std::ios::out);
        damage.seekp(80); // in the first block of bars
        damage.put('\x7F');
    }
    MarketKeeper keeper(markets.path());
    CHECK(open(keeper));
    CHECK(storage::verifyMarket(file.parent_path()));
}

TEST_CASE("Window: a market stands where its dataset holds less, until that is taken in", "[app]")
{
    const OwnFolder own;
    const OwnFolder source;
    const std::string bars = "date,open,high,low,close,volume\n2025-01-02,1,2,1,2,5\n";
    source.write("bars/daily/AAAA.C.csv", bars);
    source.write("bars/daily/BBBB.C.csv", bars);
    {
        const WindowBench bench(own.path() / "library.sqlite", source.path());
        bench.desk->keeper().waitUntilDone();
    }
    std::filesystem::remove(source.path() / "bars/daily/BBBB.C.csv");
    const WindowBench bench(own.path() / "library.sqlite", source.path());
    CHECK(bench.desk->market().data().size() == 2);
    CHECK(bench.window->noticeText().contains(QStringLiteral("1 of 2 files")));
    findAction(*bench.window, ActionId::TakeInAgain)->trigger();
    test::waitUntil([&] { return bench.desk->market().data().size() == 1; }, "the intake");
}

TEST_CASE("Window: an intake can be stopped, and the former market stays", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    const OwnFolder other;
    std::string rows = "date,open,high,low,close,volume\n";
    for (int i = 0; i < 200'000; ++i)
        rows += Day::fromSerial(i % 20'000).iso() + ",1,2,1,2,5\n";
    for (int i = 0; i < 20; ++i)
        other.write("bars/daily/S" + std::to_string(i) + ".csv", rows);
    bench.desk->market().keeper().open(other.path());
    CHECK(bench.desk->market().keeper().isBusy());
    auto* stop = bench.window->findChild<QToolButton*>(QString(), Qt::FindChildrenRecursively);
    for (auto* button : bench.window->findChildren<QToolButton*>())
        if (button->accessibleName() == QStringLiteral("Stop the intake"))
            stop = button;
    stop->click();
    CHECK_FALSE(bench.desk->market().keeper().isBusy());
    QThreadPool::globalInstance()->waitForDone();
    QCoreApplication::processEvents();
    CHECK(bench.desk->market().data().size() > 150);
    CHECK_FALSE(stop->isVisible());
}

} // namespace sieve::app
