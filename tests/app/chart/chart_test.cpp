#include "app/chart/time_plot.h"
#include "app/parts/expression_edit.h"
#include "app/parts/mini_line.h"
#include "core/base/missing.h"

#include <QCompleter>
#include <QImage>
#include <QTest>
#include <catch2/catch.hpp>

namespace sieve::app {

TEST_CASE("Time plot: all panes share one axis, and none scrolls out of the sessions", "[app]")
{
    TimePlot plot;
    auto* upper = plot.addPane(0.7);
    auto* lower = plot.addPane(0.3, true);
    plot.setExtent(upper, [](int first, int last) { return QCPRange(first, last); });
    plot.setExtent(lower, [](int, int) { return QCPRange(missing, missing); }); // nothing there
    std::vector<Day> days;
    for (int i = 0; i < 500; ++i)
        days.push_back(Day::fromSerial(19'000 + i));
    plot.resize(800, 500);
    plot.setDays(days, 100);
    const auto axis = [](QCPAxisRect* pane, QCPAxis::AxisType type) {
        return pane->axis(type)->range();
    };
    CHECK(axis(upper, QCPAxis::atBottom).lower == axis(lower, QCPAxis::atBottom).lower);
    CHECK(plot.shownBars().size() == Approx(100.6).margin(0.1));
    CHECK(axis(upper, QCPAxis::atRight).lower < 400);
    CHECK(axis(upper, QCPAxis::atRight).upper > 499);
    plot.show();
    plot.setFocus();
    REQUIRE(QTest::qWaitForWindowActive(&plot));
    for (int i = 0; i < 40; ++i)
        QTest::keyClick(&plot, Qt::Key_Right);
    CHECK(plot.shownBars().upper <= 500);
    for (int i = 0; i < 80; ++i)
        QTest::keyClick(&plot, Qt::Key_Left);
    CHECK(plot.shownBars().lower >= -1);
    for (int i = 0; i < 80; ++i)
        QTest::keyClick(&plot, Qt::Key_Minus);
    CHECK(plot.shownBars().size() <= 502);
    QTest::keyClick(&plot, Qt::Key_Home);
    CHECK(plot.shownBars().lower == Approx(-0.8));
}

TEST_CASE("Time plot: bears no sessions and one", "[app]")
{
    TimePlot plot;
    plot.setExtent(plot.addPane(1.0), [](int, int) { return QCPRange(5.0, 5.0); });
    plot.resize(400, 300);
    for (const std::size_t count : {0U, 1U}) {
        plot.setDays(std::vector<Day>(count, Day::fromSerial(19'000)), 100);
        for (const Qt::Key key : {Qt::Key_Plus, Qt::Key_Minus, Qt::Key_Left, Qt::Key_Home})
            QTest::keyClick(&plot, key);
        CHECK_FALSE(plot.grab().isNull());
    }
}

TEST_CASE("Mini line: draws within its area and leaves a gap where a value is missing", "[app]")
{
    const auto inked = [](const std::vector<double>& values) {
        QImage image(60, 20, QImage::Format_RGB32);
        image.fill(Qt::white);
        QPainter painter(&image);
        paintMiniLine(painter, QRectF(5, 5, 50, 10), values, Qt::black);
        painter.end();
        int left = 0;
        int middle = 0;
        for (int y = 0; y < 20; ++y) {
            for (int x = 0; x < 25; ++x)
                left += image.pixelColor(x, y) != Qt::white ? 1 : 0;
            for (int x = 26; x < 34; ++x)
                middle += image.pixelColor(x, y) != Qt::white ? 1 : 0;
            CHECK(image.pixelColor(1, y) == Qt::white);
        }
        return std::pair(left, middle);
    };
    CHECK(inked({}) == std::pair(0, 0));
    CHECK(inked({missing, missing}) == std::pair(0, 0));
    CHECK(inked({1, 2, 3, 4, 5}).second > 0);
    const auto [left, middle] = inked({1, 2, missing, 4, 5});
    CHECK(left > 0);
    CHECK(middle == 0);
    CHECK(inked({7, 7, 7}).first > 0); // a price that does not move is a flat line
}

TEST_CASE("Expression line: words are offered where a word is typed, and only there", "[app]")
{
    ExpressionEdit edit;
    edit.show();
    const auto offered = [&edit](const char* text) {
        edit.clear();
        QTest::keyClicks(&edit, QLatin1String(text));
        const auto* words = edit.findChild<QCompleter*>();
        const bool isOpen = words->popup()->isVisible();
        const int count = isOpen ? words->completionCount() : 0;
        words->popup()->hide();
        return count;
    };
    CHECK(offered("marg") >= 3);
    CHECK(offered("close > dist") >= 3);
    CHECK(offered("earnings per") == offered("per")); // the last word counts
    CHECK(offered("c") == 0);                         // one letter is no word yet
    CHECK(offered("close > 50") == 0);
    CHECK(offered("sector == \"ener") == 0); // inside a text
    CHECK(offered("xqzzy") == 0);
}

TEST_CASE("Expression line: a fault is told and painted, and goes again", "[app]")
{
    ExpressionEdit edit;
    edit.resize(300, 26);
    edit.setText(QStringLiteral("clos > 5"));
    edit.show();
    const QImage plain = edit.grab().toImage();
    edit.setFault(LocatedError{{1, 1, 4, 0, 4}, "no field 'clos'", "did you mean close?"});
    CHECK(edit.toolTip().contains(QStringLiteral("Did you mean close?")));
    CHECK(edit.grab().toImage() != plain);
    edit.setFault(std::nullopt);
    CHECK(edit.toolTip().isEmpty());
    CHECK(edit.grab().toImage() == plain);
}

} // namespace sieve::app
