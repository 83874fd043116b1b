#include "tests/app/pictures.h"

#include "app/chart/chart_view.h"
#include "app/chart/drawings_dialog.h"
#include "app/chart/layers_dialog.h"
#include "app/chart/ready_layers_dialog.h"
#include "app/chart/set_up_dialog.h"
#include "app/desk/in_hand.h"
#include "app/parts/actions.h"
#include "app/sift/followed_glance.h"
#include "app/wall/chart_wall.h"
#include "core/screens/starter.h"
#include "core/watchlists/stocks.h"

#include <QComboBox>
#include <QLineEdit>
#include <QListWidget>
#include <QStatusBar>
#include <QToolButton>

// Charts, what is drawn on them, and walls of them.

namespace sieve::test {

void take(const WindowBench& bench, const QDir& folder, const char* name)
{
    bench.window->statusBar()->clearMessage(); // what the tool did just now
    bench.settle();
    if (const auto* glance = bench.window->findChild<app::FollowedGlance*>();
        glance && glance->isVisible())
        waitUntil([glance] { return !glance->isWaiting(); }, "what followed");
    const QString path = folder.filePath(QLatin1String(name) + QStringLiteral(".png"));
    if (!bench.window->grab().save(path))
        throw std::runtime_error("cannot write " + path.toStdString());
}

void takeMinutes(const QDir& folder)
{
    const OwnFolder own;
    const OwnFolder dataset;
    demo_market::writeDataset(demo_market::makeMarket(20260930), dataset.path(), 20);
    const WindowBench bench(own.path() / "library.sqlite", dataset.path());
    const market::Market& market = bench.desk->market().data();
    std::size_t most = 0;
    for (std::size_t stock = 0; stock < market.size(); ++stock)
        if (market.minuteBars(stock).size() > market.minuteBars(most).size())
            most = stock;
    bench.desk->focus().select(most);
    bench.go("weigh");
    bench.settle();
    auto* chart = bench.chartIn("weigh");
    chart->setFocus();
    const auto press = [&](Qt::Key key, Qt::KeyboardModifiers with = Qt::NoModifier) {
        QTest::keyClick(chart, key, with);
        bench.settle();
    };
    charts::SetUp rule = charts::standardSetUp();
    rule.name = "A rule";
    rule.marks = {charts::MarkKind::Report, charts::MarkKind::Divergence};
    rule.panes[0].layers.push_back({"crosses_above(close, sma(close, 20))",
                                    "crosses_below(close, sma(close, 50))",
                                    charts::LayerForm::Trades});
    rule.panes.push_back({1.4, false, {{"rsi(close, 14)"}}});
    chart->restoreSetUp(charts::toToml(rule));
    bench.settle();
    press(Qt::Key_Comma);
    take(bench, folder, "chart_trades");
    app::findAction(*chart, app::ActionId::AddReadyLayer)->trigger();
    auto* ready = chart->findChild<app::ReadyLayersDialog*>();
    QTest::keyClicks(ready->findChild<QLineEdit*>(), QStringLiteral("strength"));
    bench.settle();
    ready->grab().save(folder.filePath(QStringLiteral("ready_layers.png")));
    ready->reject();
    QTest::qWait(30);
    bench.window->activateWindow();
    chart->setFocus();
    chart->restoreSetUp(charts::toToml(charts::standardSetUp()));
    app::findAction(*chart, app::ActionId::MinuteBars)->trigger();
    bench.settle();
    take(bench, folder, "minutes_all");
    const auto bars = static_cast<double>(chart->chart().size());
    chart->showBars(bars - 400.0, bars);
    take(bench, folder, "minutes_days");
    chart->showBars(bars - 80.0, bars);
    take(bench, folder, "minutes_session");
}

namespace {

/// Thirty in hand on the wall of Weigh, three of them decided.
app::ChartWall* wallOfThirty(const WindowBench& bench)
{
    const market::Market& market = bench.desk->market().data();
    std::vector<std::string> symbols;
    for (std::size_t stock = 3; symbols.size() < 30; stock += 11)
        symbols.push_back(market.instrument(stock).symbol);
    app::takeInHand(*bench.desk, bench.window.get(), symbols, QStringLiteral("Take in hand"),
                    QStringLiteral("a list"));
    bench.go("weigh");
    auto* place = bench.window->place(QStringLiteral("weigh"));
    app::findAction(*place, app::ActionId::ShowTrayWall)->trigger();
    bench.settle();
    auto* wall = place->findChild<app::ChartWall*>();
    wall->findChild<QComboBox*>()->setCurrentIndex(2);
    bench.settle();
    for (const Qt::Key key : {Qt::Key_K, Qt::Key_X, Qt::Key_L})
        QTest::keyClick(wall, key);
    bench.settle();
    return wall;
}

} // namespace

void takeWeighWall(const QDir& folder)
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite", wholeDemoDataset());
    wallOfThirty(bench);
    take(bench, folder, "weigh_wall");
}

void takeWalls(const QDir& folder)
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite", wholeDemoDataset());
    app::ChartWall* wall = wallOfThirty(bench);
    bench.window->resize(1024, 700);
    take(bench, folder, "wall_small");
    bench.window->resize(1280, 800);
    QTest::keyClick(wall, Qt::Key_Return);
    bench.settle();
    take(bench, folder, "wall_large");
}

namespace {

/// A stock of five bars, and the middle of the benchmark's deepest fall of twenty sessions.
void takeEdges(const WindowBench& bench, const QDir& folder)
{
    const market::Market& market = bench.desk->market().data();
    std::size_t young = 0;
    for (std::size_t stock = 0; stock < market.size(); ++stock)
        if (market.bars(stock).size() > 30 &&
            market.bars(stock).days.front() > market.bars(young).days.front())
            young = stock;
    bench.desk->focus().select(young);
    bench.desk->focus().setDay(market.bars(young).days[4]);
    bench.settle();
    take(bench, folder, "chart_five");
    const auto& line = market.bars(*market.find(market.description().benchmark));
    std::size_t worst = 20;
    for (std::size_t bar = 20; bar < line.size(); ++bar)
        if (line.close[bar] / line.close[bar - 20] < line.close[worst] / line.close[worst - 20])
            worst = bar;
    bench.desk->focus().setDay(line.days[worst - 6]);
    bench.desk->focus().selectSymbol("VRHL.C");
    bench.settle();
    take(bench, folder, "chart_crash");
    bench.desk->focus().goToLatest();
    bench.settle();
}

} // namespace

void takeChart(const QDir& folder)
{
    const test::OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite", test::wholeDemoDataset());
    bench.desk->focus().selectSymbol("VRHL.C");
    bench.go("weigh");
    auto* chart = bench.chartIn("weigh");
    chart->setFocus();
    const auto press = [&](Qt::Key key, Qt::KeyboardModifiers with = Qt::ShiftModifier) {
        QTest::keyClick(chart, key, with);
        bench.settle();
    };
    press(Qt::Key_Comma, Qt::NoModifier);
    take(bench, folder, "chart_card");
    takeEdges(bench, folder);
    charts::SetUp marked = charts::standardSetUp();
    marked.marks = {charts::MarkKind::Report, charts::MarkKind::Split,  charts::MarkKind::Gap,
                    charts::MarkKind::Island, charts::MarkKind::Inside, charts::MarkKind::Outside,
                    charts::MarkKind::Swing};
    marked.panes[0].layers.push_back(
        {.show = "crosses_above(close, sma(close, 50))", .form = charts::LayerForm::Marks});
    chart->restoreSetUp(charts::toToml(marked));
    bench.desk->focus().stepSessions(-60);
    bench.settle();
    press(Qt::Key_Comma, Qt::NoModifier);
    take(bench, folder, "chart_marks");
    bench.desk->focus().goToLatest();
    chart->restoreSetUp(charts::toToml(charts::standardSetUp()));
    bench.settle();
    for (std::size_t i = 1; i < charts::readySetUps().size(); ++i) {
        press(Qt::Key_S);
        const QString name = QStringLiteral("chart_%1").arg(i);
        take(bench, folder, name.toLatin1().constData());
    }
    press(Qt::Key_S);
    press(Qt::Key_W);
    press(Qt::Key_L);
    press(Qt::Key_Home, Qt::NoModifier);
    take(bench, folder, "chart_weeks");
    press(Qt::Key_D);
    press(Qt::Key_P);
    press(Qt::Key_F);
    press(Qt::Key_F);
    press(Qt::Key_F);
    take(bench, folder, "chart_percent");
    charts::SetUp wrong = charts::standardSetUp();
    wrong.panes[1].layers[0].show = "volum";
    wrong.panes[0].layers[0].show = "emaa(close, 21)";
    chart->restoreSetUp(charts::toToml(wrong));
    bench.settle();
    bench.window->resize(1024, 700);
    take(bench, folder, "chart_wrong");
    app::SetUpDialog dialog(charts::standardSetUp(), bench.window.get());
    dialog.show();
    dialog.grab().save(folder.filePath(QStringLiteral("chart_set_up.png")));
}

namespace {

/// Draws on a stock, by highs and lows so many bars ago.
class Sketch {
public:
    using Point = std::pair<std::size_t, double>;

    Sketch(const WindowBench& bench, const char* symbol) : bench_(bench), symbol_(symbol)
    {
        bench.desk->focus().selectSymbol(symbol);
        bench.go("weigh");
        bench.settle();
        chart = bench.chartIn("weigh");
        chart->setFocus();
    }

    void draw(drawings::Tool tool, const std::vector<Point>& points, const char* name = "",
              const char* text = "")
    {
        drawings::Drawing made;
        made.id = ++lastId;
        made.tool = tool;
        made.symbol = symbol_;
        made.drawnOn = bars().days.back();
        for (const auto& [ago, price] : points)
            made.anchors.push_back({bars().days[bars().size() - 1 - ago], price});
        made.name = name;
        made.text = text;
        bench_.desk->work().edit(QStringLiteral("draw"),
                                 [&](app::Work& work) { keepDrawing(work, made); });
    }
    Point high(std::size_t from, std::size_t to) const
    {
        return extreme(bars().high, 1.0, from, to);
    }
    Point low(std::size_t from, std::size_t to) const
    {
        return extreme(bars().low, -1.0, from, to);
    }

    /// A base under its pivot, the rise before it, and how much of that it takes back.
    void drawBase()
    {
        using drawings::Tool;
        draw(Tool::Level, {high(40, 0)}, "pivot");
        draw(Tool::Line, {low(150, 110), low(60, 30)});
        draw(Tool::Retracement, {low(120, 60), high(60, 0)});
        draw(Tool::Note, {high(150, 100)}, "", "First high");
    }

    app::ChartView* chart = nullptr;
    std::int64_t lastId = 0;

private:
    const market::Bars& bars() const { return *chart->chart().daily; }
    Point extreme(const std::vector<double>& prices, double sign, std::size_t from,
                  std::size_t to) const
    {
        const auto price = [&](std::size_t ago) { return prices[prices.size() - 1 - ago]; };
        std::size_t best = from;
        for (std::size_t ago = to; ago <= from; ++ago)
            if (sign * price(ago) > sign * price(best))
                best = ago;
        return {best, price(best)};
    }

    const WindowBench& bench_;
    const char* symbol_;
};

} // namespace

void takeWeighDrawings(const QDir& folder)
{
    const test::OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite", test::wholeDemoDataset());
    Sketch sketch(bench, "VRHL.C");
    sketch.drawBase();
    take(bench, folder, "weigh_drawings");
}

/// Drawings on a chart: a few of them, one of each tool, the palette, the measure, the list.
void takeDrawings(const QDir& folder)
{
    using drawings::Tool;
    const test::OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite", test::wholeDemoDataset());
    Sketch sketch(bench, "VRHL.C");
    auto* chart = sketch.chart;
    const auto high = [&](std::size_t from, std::size_t to) { return sketch.high(from, to); };
    const auto low = [&](std::size_t from, std::size_t to) { return sketch.low(from, to); };
    sketch.drawBase();
    take(bench, folder, "drawings");
    QTest::keyClick(chart, Qt::Key_N);
    take(bench, folder, "drawings_chosen");
    QTest::keyClick(chart, Qt::Key_D);
    if (QWidget* menu = QApplication::activePopupWidget()) {
        menu->grab().save(folder.filePath(QStringLiteral("drawings_tools.png")));
        menu->close();
    }
    bench.desk->work().edit(QStringLiteral("clear"), [&](app::Work& work) {
        for (std::int64_t each = 1; each <= sketch.lastId; ++each)
            removeDrawing(work, each);
    });
    sketch.draw(Tool::Channel, {low(170, 140), low(110, 80), high(140, 110)}, "rise");
    sketch.draw(Tool::Regression, {{60, 1.0}, {20, 1.0}});
    sketch.draw(Tool::Average, {low(120, 80)}, "since the low");
    sketch.draw(Tool::Box, {high(35, 0), low(35, 0)}, "base");
    sketch.draw(Tool::Arrow, {{100, high(100, 60).second}, low(80, 60)}, "", "Turned here");
    sketch.draw(Tool::Swings,
                {low(185, 160), high(160, 140), low(140, 120), high(120, 90), low(90, 70)});
    sketch.draw(Tool::MeasuredMove, {low(70, 45), high(45, 25), low(25, 5)});
    sketch.draw(Tool::Extension, {low(180, 150), high(150, 120), low(120, 100)});
    sketch.draw(Tool::Ray, {high(180, 140), high(90, 60)});
    take(bench, folder, "drawings_all");
    bench.window->activateWindow(); // which offscreen nobody does when the menu has closed
    bench.settle();
    chart->setFocus();
    QTest::keyClick(chart, Qt::Key_M);
    QTest::mouseMove(chart, chart->rect().center() - QPoint(100, 100));
    QTest::mouseClick(chart, Qt::LeftButton, {}, chart->rect().center() - QPoint(100, 100));
    QTest::mouseMove(chart, chart->rect().center() + QPoint(100, -160));
    take(bench, folder, "drawings_measure");
    QTest::keyClick(chart, Qt::Key_Escape);
    QTest::keyClick(chart, Qt::Key_W, Qt::ShiftModifier);
    QTest::keyClick(chart, Qt::Key_L, Qt::ShiftModifier);
    bench.settle();
    QTest::keyClick(chart, Qt::Key_Home);
    take(bench, folder, "drawings_weeks");
    app::LayersDialog layers(chart->setUp(), bench.window.get());
    layers.show();
    layers.grab().save(folder.filePath(QStringLiteral("chart_layers.png")));
    layers.close();
    auto* dialog = chart->findChild<app::DrawingsDialog*>();
    dialog->show(sketch.lastId);
    dialog->grab().save(folder.filePath(QStringLiteral("drawings_list.png")));
    dialog->close();
}

} // namespace sieve::test
