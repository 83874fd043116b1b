#include "core/charts/chart.h"

#include "core/market/as_of.h"

#include <algorithm>
#include <fmt/format.h>

namespace sieve::charts {

namespace {

using engine::NodeId;

/// Asks for all layers at once, each expression on the bars of the chart's scale.
class Making {
public:
    Making(engine::Evaluator& evaluator, const language::Names& names, const SetUp& setUp,
           Lists lists)
        : evaluator_(evaluator), names_(names), setUp_(setUp), lists_(lists)
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
        const market::Bars& daily = *chart.daily;
        chart.ends = barEnds(daily.days, setUp_.scale);
        chart.bars = setUp_.scale == BarScale::Day
                         ? chart.daily
                         : std::make_shared<const market::Bars>(barsOfScale(daily, chart.ends));
        chart.marks = marksOf({evaluator_, names_, instrument, day, *chart.bars, lists_},
                              setUp_.marks, progress);
        for (Pane& pane : chart.panes)
            for (Layer& layer : pane.layers)
                ask(layer);
        if (targets_.empty() || daily.size() == 0)
            return chart;
        std::vector<std::vector<double>> values =
            evaluator_.histories(plan_, targets_, instrument, day, progress);
        for (std::size_t i = 0; i < wanted_.size(); ++i) {
            std::vector<double> all = std::move(values[i]);
            // An instrument that has left has bars, and no value after its last one.
            all.resize(daily.size(), missing);
            *wanted_[i] =
                std::make_shared<const std::vector<double>>(onBars(std::move(all), chart.ends));
        }
        return chart;
    }

private:
    /// The expression on the bars of the scale, where it has a place there.
    Result<language::Checked> checked(const std::string& text)
    {
        if (setUp_.scale != BarScale::Day) {
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
        if (layer.setUp.form != LayerForm::Band)
            return;
        const auto to = checked(layer.setUp.to);
        if (to && to->kind == Kind::Number)
            return want(layer.to, to->node);
        layer.error =
            to ? LocatedError{{}, "the other edge is no figure", "write a figure"} : to.error();
        wanted_.pop_back();
        targets_.pop_back();
    }

    void want(Series& into, NodeId node)
    {
        wanted_.push_back(&into);
        targets_.push_back(node);
    }

    std::vector<double> onBars(std::vector<double> daily, std::span<const std::size_t> ends) const
    {
        if (setUp_.scale == BarScale::Day)
            return daily;
        std::vector<double> values;
        values.reserve(ends.size());
        for (const std::size_t end : ends)
            values.push_back(daily[end]);
        return values;
    }

    engine::Evaluator& evaluator_;
    const language::Names& names_;
    const SetUp& setUp_;
    Lists lists_;
    engine::Plan plan_;
    std::vector<Series*> wanted_;
    std::vector<NodeId> targets_;
};

} // namespace

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

Chart makeChart(engine::Evaluator& evaluator, const language::Names& names, const SetUp& setUp,
                std::size_t instrument, Day day, const Progress& progress, Lists lists)
{
    Chart chart = Making(evaluator, names, setUp, lists).run(instrument, day, progress);
    for (Pane& pane : chart.panes)
        for (Layer& layer : pane.layers) {
            const language::Field* field = names.vocabulary.field(layer.setUp.show);
            if (field)
                layer.title = field->title;
            layer.decimals = field ? field->decimals : decimalsOf(layer.unit);
            if (layer.setUp.form != LayerForm::Marks || layer.error)
                continue;
            const auto matches = marksOfCondition(*layer.values, chart.bars->days, layer.title);
            chart.marks.insert(chart.marks.end(), matches.begin(), matches.end());
        }
    std::ranges::stable_sort(chart.marks, {}, &Mark::bar);
    return chart;
}

} // namespace sieve::charts
