#include "app/chart/price_chart.h"

#include "app/chart/chart_view.h"
#include "app/chart/picture_file.h"
#include "app/chart/set_up_dialog.h"
#include "app/look/look.h"
#include "app/parts/actions.h"
#include "core/base/missing.h"
#include "demo_market/dataset.h"
#include "tests/own_folder.h"

#include <QAction>
#include <QApplication>
#include <QClipboard>
#include <QDialogButtonBox>
#include <QImage>
#include <QInputDialog>
#include <QLabel>
#include <QMenu>
#include <QPainter>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QTest>
#include <QWheelEvent>
#include <catch2/catch.hpp>

// The chart of a stock: what it draws, and what mouse and keys do to it.

namespace sieve::app {

using charts::BarForm;
using charts::BarScale;
using charts::Chart;
using charts::LayerForm;
using charts::SetUp;
using charts::ValueScale;

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

std::shared_ptr<const Chart> chartOf(const char* day = "2024-03-01",
                                     const SetUp& setUp = charts::standardSetUp())
{
    const language::Names names{language::Vocabulary::builtIn()};
    return std::make_shared<const Chart>(
        charts::makeChart(*evaluator(), names, setUp, 3, *Day::parse(day)));
}

/// A chart of made-up bars without an engine.
std::shared_ptr<const Chart> chartOfBars(const market::Bars& bars, const SetUp& setUp = SetUp())
{
    Chart chart = charts::emptyChart(setUp);
    chart.symbol = "MADE.C";
    chart.bars = chart.daily = std::make_shared<const market::Bars>(bars);
    chart.places =
        charts::BarPlaces(charts::barEnds(bars.days, charts::BarScale::Day), charts::BarScale::Day);
    return std::make_shared<const Chart>(std::move(chart));
}

market::Bars flatBars(std::size_t count, double price)
{
    market::Bars bars;
    for (std::size_t i = 0; i < count; ++i)
        bars.add({Day::fromSerial(19'000 + static_cast<int>(i)), price, price, price, price, 100});
    return bars;
}

/// A chart that is shown, large enough to be read.
struct Shown {
    Shown()
    {
        chart.resize(900, 520);
        chart.show();
        REQUIRE(QTest::qWaitForWindowActive(&chart)); // or its keys are nobody's
    }
    ChartView& view() { return chart.view(); }
    void press(Qt::Key key, Qt::KeyboardModifiers with = Qt::NoModifier)
    {
        view().setFocus();
        QTest::keyClick(&view(), key, with);
    }
    /// How many pixels of the picture have that colour.
    int inked(const QColor& colour)
    {
        const QImage image = view().grab().toImage();
        int count = 0;
        for (int y = 0; y < image.height(); ++y)
            for (int x = 0; x < image.width(); ++x)
                count += image.pixelColor(x, y) == colour ? 1 : 0;
        return count;
    }

    PriceChart chart;
};

} // namespace

TEST_CASE("Price chart: its figures are copied, bars before layers, a row a bar", "[app]")
{
    Shown shown;
    const auto chart = chartOf();
    shown.chart.setChart(chart);
    const QStringList rows = shown.view().figuresText().trimmed().split(u'\n');
    CHECK(rows.front() ==
          QStringLiteral("day\topen\thigh\tlow\tclose\tvolume\tema(close, 21)\t"
                         "sma(close, 50)\tsma(close, 200)\tsma(volume, 50)\tstrength_line"));
    REQUIRE(rows.size() == static_cast<qsizetype>(chart->size()) + 1);
    const QStringList first = rows[1].split(u'\t');
    REQUIRE(first.size() == 11);
    CHECK(first[6].isEmpty()); // an average has no first bar
    const QStringList last = rows.back().split(u'\t');
    CHECK(last[0] == QStringLiteral("2024-03-01"));
    CHECK(last[1].toDouble() == Approx(chart->bars->open.back()));
    CHECK(last[4].toDouble() == Approx(chart->bars->close.back()));
    CHECK(last[8].toDouble() == Approx(chart->panes[0].layers[2].values->back()));
}

TEST_CASE("Price chart: reads the bar under the pointer, the last one without", "[app]")
{
    Shown shown;
    const auto chart = chartOf();
    shown.chart.setChart(chart);
    CHECK(shown.chart.reading().contains(QString::fromStdString(chart->symbol)));
    CHECK(shown.chart.reading().contains(QStringLiteral("1 Mar 2024")));
    shown.view().showBars(-0.5, 60.0);
    shown.view().grab(); // laid out
    QTest::mouseMove(&shown.view(), QPoint(6, 100));
    CHECK(shown.chart.reading().contains(QStringLiteral("–"))); // the first bar has no change
    CHECK_FALSE(shown.chart.reading().contains(QStringLiteral("1 Mar 2024")));
    QEvent leave(QEvent::Leave);
    QApplication::sendEvent(&shown.view(), &leave);
    CHECK(shown.chart.reading().contains(QStringLiteral("1 Mar 2024")));
    shown.chart.setChart(std::make_shared<const Chart>(charts::emptyChart(SetUp())));
    CHECK(shown.chart.reading().isEmpty());
    CHECK_FALSE(shown.chart.grab().isNull());
}

TEST_CASE("Price chart: rises are hollow, falls filled, and each layer has its colour", "[app]")
{
    market::Bars bars = flatBars(20, 10.0);
    for (std::size_t i = 0; i < 20; ++i) {
        bars.open[i] = i % 2 == 0 ? 10.0 : 12.0;
        bars.close[i] = i % 2 == 0 ? 12.0 : 10.0;
        bars.high[i] = 12.5;
        bars.low[i] = 9.5;
    }
    Shown shown;
    SetUp setUp;
    setUp.panes[0].layers = {{"a", "", LayerForm::Line, PalettePart::Caution, 3.0}};
    Chart chart = *chartOfBars(bars, setUp);
    chart.panes[0].layers[0].values =
        std::make_shared<const std::vector<double>>(std::vector<double>(20, 11.0));
    shown.view().setSetUp(setUp);
    shown.chart.setChart(std::make_shared<const Chart>(chart));
    const int falls = shown.inked(look().fall);
    const int rises = shown.inked(look().rise);
    CHECK(falls > 3 * rises); // filled ones have more ink
    CHECK(rises > 300);
    CHECK(shown.inked(look().caution) > 500);
    shown.press(Qt::Key_F, Qt::ShiftModifier); // strokes
    CHECK(shown.view().setUp().form == BarForm::Bars);
    CHECK(shown.inked(look().fall) < falls / 2);
    shown.press(Qt::Key_F, Qt::ShiftModifier); // a line
    CHECK(shown.inked(look().fall) == 0);
    CHECK(shown.inked(look().rise) > 300);
    shown.press(Qt::Key_F, Qt::ShiftModifier);
    CHECK(shown.inked(look().wash(look().rise, 0.18)) > 10'000); // the area below it
    shown.press(Qt::Key_F, Qt::ShiftModifier);
    CHECK(shown.inked(look().fall) == falls); // and candles again
}

TEST_CASE("Price chart: wheel, drag, double click and keys look through it", "[app]")
{
    Shown shown;
    shown.chart.setShownBars(100);
    shown.chart.setChart(chartOf());
    const auto& view = shown.view().viewport();
    CHECK(view.width() == Approx(100 / 0.96));
    CHECK(view.end() == shown.view().chart().size());
    shown.view().grab();
    const QPointF at(300, 100);
    QWheelEvent wheel(at, shown.view().mapToGlobal(at), {}, {0, 120}, Qt::NoButton, Qt::NoModifier,
                      Qt::NoScrollPhase, false);
    const double before = view.width();
    QApplication::sendEvent(&shown.view(), &wheel);
    CHECK(view.width() == Approx(before * 0.85));
    shown.view().grab();
    const double from = view.from();
    QTest::mousePress(&shown.view(), Qt::LeftButton, {}, {300, 200});
    QTest::mouseMove(&shown.view(), QPoint(400, 200));
    QTest::mouseRelease(&shown.view(), Qt::LeftButton, {}, {400, 200});
    CHECK(view.from() < from - 5.0);
    const double later = view.from();
    shown.press(Qt::Key_Right);
    CHECK(view.from() == Approx(later + view.width() / 10.0));
    shown.press(Qt::Key_Left);
    CHECK(view.from() == Approx(later));
    shown.press(Qt::Key_Minus);
    CHECK(view.width() == Approx(before * 0.85 * 1.25));
    shown.press(Qt::Key_Plus);
    CHECK(view.width() == Approx(before * 0.85));
    shown.press(Qt::Key_Home);
    CHECK(view.first() == 0);
    shown.press(Qt::Key_Plus);
    CHECK(view.first() > 0);
    QTest::mouseDClick(&shown.view(), Qt::LeftButton, {}, {300, 200});
    CHECK(view.first() == 0);
    CHECK(view.end() == shown.view().chart().size());
}

TEST_CASE("Price chart: who looks at the newest bars sees those of another day too", "[app]")
{
    Shown shown;
    shown.chart.setShownBars(100);
    shown.chart.setChart(chartOf("2024-03-01"));
    const auto& view = shown.view().viewport();
    const auto inSight = [&] { return view.end() - view.first(); };
    CHECK(inSight() == 100);
    for (const char* day : {"2024-09-02", "2023-11-01", "2024-03-01"}) {
        shown.chart.setChart(chartOf(day));
        CHECK(view.end() == shown.view().chart().size());
        CHECK(inSight() == 100);
    }
    shown.view().showBars(100.0, 180.0); // who looks back stays with the days in sight
    const Day first = shown.view().chart().bars->days[view.first()];
    shown.chart.setChart(chartOf("2024-09-02"));
    CHECK(shown.view().chart().bars->days[view.first()] == first);
}

TEST_CASE("Price chart: a click tells bar, pane and value, and a drag is none", "[app]")
{
    Shown shown;
    shown.chart.setChart(chartOf());
    shown.view().grab();
    std::vector<std::tuple<int, int, double>> clicks;
    QObject::connect(&shown.view(), &ChartView::clicked, &shown.view(),
                     [&](int bar, int pane, double value) {
                         clicks.push_back({bar, pane, value});
                     });
    QTest::mouseClick(&shown.view(), Qt::LeftButton, {}, {400, 120});
    REQUIRE(clicks.size() == 1);
    const auto [bar, pane, value] = clicks[0];
    CHECK(pane == 0);
    CHECK((bar > 0 && bar < static_cast<int>(shown.view().chart().size())));
    const auto& closes = shown.view().chart().bars->close;
    CHECK((value > 0.3 * closes.back() && value < 3.0 * closes.back()));
    QTest::mouseClick(&shown.view(), Qt::LeftButton, {}, {400, shown.view().height() - 40});
    REQUIRE(clicks.size() == 2);
    CHECK(std::get<1>(clicks[1]) == 2);
    QTest::mousePress(&shown.view(), Qt::LeftButton, {}, {300, 120});
    QTest::mouseMove(&shown.view(), QPoint(340, 120));
    QTest::mouseRelease(&shown.view(), Qt::LeftButton, {}, {340, 120});
    CHECK(clicks.size() == 2);
}

TEST_CASE("Price chart: keys change bars, scale and set-up, and tell who makes the figures",
          "[app]")
{
    Shown shown;
    shown.chart.setChart(chartOf());
    std::vector<bool> told;
    QObject::connect(&shown.view(), &ChartView::setUpChanged, &shown.view(),
                     [&](bool needsFigures) { told.push_back(needsFigures); });
    const auto remake = [&] { shown.chart.setChart(chartOf("2024-03-01", shown.view().setUp())); };
    shown.view().showBars(200.0, 330.0);
    const std::vector<Day> days = shown.view().chart().bars->days; // the chart gives way below
    const Day first = days[shown.view().viewport().first()];
    const Day last = days[shown.view().viewport().end() - 1];
    shown.press(Qt::Key_W, Qt::ShiftModifier);
    CHECK(told == std::vector<bool>{true});
    remake();
    CHECK(shown.view().chart().setUp.scale == BarScale::Week);
    CHECK(shown.view().chart().size() < days.size() / 4);
    const auto& weeks = shown.view().chart().bars->days;
    CHECK(std::abs(weeks[shown.view().viewport().first()] - first) <= 10); // the days in sight stay
    CHECK(std::abs(weeks[shown.view().viewport().end() - 1] - last) <= 10);
    shown.press(Qt::Key_W, Qt::ShiftModifier); // they are already weeks
    CHECK(told.size() == 1);
    shown.press(Qt::Key_L, Qt::ShiftModifier);
    CHECK(shown.view().setUp().values == ValueScale::Logarithmic);
    shown.press(Qt::Key_P, Qt::ShiftModifier);
    CHECK(shown.view().setUp().values == ValueScale::Percent);
    shown.press(Qt::Key_P, Qt::ShiftModifier);
    CHECK(shown.view().setUp().values == ValueScale::Linear);
    CHECK(told == std::vector<bool>{true, false, false, false});
    const std::string before = shown.view().setUp().name;
    shown.press(Qt::Key_S, Qt::ShiftModifier);
    CHECK(shown.view().setUp().name != before);
    for (std::size_t i = 1; i < charts::readySetUps().size(); ++i) {
        remake();
        CHECK_FALSE(shown.view().grab().isNull());
        shown.press(Qt::Key_S, Qt::ShiftModifier);
    }
    CHECK(shown.view().setUp().name == before); // round
    shown.view().restoreSetUp("nonsense");
    CHECK(shown.view().setUp().name == before);
    shown.view().restoreSetUp("form = \"bars\"\n[[pane]]\n");
    CHECK(shown.view().setUp().form == BarForm::Bars);
}

TEST_CASE("Price chart: a layer with a mistake says it, the rest is drawn", "[app]")
{
    Shown shown;
    SetUp setUp = charts::standardSetUp();
    shown.chart.setChart(chartOf("2024-03-01", setUp));
    CHECK(shown.inked(look().caution) > 0); // the 50-day mean
    setUp.panes[0].layers[1].show = "smaa(close, 50)";
    shown.view().setSetUp(setUp);
    shown.chart.setChart(chartOf("2024-03-01", setUp));
    CHECK(shown.view().chart().panes[0].layers[1].error);
    CHECK(shown.inked(look().caution) > 0); // the text of the fault
    CHECK(shown.inked(look().rise) > 0);
}

TEST_CASE("Price chart: bears no bar, one bar, one price, tiny and huge ones, and no volume",
          "[app]")
{
    Shown shown;
    for (const ValueScale values :
         {ValueScale::Linear, ValueScale::Logarithmic, ValueScale::Percent})
        for (const BarForm form : {BarForm::Candles, BarForm::Bars, BarForm::Line, BarForm::Filled})
            for (const auto& [count, price] : {std::pair(std::size_t{0}, 5.0),
                                               {1, 5.0},
                                               {2, 5.0},
                                               {5, 0.0001},
                                               {300, 9e5},
                                               {6000, 12.0}}) {
                SetUp setUp = charts::standardSetUp();
                setUp.values = values;
                setUp.form = form;
                market::Bars bars = flatBars(count, price);
                for (double& volume : bars.volume)
                    volume = missing;
                shown.view().setSetUp(setUp);
                shown.chart.setChart(chartOfBars(bars, setUp));
                shown.press(Qt::Key_Home);
                CHECK_FALSE(shown.chart.grab().isNull());
                shown.press(Qt::Key_Plus);
                QTest::mouseMove(&shown.view(), QPoint(200, 100));
                CHECK_FALSE(shown.chart.grab().isNull());
            }
}

TEST_CASE("Price chart: its picture is written as PNG and SVG, or says that it cannot", "[app]")
{
    const test::OwnFolder folder;
    Shown shown;
    shown.chart.setChart(chartOf());
    shown.view().grab();
    const auto file = [&](const char* name) {
        return QString::fromStdString((folder.path() / name).string());
    };
    const auto saves = [&](const QString& path) {
        return writePicture(path, shown.view().pictureFor(path)());
    };
    REQUIRE(saves(file("chart.png")));
    const QImage image(file("chart.png"));
    CHECK(image.size() == shown.view().size() * 2);
    REQUIRE(saves(file("chart.svg")));
    CHECK(folder.read("chart.svg").find("sma(close, 50)") != std::string::npos);
    CHECK_FALSE(saves(file("no/chart.svg")));
    CHECK_FALSE(saves(file("no/chart.png")));
    REQUIRE(saves(file("chart.PDF")));
    CHECK(folder.read("chart.PDF").starts_with("%PDF"));
    CHECK_FALSE(saves(file("no/chart.pdf")));
    shown.chart.setChart(std::make_shared<const Chart>(charts::emptyChart(SetUp())));
    CHECK_FALSE(saves(file("none.pdf"))); // there is nothing to show
}

TEST_CASE("Price chart: panes are made taller, moved and removed by keys and by their edges",
          "[app]")
{
    Shown shown;
    SetUp setUp = *std::ranges::find(charts::readySetUps(), "Bands and momentum", &SetUp::name);
    REQUIRE(setUp.panes.size() >= 3);
    shown.view().setSetUp(setUp);
    shown.chart.setChart(chartOf("2024-03-01", setUp));
    std::vector<bool> changes;
    QObject::connect(&shown.view(), &ChartView::setUpChanged, &shown.view(),
                     [&](bool needsFigures) {
                         changes.push_back(needsFigures);
                         shown.chart.setChart(chartOf("2024-03-01", shown.view().setUp()));
                     });
    const auto heights = [&] {
        std::vector<double> all;
        for (const charts::PaneSetUp& pane : shown.view().setUp().panes)
            all.push_back(pane.height);
        return all;
    };
    const auto pointAtPane = [&](std::size_t pane) {
        shown.view().grab(); // laid out
        QTest::mouseMove(&shown.view(), shown.view().paneArea(pane).center().toPoint());
    };
    const std::vector<double> before = heights();
    pointAtPane(1);
    shown.press(Qt::Key_Down, Qt::ControlModifier);
    CHECK(heights()[1] > before[1]);
    CHECK(heights()[1] + heights()[2] == Approx(before[1] + before[2]));
    CHECK(heights()[0] == before[0]);
    shown.press(Qt::Key_Up, Qt::ControlModifier);
    CHECK(heights()[1] == Approx(before[1]).epsilon(0.02));
    CHECK(changes == std::vector<bool>{false, false}); // it needs no other figures
    // The edge below the prices, far beyond the next pane's: that one keeps a least height.
    const QRectF prices = shown.view().paneArea(0);
    const QPoint edge(400, static_cast<int>(prices.bottom()) + 3);
    QTest::mousePress(&shown.view(), Qt::LeftButton, Qt::NoModifier, edge);
    QTest::mouseMove(&shown.view(), edge + QPoint(0, 40));
    QTest::mouseMove(&shown.view(), edge + QPoint(0, 1000));
    QTest::mouseRelease(&shown.view(), Qt::LeftButton, Qt::NoModifier, edge + QPoint(0, 1000));
    CHECK(heights()[0] > before[0]);
    CHECK(shown.view().paneArea(1).height() >= 23.0);
    CHECK(changes.size() == 3);
    // Order and number: the prices stay first and cannot be taken out.
    const auto shows = [&](std::size_t pane) {
        return shown.view().setUp().panes.at(pane).layers.front().show;
    };
    const std::string second = shows(1);
    const std::string third = shows(2);
    pointAtPane(2);
    shown.press(Qt::Key_Up, Qt::ControlModifier | Qt::ShiftModifier);
    CHECK(shows(1) == third);
    CHECK(shows(2) == second);
    CHECK(changes.back());
    pointAtPane(1);
    shown.press(Qt::Key_Up, Qt::ControlModifier | Qt::ShiftModifier);
    CHECK(shows(1) == third);
    pointAtPane(1);
    shown.press(Qt::Key_Delete, Qt::ControlModifier);
    CHECK(shows(1) == second);
    pointAtPane(0);
    shown.press(Qt::Key_Delete, Qt::ControlModifier);
    shown.press(Qt::Key_Down, Qt::ControlModifier | Qt::ShiftModifier);
    CHECK(shown.view().setUp().panes.size() == setUp.panes.size() - 1);
}

TEST_CASE("Price chart: tells a screen reader what it shows", "[app]")
{
    Shown shown;
    shown.chart.setChart(chartOf());
    const QString told = shown.view().accessibleDescription();
    CHECK(told.contains(QStringLiteral("closed at")));
    CHECK(told.contains(QStringLiteral("over 63 days")));
    CHECK(told.contains(QStringLiteral("sma(close, 50)")));
}

TEST_CASE("Price chart: marks are gone to by keys, told on a card, and switched off", "[app]")
{
    Shown shown;
    const market::Bars flat = flatBars(400, 10.0);
    Chart chart = *chartOfBars(flat);
    for (const std::size_t bar : {50U, 120U, 120U, 390U})
        chart.marks.push_back({charts::MarkKind::Report, bar, flat.days[bar], "A report."});
    shown.view().setSetUp(SetUp());
    shown.chart.setShownBars(100);
    shown.chart.setChart(std::make_shared<const Chart>(chart));
    std::vector<int> read;
    QObject::connect(&shown.view(), &ChartView::pointed, &shown.view(),
                     [&](int bar) { read.push_back(bar); });
    const int plain = shown.inked(look().ground); // of a card's ground
    shown.press(Qt::Key_Comma);
    CHECK(read == std::vector<int>{390});
    CHECK(shown.inked(look().ground) > plain + 500); // the card
    shown.press(Qt::Key_Comma);
    CHECK(read.back() == 120);
    CHECK(shown.view().viewport().first() < 120); // it came into sight
    CHECK(shown.view().viewport().end() > 120);
    shown.press(Qt::Key_Comma);
    CHECK(read.back() == 50);
    shown.press(Qt::Key_Comma);
    CHECK(read.size() == 3); // there is none before
    shown.press(Qt::Key_Period);
    CHECK(read.back() == 120);
    shown.press(Qt::Key_Period);
    CHECK(read.back() == 390);
    shown.press(Qt::Key_Period);
    CHECK(read.size() == 5);
    CHECK(shown.inked(look().mark) > 0);
    bool isToldToMakeAgain = false;
    QObject::connect(&shown.view(), &ChartView::setUpChanged, &shown.view(),
                     [&](bool needsFigures) { isToldToMakeAgain = needsFigures; });
    shown.press(Qt::Key_E, Qt::ShiftModifier);
    CHECK(shown.view().setUp().marks.empty());
    CHECK(isToldToMakeAgain);
    shown.press(Qt::Key_E, Qt::ShiftModifier);
    CHECK(shown.view().setUp().marks.size() == 4);
}

TEST_CASE("Price chart: what it shows is written as text, and shown when it is accepted", "[app]")
{
    Shown shown;
    shown.chart.setChart(chartOf());
    int told = 0;
    QObject::connect(&shown.view(), &ChartView::setUpChanged, &shown.view(), [&] { ++told; });
    shown.press(Qt::Key_T, Qt::ShiftModifier);
    auto* dialog = shown.view().findChild<SetUpDialog*>();
    REQUIRE(dialog);
    dialog->editor().setPlainText(QStringLiteral("name = \"Mine\"\nform = \"line\"\n[[pane]]\n"));
    dialog->accept();
    CHECK(shown.view().setUp().name == "Mine");
    CHECK(told == 1);
}

TEST_CASE("Price chart: what is compared begins at the first close in sight", "[app]")
{
    SetUp setUp;
    setUp.values = ValueScale::Percent;
    setUp.panes[0].layers = {{"other"}};
    setUp.panes[0].layers[0].isCompared = true;
    Chart chart = *chartOfBars(flatBars(100, 10.0), setUp);
    std::vector<double> other;
    for (std::size_t bar = 0; bar < 100; ++bar)
        other.push_back(500.0 * std::pow(1.01, static_cast<double>(bar)));
    chart.panes[0].layers[0].values = std::make_shared<const std::vector<double>>(other);
    ChartPicture picture;
    picture.setValueScale(ValueScale::Percent);
    picture.setChart(std::make_shared<const Chart>(chart));
    charts::Viewport view(100);
    view.showNewest(50);
    picture.layOut(QRectF(0, 0, 800, 400), view);
    CHECK(picture.comparedChange(picture.chart().panes[0].layers[0], view.first()) == 0.0);
    CHECK(picture.comparedChange(picture.chart().panes[0].layers[0], 99) ==
          Approx(std::pow(1.01, static_cast<double>(99 - view.first())) - 1.0));
    // The scale reaches from the prices to where the other has gone to from there.
    CHECK(picture.panes()[0].axis.high() > 10.0 * std::pow(1.01, 49.0));
    CHECK(picture.panes()[0].axis.high() < 10.0 * std::pow(1.01, 60.0));
    QImage image(800, 400, QImage::Format_RGB32);
    QPainter painter(&image);
    picture.paint(painter, look());
    painter.end();
    const auto y = static_cast<int>(picture.yOf(0, 10.0));
    const auto x = static_cast<int>(picture.xOf(static_cast<double>(view.first())));
    bool isThere = false; // near the first bar it lies on the prices
    for (int row = y - 4; row <= y + 4; ++row)
        for (int column = x; column < x + 8; ++column)
            isThere = isThere || image.pixelColor(column, row) != look().sheet;
    CHECK(isThere);
}

TEST_CASE("Price chart: minutes by a key, as many as the person says, and where there are none",
          "[app]")
{
    Shown shown;
    shown.chart.setChart(chartOf());
    int told = 0;
    QObject::connect(&shown.view(), &ChartView::setUpChanged, &shown.view(), [&] { ++told; });
    shown.press(Qt::Key_I, Qt::ShiftModifier);
    CHECK(told == 1);
    CHECK(shown.view().setUp().scale == BarScale::Minutes);
    CHECK(shown.view().setUp().minutes == 5);
    shown.press(Qt::Key_I, Qt::ControlModifier | Qt::ShiftModifier);
    auto* dialog = shown.view().findChild<QInputDialog*>();
    REQUIRE(dialog);
    dialog->setIntValue(15);
    dialog->accept();
    CHECK(told == 2);
    CHECK(shown.view().setUp().minutes == 15);
    // This market has no minutes: the chart says so, and how to go on.
    const auto none = chartOf("2024-03-01", shown.view().setUp());
    CHECK(none->size() == 0);
    shown.chart.setChart(none);
    CHECK_FALSE(shown.view().isVisible());
    CHECK(std::ranges::any_of(shown.chart.findChildren<QLabel*>(), [](const QLabel* label) {
        return label->isVisible() && label->text().contains(QStringLiteral("Shift+D"));
    }));
}

TEST_CASE("Price chart: each kind of mark is switched by itself, the menu stays open", "[app]")
{
    using charts::MarkKind;
    Shown shown;
    shown.chart.setChart(chartOf());
    const auto has = [&](MarkKind kind) {
        const auto& marks = shown.view().setUp().marks;
        return std::ranges::find(marks, kind) != marks.end();
    };
    REQUIRE(has(MarkKind::Report));
    REQUIRE_FALSE(has(MarkKind::Divergence));
    shown.press(Qt::Key_E, Qt::ControlModifier | Qt::ShiftModifier);
    auto* menu = qobject_cast<QMenu*>(QApplication::activePopupWidget());
    REQUIRE(menu);
    const auto click = [&](const char* title) {
        for (QAction* action : menu->actions())
            if (action->text() == QLatin1String(title))
                QTest::mouseClick(menu, Qt::LeftButton, {}, menu->actionGeometry(action).center());
    };
    click("Reports");
    CHECK_FALSE(has(MarkKind::Report));
    REQUIRE(menu->isVisible());
    click("Divergences of the panes below");
    CHECK(has(MarkKind::Divergence));
    menu->setActiveAction(menu->actions().front());
    QTest::keyClick(menu, Qt::Key_Space); // the first again, by keys
    CHECK(has(MarkKind::Report));
    QTest::keyClick(menu, Qt::Key_Escape);
    CHECK_FALSE(QApplication::activePopupWidget());
}

} // namespace sieve::app
