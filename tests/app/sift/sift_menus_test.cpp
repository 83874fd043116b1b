#include "app/parts/number_text.h"
#include "app/parts/scatter_picture.h"
#include "app/sift/spread_strip.h"
#include "core/screens/screen.h"
#include "tests/app/opened.h"
#include "tests/app/sift_bench.h"

#include <QInputDialog>
#include <QLabel>
#include <QTreeWidget>
#include <catch2/catch.hpp>

// Sift's bands, strips and pictures: their menus, the pointer, and what they tell.

namespace sieve::app {

namespace {

using namespace test;

/// Where a limit's grip can be taken: there the cursor says so.
QPoint gripOf(SpreadStrip& strip)
{
    for (int x = 0; x < strip.width(); ++x) {
        QTest::mouseMove(&strip, QPoint(x, 5));
        if (strip.cursor().shape() == Qt::SizeHorCursor)
            return {x + 9, 5};
    }
    throw std::runtime_error("no grip");
}

} // namespace

TEST_CASE("Sift: a criterion's menu comments, moves and takes out", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    sift(bench, {{"close > 1"}, {"volume > 0"}, {"rsi(close, 14) <= 60"}});
    const auto onBand = [&](std::size_t at, const QString& words) {
        chooseAt(bench, band(bench, at), QPoint(4, 4), words);
    };
    onBand(0, QStringLiteral("Move the criterion down"));
    CHECK(criterion(bench, 0) == "volume > 0");
    CHECK(criterion(bench, 1) == "close > 1");
    onBand(2, QStringLiteral("Move the criterion up"));
    CHECK(criterion(bench, 1) == "rsi(close, 14) <= 60");
    onBand(0, QStringLiteral("Take the criterion out"));
    CHECK(bench.desk->work().now().screen->criteria.size() == 2);

    bench.desk->work().undoStack().undo();
    bench.settle();
    CHECK(bench.desk->work().now().screen->criteria.size() == 3);

    const auto comment = [&](const QString& words, bool isKept) {
        chooseAt(bench, band(bench, 0), QPoint(4, 4), QStringLiteral("Comment on"), [&] {
            answerNext<QInputDialog>(bench, [=](QInputDialog& dialog) {
                dialog.setTextValue(words);
                isKept ? accept(dialog) : dialog.reject();
            });
        });
        return bench.desk->work().now().screen->criteria[0].comment;
    };
    CHECK(comment(QStringLiteral("someone must trade it"), true) == "someone must trade it");
    CHECK(comment(QStringLiteral("no"), false) == "someone must trade it");
    CHECK(comment({}, true).empty());
}

TEST_CASE("Sift: a band is dragged by its ribbon over its neighbour", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    sift(bench, {{"close > 1"}, {"volume > 0"}, {"close > 2"}});
    Band* first = band(bench, 0);
    const QPoint from(6, first->height() / 2);
    drag(first, from, from + QPoint(0, first->height()));
    bench.settle();
    CHECK(criterion(bench, 0) == "volume > 0");
    CHECK(criterion(bench, 1) == "close > 1");
    drag(band(bench, 0), QPoint(band(bench, 0)->width() / 2, 6),
         QPoint(band(bench, 0)->width() / 2, 200)); // not from the ribbon
    bench.settle();
    CHECK(criterion(bench, 0) == "volume > 0");
    bench.desk->work().undoStack().undo();
    bench.settle();
    CHECK(criterion(bench, 0) == "close > 1");
}

TEST_CASE("Sift: a strip tells its bars, and takes a limit as a percentile", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    sift(bench, {{"rsi(close, 14) <= 50"}});
    SpreadStrip& strip = band(bench, 0)->strip();
    const QString tip = tipAt(&strip, QPoint(strip.width() / 2, 5));
    CHECK(tip.contains(QStringLiteral("of the stocks that arrive here")));
    CHECK(tip.contains(QStringLiteral("double click: a percentile")));
    CHECK(tip != tipAt(&strip, QPoint(strip.width() / 3, 5)));

    const auto percentile = [&](double percent, bool isTaken) {
        const QPoint grip = gripOf(strip);
        inOpened<QInputDialog>(
            bench, [&] { QTest::mouseDClick(&strip, Qt::LeftButton, {}, grip); },
            [&](QInputDialog& dialog) {
                dialog.setDoubleValue(percent);
                isTaken ? accept(dialog) : dialog.reject();
            });
        return criterion(bench, 0);
    };
    CHECK(percentile(10.0, false) == "rsi(close, 14) <= 50");
    const double low = std::stod(percentile(10.0, true).substr(18));
    const double high = std::stod(percentile(90.0, true).substr(18));
    CHECK(low < 50.0);
    CHECK(high > low);
    bench.desk->focus().select(3);
    bench.settle();
    CHECK(tipAt(&strip, QPoint(strip.width() / 2, 5)).contains(QStringLiteral("the chosen stock")));
}

TEST_CASE("Sift: the scatter tells the stock under the pointer", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    sift(bench, {{"week_change <= 4%"}});
    press(bench, "Scatter");
    auto* picture = bench.window->findChild<ScatterPicture*>();
    REQUIRE(picture->scatter().points.size() > 5);
    const auto& point = picture->scatter().points.back();
    const QString tip = tipAt(picture, picture->pointOf(point).toPoint());
    CHECK(tip.contains(text(bench.desk->market().data().instrument(point.stock).symbol)));
    CHECK(tip.count(u'\n') == 2); // the stock and its two figures
    waitUntil([&] { return tipAt(picture, QPoint(1, picture->height() - 1)).isEmpty(); },
              "no stock in the corner");
    const QPoint line = limitLine(*picture, 0.04);
    QTest::mouseMove(picture, line);
    CHECK(picture->cursor().shape() == Qt::SizeHorCursor); // a limit can be drawn aside
    QTest::mouseMove(picture, line + QPoint(60, 0));
    CHECK(picture->cursor().shape() == Qt::ArrowCursor);
}

TEST_CASE("Screens: leave as files and come back from them, a taken name gets a number", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    bench.go("sift");
    screens::Screen screen;
    screen.name = "Quay";
    screen.criteria = {{"close > sma(close, 50)", true, "why not"}};
    bench.desk->screenShelf().save(screen);
    own.write("in/broken.toml", "name = \"Broken\"\n[[criterion]]\ntext = 5\n");
    std::filesystem::create_directories(own.path() / "out");
    bench.inDialog(Qt::Key_B, [&](QWidget& widget) {
        auto& browser = dynamic_cast<QDialog&>(widget);
        for (auto* tree : browser.findChildren<QTreeWidget*>())
            if (tree->accessibleName() == QStringLiteral("Screens"))
                for (QTreeWidgetItemIterator at(tree); *at; ++at)
                    (*at)->setSelected((*at)->text(0) == QStringLiteral("Quay"));
        inOpened<QFileDialog>(
            bench, [&] { buttonOf<QPushButton>(browser, QStringLiteral("Export…"))->click(); },
            [&](QFileDialog& dialog) { choose(dialog, own.path() / "out"); });
        std::vector<std::filesystem::path> written;
        for (const auto& file : std::filesystem::directory_iterator(own.path() / "out"))
            written.push_back(file.path());
        REQUIRE(written.size() == 1);
        CHECK(own.read("out/" + written[0].filename().string()).find("close > sma(close, 50)") !=
              std::string::npos);

        for (const auto& file : {written[0], own.path() / "in" / "broken.toml"})
            inOpened<QFileDialog>(
                bench, [&] { buttonOf<QPushButton>(browser, QStringLiteral("Import…"))->click(); },
                [&](QFileDialog& dialog) { choose(dialog, file); });
        QString told; // of the last one: located in its file
        for (const auto* label : browser.findChildren<QLabel*>())
            if (label->text().contains(QStringLiteral("taken in")))
                told = label->text();
        CHECK(told.startsWith(QStringLiteral("0 taken in")));
        CHECK(told.contains(QStringLiteral("broken.toml")));
        CHECK(told.contains(QStringLiteral("Line 2, column 1")));
        browser.reject();
    });
    const auto& saved = bench.desk->screenShelf().all();
    REQUIRE(saved.size() == 2);
    CHECK(saved[0].name != saved[1].name);
    CHECK(saved[0].criteria == saved[1].criteria);
}

} // namespace sieve::app
