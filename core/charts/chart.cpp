#include "core/charts/chart.h"
#include "core/base/parallel.h"

#include "core/charts/trades.h"
#include "core/conditions/divergence.h"
#include "core/market/as_of.h"

#include <algorithm>
#include <fmt/format.h>
#include <functional>

namespace sieve::charts {

namespace {

using engine::NodeId;

/// Asks for all layers at once, each expression on the bars of the chart's scale.
class Making {
public:
    /// `former`: a chart whose figures are kept where they are still right; null for none.
    Making(engine::Evaluator& evaluator, const language::Names& names, const SetUp& setUp,
           Lists lists, const Chart* former)
        : evaluator_(evaluator), names_(names), setUp_(setUp), lists_(lists), former_(former)
    {
    }

    Chart run(std::size_t instrument, Day day, const Progress& progress)
    {
        const market::Market& market = evaluator_.market();
        Chart chart = emptyChart(setUp_);
        chart.symbol = market::symbolOn(market.instrument(instrument), day);
        if (market.isInOtherCurrency(instrument))
            chart.otherCurrency = market.instrument(instrument).currency;
        chart.daily = std::make_shared<const market::Bars>(
            market::AsOf(evaluator_.marketPtr(), day).adjustedBars(instrument));
        for (Pane& pane : chart.panes)
            for (Layer& layer : pane.layers)
                ask(layer);
        if (setUp_.scale == BarScale::Minutes)
            fillMinutes(chart, instrument, day, progress);
        else if (chart.daily->size() > 0)
            fillDays(chart, instrument, day, progress);
        if (chart.size() > 0) {
            const Day since = setUp_.scale == BarScale::Minutes ? chart.bars->days.front()
                                                                : chart.daily->days.front();
            chart.marks = marksOf({evaluator_, names_, instrument, day, *chart.bars, since, lists_},
                                  setUp_.marks, progress);
        }
        return chart;
    }

private:
    /// Bars of days, weeks or months.
    void fillDays(Chart& chart, std::size_t instrument, Day day, const Progress& progress)
    {
        const market::Bars& daily = *chart.daily;
        const std::vector<std::size_t> ends = barEnds(daily.days, setUp_.scale);
        chart.places = BarPlaces(ends, setUp_.scale);
        chart.bars = setUp_.scale == BarScale::Day
                         ? chart.daily
                         : std::make_shared<const market::Bars>(barsOfScale(daily, ends));
        if (targets_.empty())
            return;
        const std::size_t kept = barsKept(chart);
        const std::size_t from = kept == 0 ? 0 : ends[kept - 1] + 1; // the first day asked for
        std::vector<std::vector<double>> values =
            evaluator_.histories(plan_, targets_, instrument, day, progress, from);
        const std::vector<Series> before = kept > 0 ? seriesOf(*former_) : std::vector<Series>();
        for (std::size_t i = 0; i < wanted_.size(); ++i) {
            // An instrument that has left has bars, and no value after its last one.
            values[i].resize(daily.size() - from, missing);
            std::vector<double> all;
            all.reserve(ends.size());
            if (kept > 0)
                all.assign(before[i]->begin(),
                           before[i]->begin() + static_cast<std::ptrdiff_t>(kept));
            for (std::size_t bar = kept; bar < ends.size(); ++bar)
                all.push_back(values[i][ends[bar] - from]);
            *wanted_[i] = std::make_shared<const std::vector<double>>(std::move(all));
        }
    }

    /// The figures of a chart in the order in which they are wanted.
    static std::vector<Series> seriesOf(const Chart& chart)
    {
        std::vector<Series> all;
        for (const Pane& pane : chart.panes)
            for (const Layer& layer : pane.layers) {
                if (layer.error)
                    continue;
                all.push_back(layer.values);
                if (isOfTwo(layer.setUp.form))
                    all.push_back(layer.to);
            }
        return all;
    }

    /// How many bars of the former chart stand as they stood: all but its last, which may have
    /// been a part of a week, and none where a split moved them.
    std::size_t barsKept(const Chart& chart) const
    {
        if (!former_ || former_->size() < 2 || former_->size() > chart.size() ||
            seriesOf(*former_).size() != wanted_.size())
            return 0;
        const std::size_t kept = former_->size() - 1;
        const market::Bars& before = *former_->bars;
        const market::Bars& now = *chart.bars;
        const bool isSame = before.days[kept - 1] == now.days[kept - 1] &&
                            before.days.front() == now.days.front() &&
                            before.close[kept - 1] == now.close[kept - 1] &&
                            before.close.front() == now.close.front() &&
                            before.volume.front() == now.volume.front();
        return isSame ? kept : 0;
    }

    void fillMinutes(Chart& chart, std::size_t instrument, Day day, const Progress& progress)
    {
        engine::MinuteHistories made =
            evaluator_.minuteHistories(plan_, targets_, instrument, day, setUp_.minutes, progress);
        const market::Market& market = evaluator_.market();
        const market::Exchange* exchange = market.exchange(market.instrument(instrument).exchange);
        const auto& days = made.bars.days;
        chart.places =
            BarPlaces(made.ofDays, sessionShares(exchange, made.begins, days, setUp_.minutes));
        chart.clock = clockOf(exchange, made.begins, days);
        chart.bars = std::make_shared<const market::Bars>(std::move(made.bars));
        for (std::size_t i = 0; i < wanted_.size(); ++i)
            *wanted_[i] = std::make_shared<const std::vector<double>>(std::move(made.values[i]));
    }

    /// The expression on the bars of the scale, where it has a place there.
    Result<language::Checked> checked(const std::string& text)
    {
        if (setUp_.scale == BarScale::Week || setUp_.scale == BarScale::Month) {
            const char* scale = setUp_.scale == BarScale::Week ? "weekly" : "monthly";
            const auto scaled = check(fmt::format("{}({})", scale, text), names_, plan_);
            if (scaled)
                return scaled;
        }
        return check(text, names_, plan_);
    }

    void ask(Layer& layer)
    {
        const auto figure = checked(layer.setUp.show);
        if (!figure) {
            layer.error = figure.error();
            return;
        }
        const bool isCondition = figure->kind == Kind::YesNo;
        const bool wantsCondition = isOfCondition(layer.setUp.form);
        if (isCondition != wantsCondition || (!isCondition && figure->kind != Kind::Number)) {
            layer.error = LocatedError{
                {},
                wantsCondition ? "this is no condition" : "this is no figure",
                wantsCondition ? "write a condition, for example close > sma(close, 50)"
                               : "write a figure, or show a condition as a ribbon or marks"};
            return;
        }
        layer.unit = figure->unit;
        want(layer.values, figure->node);
        if (!isOfTwo(layer.setUp.form))
            return;
        const auto to = checked(layer.setUp.to);
        if (to && to->kind == (wantsCondition ? Kind::YesNo : Kind::Number))
            return want(layer.to, to->node);
        layer.error = !to ? to.error()
                      : wantsCondition
                          ? LocatedError{{},
                                         "when the rule leaves is no condition",
                                         "write a condition, for example close < sma(close, 50)"}
                          : LocatedError{{}, "the other edge is no figure", "write a figure"};
        wanted_.pop_back();
        targets_.pop_back();
    }

    void want(Series& into, NodeId node)
    {
        wanted_.push_back(&into);
        targets_.push_back(node);
    }

    engine::Evaluator& evaluator_;
    const language::Names& names_;
    const SetUp& setUp_;
    Lists lists_;
    const Chart* former_;
    engine::Plan plan_;
    std::vector<Series*> wanted_;
    std::vector<NodeId> targets_;
};

} // namespace

namespace {

/// Of a pane's layers the first that is a line.
const Layer* firstLine(const Pane& pane)
{
    const auto line = std::ranges::find_if(pane.layers, [](const Layer& layer) {
        return layer.setUp.form == LayerForm::Line && !layer.error && !layer.setUp.hasScaleAtLeft;
    });
    return line == pane.layers.end() ? nullptr : &*line;
}

} // namespace

void joinDivergence(Chart& chart, std::size_t pane, const conditions::DivergenceFound& found,
                    double firstPrice, double secondPrice)
{
    const PalettePart colour =
        found.kind == conditions::Divergence::Weakening ? PalettePart::Fall : PalettePart::Rise;
    chart.joins.push_back({0, {found.first, firstPrice}, {found.second, secondPrice}, colour});
    chart.joins.push_back(
        {pane, {found.first, found.firstValue}, {found.second, found.secondValue}, colour});
}

void addDivergences(Chart& chart)
{
    struct Found {
        std::size_t pane;
        conditions::DivergenceFound found;
    };
    std::vector<Found> all;
    const std::vector<double>& closes = chart.bars->close;
    for (std::size_t pane = 1; pane < chart.panes.size() && !closes.empty(); ++pane)
        if (const Layer* line = firstLine(chart.panes[pane]);
            line && !chart.panes[pane].beginsAtZero)
            for (const auto& found :
                 conditions::findDivergences(closes, *line->values, closes.size() - 1))
                all.push_back({pane, found});
    std::ranges::stable_sort(all, std::greater{},
                             [](const Found& each) { return each.found.knownOn; });
    all.resize(std::min(all.size(), mostDivergences));
    for (const auto& [pane, found] : all) {
        const bool isWeak = found.kind == conditions::Divergence::Weakening;
        joinDivergence(chart, pane, found, closes[found.first], closes[found.second]);
        const std::string& title = firstLine(chart.panes[pane])->title;
        chart.marks.push_back(
            {MarkKind::Divergence, found.knownOn, chart.bars->days[found.knownOn],
             fmt::format("{}: a {} of the price than on {}, a {} of {}.",
                         isWeak ? "Weakening" : "Strengthening",
                         isWeak ? "higher high" : "lower low", chart.bars->days[found.first].iso(),
                         isWeak ? "lower one" : "higher one", title)});
    }
}

void markDays(Chart& chart, std::size_t stock, std::span<const MarkedDay> days)
{
    const auto& bars = chart.bars->days;
    for (const MarkedDay& each : days) {
        if (each.stock != stock || bars.empty() || each.day < bars.front())
            continue;
        const auto bar =
            static_cast<std::size_t>(std::ranges::lower_bound(bars, each.day) - bars.begin());
        if (bar < bars.size())
            chart.marks.push_back({MarkKind::Match, bar, each.day, each.words});
    }
    std::ranges::stable_sort(chart.marks, {},
                             [](const Mark& mark) { return std::pair(mark.bar, mark.kind); });
}

Chart emptyChart(const SetUp& setUp)
{
    Chart chart;
    chart.setUp = setUp;
    chart.bars = chart.daily = std::make_shared<const market::Bars>();
    for (const PaneSetUp& pane : setUp.panes) {
        Pane& made = chart.panes.emplace_back();
        made.height = pane.height;
        made.beginsAtZero = pane.beginsAtZero;
        for (const LayerSetUp& layer : pane.layers) {
            made.layers.emplace_back().setUp = layer;
            made.layers.back().title = layer.show;
            made.layers.back().values = made.layers.back().to =
                std::make_shared<const std::vector<double>>();
        }
    }
    return chart;
}

namespace {

/// Each trade as a line from its entry to its exit, or to the newest close, with a mark on both.
void addTrades(Chart& chart, const Layer& layer)
{
    const std::vector<double>& closes = chart.bars->close;
    const auto mark = [&](std::size_t at, std::string text) {
        chart.marks.push_back({MarkKind::Trade, at, chart.bars->days[at], std::move(text)});
    };
    for (const Trade& trade : tradesOf(*layer.values, *layer.to)) {
        const std::size_t end = trade.exit.value_or(chart.size() - 1);
        const double gain = closes[end] / closes[trade.entry] - 1.0;
        const std::string told = fmt::format("{:+.1f} %", 100.0 * gain);
        chart.joins.push_back({0,
                               {trade.entry, closes[trade.entry]},
                               {end, closes[end]},
                               gain < 0.0 ? PalettePart::Fall : PalettePart::Rise,
                               trade.exit ? Join::Stroke::Dashes : Join::Stroke::Dots,
                               told,
                               gain < 0.0 ? Join::Words::Below : Join::Words::Above});
        mark(trade.entry,
             fmt::format("Enters at {:.2f}: {}.", closes[trade.entry], layer.setUp.show));
        if (trade.exit)
            mark(end, fmt::format("Leaves at {:.2f} after {} bars, {}: {}.", closes[end],
                                  end - trade.entry, told, layer.setUp.to));
    }
}

/// With the titles of its layers, and the marks that are made of them.
Chart finished(Chart chart, const language::Names& names)
{
    for (Pane& pane : chart.panes)
        for (Layer& layer : pane.layers) {
            const language::Field* field = names.vocabulary.field(layer.setUp.show);
            if (field)
                layer.title = field->title;
            layer.decimals = field ? field->decimals : decimalsOf(layer.unit);
            if (layer.setUp.form == LayerForm::Trades && !layer.error)
                addTrades(chart, layer);
            if (layer.setUp.form != LayerForm::Marks || layer.error)
                continue;
            const auto matches = marksOfCondition(*layer.values, chart.bars->days, layer.title);
            chart.marks.insert(chart.marks.end(), matches.begin(), matches.end());
        }
    if (std::ranges::find(chart.setUp.marks, MarkKind::Divergence) != chart.setUp.marks.end())
        addDivergences(chart);
    std::ranges::stable_sort(chart.marks, {}, &Mark::bar);
    return chart;
}

} // namespace

Chart makeChart(engine::Evaluator& evaluator, const language::Names& names, const SetUp& setUp,
                std::size_t instrument, Day day, const Progress& progress, Lists lists)
{
    return finished(Making(evaluator, names, setUp, lists, nullptr).run(instrument, day, progress),
                    names);
}

Chart grownChart(const Chart& former, engine::Evaluator& evaluator, const language::Names& names,
                 std::size_t instrument, Day day, const Progress& progress, Lists lists)
{
    return finished(
        Making(evaluator, names, former.setUp, lists, &former).run(instrument, day, progress),
        names);
}

std::vector<Chart> makeCharts(engine::Evaluator& evaluator, const language::Names& names,
                              const SetUp& setUp, std::span<const std::size_t> instruments, Day day,
                              const Progress& progress, Lists lists)
{
    std::vector<Chart> charts(instruments.size());
    inParallel(instruments.size(), [&](std::size_t i) {
        if (progress.stopRequested())
            throw Stopped{};
        charts[i] = makeChart(evaluator, names, setUp, instruments[i], day, progress, lists);
    });
    return charts;
}

} // namespace sieve::charts
