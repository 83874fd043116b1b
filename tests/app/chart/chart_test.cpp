#include "app/chart/price_chart.h"
#include "app/chart/price_chart_feed.h"
#include "app/chart/time_plot.h"
#include "app/look/look.h"
#include "app/parts/expression_edit.h"
#include "app/parts/mini_line.h"
#include "core/base/missing.h"
#include "demo_market/dataset.h"

#include <QCompleter>
#include <QImage>
#include <QTest>
#include <catch2/catch.hpp>

namespace sieve::app {

namespace {

const std::shared_ptr<engine::Evaluator>& evaluator()
{
    static const auto made = [] {
        demo_market::DemoMarket market =
            demo_market::makeMarket(20260930, demo_market::Extent::Small);
        return std::make_shared<engine::Evaluator>(
            std::make_shared<const market::Market>(market.description, std::move(market.records)));
    }();
    return made;
}

PriceChartData chartOf(std::size_t stock, const char* day)
{
    return priceChartData(*evaluator(), stock, *Day::parse(day), initialChartLines(),
                          {language::Vocabulary::builtIn(), std::nullopt});
}

} // namespace

TEST_CASE("Price chart: shows nothing after the day, and lines as long as the bars", "[app]")
{
    const PriceChartData data = chartOf(3, "2024-03-01");
    REQUIRE(data.bars.size() > 100);
    CHECK(data.bars.days.back() <= *Day::parse("2024-03-01"));
    REQUIRE(data.lines.size() == 3);
    for (const PriceChartData::Line& line : data.lines) {
        CHECK(line.values.size() == data.bars.size());
        CHECK(isMissing(line.values.front()));
        CHECK_FALSE(isMissing(line.values.back()));
    }
    CHECK(chartOf(3, "1990-01-01").bars.size() == 0);
}

TEST_CASE("Price chart: its figures are copied, bars before lines, a row a session", "[app]")
{
    PriceChart chart;
    const auto data = std::make_shared<const PriceChartData>(chartOf(3, "2024-03-01"));
    chart.setData(data);
    const QStringList rows = chart.plot().dataText().split(u'\n');
    CHECK(rows.front() == QStringLiteral("Day\tOpen\tHigh\tLow\tClose\tVolume\tema(close, 21)\t"
                                         "sma(close, 50)\tsma(close, 200)"));
    REQUIRE(rows.size() == static_cast<qsizetype>(data->bars.size()) + 1);
    const QStringList first = rows[1].split(u'\t');
    REQUIRE(first.size() == 9);
    CHECK(first[6].isEmpty()); // an average has no first bar
    const QStringList last = rows.back().split(u'\t');
    CHECK(last[0] == QStringLiteral("2024-03-01"));
    CHECK(last[1].toDouble() == Approx(data->bars.open.back()));
    CHECK(last[4].toDouble() == Approx(data->bars.close.back()));
    CHECK(last[5].toDouble() == Approx(data->bars.volume.back()));
    CHECK(last[8].toDouble() == Approx(data->lines[2].values.back()));
}

TEST_CASE("Price chart: reads the bar under the pointer, the last one without", "[app]")
{
    PriceChart chart;
    chart.resize(900, 500);
    chart.show();
    const auto data = std::make_shared<const PriceChartData>(chartOf(3, "2024-03-01"));
    chart.setData(data);
    CHECK(chart.reading().contains(data->title));
    CHECK(chart.reading().contains(QStringLiteral("1 Mar 2024")));
    CHECK(chart.reading().contains(QStringLiteral("sma(close, 200)")));
    Q_EMIT chart.plot().pointed(0);
    CHECK(chart.reading().contains(QStringLiteral("–"))); // the first bar has no change
    CHECK_FALSE(chart.reading().contains(QStringLiteral("1 Mar 2024")));
    Q_EMIT chart.plot().pointed(-1);
    CHECK(chart.reading().contains(QStringLiteral("1 Mar 2024")));
    chart.setData(std::make_shared<const PriceChartData>());
    CHECK(chart.reading().isEmpty());
    CHECK_FALSE(chart.grab().isNull());
}

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
