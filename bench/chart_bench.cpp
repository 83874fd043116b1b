#include "app/chart/chart_view.h"
#include "app/chart/drawing_pen.h"
#include "app/look/look.h"

#include <QApplication>
#include <algorithm>
#include <chrono>
#include <cmath>
#include <cstdio>
#include <random>
#include <vector>

// What a frame of a chart costs while it is panned and zoomed, offscreen: the median and the 95th
// percentile over two hundred frames. For comparison, the same candles drawn by QCustomPlot's own
// plottable: that is why charts have a painter of ours.

namespace {

using namespace sieve;
using Clock = std::chrono::steady_clock;

market::Bars barsOf(std::size_t count)
{
    market::Bars bars;
    std::mt19937 random(7);
    std::normal_distribution<double> step(0.0, 0.012);
    double price = 40.0;
    for (std::size_t i = 0; i < count; ++i) {
        const double open = price;
        price *= 1.0 + step(random);
        const double reach = 0.4 * std::fabs(step(random)) * price;
        bars.add({Day::fromSerial(static_cast<int>(i)), open, std::max(open, price) + reach,
                  std::min(open, price) - reach, price, 1e5 * (1.0 + std::fabs(step(random)))});
    }
    return bars;
}

/// Averages made here: the bench is about drawing.
charts::Series smoothed(const std::vector<double>& values, double weight)
{
    std::vector<double> smooth(values);
    for (std::size_t i = 1; i < smooth.size(); ++i)
        smooth[i] = smooth[i - 1] + weight * (values[i] - smooth[i - 1]);
    return std::make_shared<const std::vector<double>>(std::move(smooth));
}

/// Four panes with eight layers.
std::shared_ptr<const charts::Chart> chartOf(const market::Bars& bars)
{
    using charts::LayerForm;
    charts::SetUp setUp;
    setUp.panes.resize(4);
    setUp.panes[0].height = 4.0;
    setUp.panes[0].layers = {{"band", "edge", LayerForm::Band}, {"fast"}, {"slow"}, {"slowest"}};
    setUp.panes[1].layers = {{"volume", "", LayerForm::Columns}, {"mean"}};
    setUp.panes[1].layers[0].isByChange = true;
    setUp.panes[2].layers = {{"line"}};
    setUp.panes[3].layers = {{"steps", "", LayerForm::Steps}};
    charts::Chart chart = charts::emptyChart(setUp);
    chart.symbol = "MADE.C";
    chart.bars = chart.daily = std::make_shared<const market::Bars>(bars);
    chart.places =
        charts::BarPlaces(charts::barEnds(bars.days, charts::BarScale::Day), charts::BarScale::Day);
    auto& price = chart.panes[0].layers;
    price[0].values = smoothed(bars.low, 0.1);
    price[0].to = smoothed(bars.high, 0.1);
    price[1].values = smoothed(bars.close, 0.1);
    price[2].values = smoothed(bars.close, 0.04);
    price[3].values = smoothed(bars.close, 0.01);
    chart.panes[1].layers[0].values = std::make_shared<const std::vector<double>>(bars.volume);
    chart.panes[1].layers[1].values = smoothed(bars.volume, 0.04);
    chart.panes[2].layers[0].values = smoothed(bars.close, 0.2);
    chart.panes[3].layers[0].values = smoothed(bars.close, 0.002);
    return std::make_shared<const charts::Chart>(std::move(chart));
}

/// Goes through the bars at many widths: calls show(from, to), then draw().
template <class Show, class Draw>
void measure(const char* what, std::size_t bars, Show show, Draw draw)
{
    std::vector<double> frames;
    const double all = static_cast<double>(bars);
    for (int frame = 0; frame < 200; ++frame) {
        const double width = all * std::pow(0.97, frame % 100) + 60.0;
        const double from = std::max(0.0, (all - width) * (frame % 7) / 6.0);
        const auto begin = Clock::now();
        show(from, from + width);
        draw();
        frames.push_back(std::chrono::duration<double, std::milli>(Clock::now() - begin).count());
    }
    std::ranges::sort(frames);
    std::printf("%-44s %7zu bars  median %6.1f ms  95 %% %6.1f ms\n", what, bars, frames[100],
                frames[190]);
}

/// A hundred drawings over all of the bars, every tool in turn.
std::vector<drawings::Drawing> drawingsOver(const market::Bars& bars)
{
    std::vector<drawings::Drawing> all;
    for (std::size_t i = 0; i < 100; ++i) {
        drawings::Drawing drawing;
        drawing.id = static_cast<std::int64_t>(i) + 1;
        drawing.tool = drawings::toolRows()[i % drawings::toolRows().size()].tool;
        drawing.drawnOn = bars.days.back();
        drawing.text = "Note";
        const std::size_t begin = i * (bars.size() - 60) / 100;
        for (std::size_t point = 0; point < rowOf(drawing.tool).fewest; ++point) {
            const std::size_t bar = begin + 20 * point;
            drawing.anchors.push_back(
                {bars.days[bar], point % 2 == 0 ? bars.low[bar] : bars.high[bar]});
        }
        all.push_back(std::move(drawing));
    }
    return all;
}

void measureView(const char* what, const QSize& size,
                 const std::shared_ptr<const charts::Chart>& chart, bool isDrawnOn = false)
{
    app::ChartView view;
    view.resize(size);
    view.setChart(chart);
    if (isDrawnOn)
        view.pen().setDrawings(drawingsOver(*chart->daily));
    QImage image(size, QImage::Format_RGB32);
    measure(
        what, chart->size(), [&](double from, double to) { view.showBars(from, to); },
        [&] { view.render(&image); });
}

void measureCandles(std::size_t count)
{
    const market::Bars bars = barsOf(count);
    charts::Chart bare = charts::emptyChart(charts::SetUp());
    bare.symbol = "MADE.C";
    bare.bars = std::make_shared<const market::Bars>(bars);
    measureView("candles alone, own painter", {1280, 800},
                std::make_shared<const charts::Chart>(bare));
}

} // namespace

int main(int argc, char** argv)
{
    qputenv("QT_QPA_PLATFORM", "offscreen");
    const QApplication application(argc, argv);
    app::wear(app::paperPalette());
    for (const std::size_t count : {5'000U, 100'000U}) // twenty years; minutes of a year
        measureCandles(count);
    for (const std::size_t count : {5'000U, 100'000U}) {
        const auto chart = chartOf(barsOf(count));
        measureView("four panes, eight layers, 1280x800", {1280, 800}, chart);
        measureView("four panes, eight layers, 3840x2160", {3840, 2160}, chart);
        measureView("and a hundred drawings, 1280x800", {1280, 800}, chart, true);
        measureView("and a hundred drawings, 3840x2160", {3840, 2160}, chart, true);
    }
}
