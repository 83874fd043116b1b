#include "core/charts/line_chart.h"

#include <algorithm>
#include <fmt/format.h>

namespace sieve::charts {

namespace {

constexpr std::size_t countedSwings = 9;

class LineMaking {
public:
    LineMaking(const conditions::LineShown& shown, const SetUp& looks, const LineParts& parts)
        : shown_(shown), parts_(parts), chart_(emptyChart({}))
    {
        chart_.setUp = looks;
        chart_.symbol = shown.line.title;
        if (looks.scale == BarScale::Minutes)
            chart_.setUp.scale = BarScale::Day;
    }

    Chart run()
    {
        addBars();
        addStates();
        addPanes();
        if (chart_.size() == 0)
            return std::move(chart_);
        if (parts_.hasSwings)
            addSwings();
        if (parts_.hasBarMarks && shown_.line.hasRange)
            addBarMarks();
        if (parts_.hasDivergences)
            addDivergences();
        if (parts_.retraced.size() == 2)
            addRetracement();
        std::ranges::stable_sort(chart_.marks, {}, &Mark::bar);
        return std::move(chart_);
    }

private:
    void addBars()
    {
        market::Bars daily(shown_.line.bars());
        daily.truncate(shown_.bars);
        ends_ = barEnds(daily.days, chart_.setUp.scale);
        chart_.places = BarPlaces(ends_, chart_.setUp.scale);
        chart_.hasClosesOnly = !shown_.line.hasRange;
        chart_.bars = std::make_shared<const market::Bars>(barsOfScale(daily, ends_));
        chart_.daily = std::make_shared<const market::Bars>(std::move(daily));
        chart_.panes = {Pane{shown_.panes.empty() ? 1.0 : 0.55, false, {}}};
    }

    /// What daily values come to at the end of each bar.
    template <class Values>
    Series onBars(const Values& values, double (*number)(const Values&, std::size_t)) const
    {
        auto made = std::make_shared<std::vector<double>>();
        made->reserve(ends_.size());
        for (const std::size_t end : ends_)
            made->push_back(end < values.size() ? number(values, end) : missing);
        return made;
    }

    void addStates()
    {
        Pane& strips = chart_.panes.emplace_back();
        strips.height = 0.10;
        for (std::size_t i = 0; i < conditions::horizons.size(); ++i) {
            const conditions::TrendHistory& history =
                parts_.drafts[i] ? *parts_.drafts[i] : shown_.trends[i];
            Layer& strip = strips.layers.emplace_back();
            strip.title = conditions::horizonName(conditions::horizons[i]);
            strip.setUp.show = strip.title;
            strip.setUp.form = LayerForm::States;
            strip.decimals = 0;
            strip.values = onBars<conditions::TrendHistory>(
                history, [](const conditions::TrendHistory& states, std::size_t bar) {
                    return !states[bar]                                 ? missing
                           : *states[bar] == conditions::Trend::Rising  ? 1.0
                           : *states[bar] == conditions::Trend::Falling ? -1.0
                                                                        : 0.0;
                });
            strip.to = std::make_shared<const std::vector<double>>();
        }
    }

    void addPanes()
    {
        constexpr PalettePart wheel[] = {PalettePart::Mark, PalettePart::Caution, PalettePart::Rise,
                                         PalettePart::Soft};
        for (std::size_t i = 0; i < shown_.panes.size(); ++i) {
            const conditions::Pane& figures = shown_.panes[i];
            Pane& pane = chart_.panes.emplace_back();
            pane.height = 0.45 / static_cast<double>(shown_.panes.size());
            Layer& layer = pane.layers.emplace_back();
            layer.setUp.show = figures.text;
            layer.setUp.colour = wheel[i % std::size(wheel)];
            layer.title = figures.title;
            layer.unit = figures.unit;
            layer.decimals = figures.unit == Unit::Percent ? 0 : figures.decimals;
            layer.error = figures.error;
            layer.values = onBars<std::vector<double>>(
                figures.values,
                [](const std::vector<double>& values, std::size_t bar) { return values[bar]; });
            layer.to = std::make_shared<const std::vector<double>>();
        }
    }

    /// The bar of the scale in which a day lies.
    std::size_t barOf(std::size_t day) const
    {
        return static_cast<std::size_t>(std::ranges::lower_bound(ends_, day) - ends_.begin());
    }

    void addSwings()
    {
        const std::size_t count = shown_.swings.size();
        const std::size_t counted = count - std::min(count, countedSwings);
        for (std::size_t i = 1; i < count; ++i) {
            const patterns::Swing& from = shown_.swings[i - 1];
            const patterns::Swing& to = shown_.swings[i];
            Join join{0,
                      {barOf(from.bar), from.price},
                      {barOf(to.bar), to.price},
                      PalettePart::Caution,
                      Join::Stroke::Dashes};
            if (i >= counted)
                join.words = std::to_string(i - counted + 1);
            join.where = to.turn == patterns::Turn::High ? Join::Words::Above : Join::Words::Below;
            chart_.joins.push_back(std::move(join));
        }
    }

    void addBarMarks()
    {
        for (const patterns::MarkedBar& marked : shown_.marks) {
            Mark mark = markOf(marked, *chart_.daily);
            mark.bar = barOf(marked.bar);
            chart_.marks.push_back(std::move(mark));
        }
    }

    void addDivergences()
    {
        const std::size_t count = std::min(shown_.divergences.size(), mostDivergences);
        for (std::size_t i = 0; i < count; ++i) {
            const auto& [pane, found] = shown_.divergences[i];
            conditions::DivergenceFound onBars = found;
            onBars.first = barOf(found.first);
            onBars.second = barOf(found.second);
            joinDivergence(chart_, paneOfFigures(pane), onBars, shown_.close(found.first),
                           shown_.close(found.second));
        }
    }

    /// The prices and the strips of states come before the figures.
    static std::size_t paneOfFigures(std::size_t figures) { return figures + 2; }

    void addRetracement()
    {
        const auto& [fromBar, from] = parts_.retraced[0];
        const auto& [toBar, to] = parts_.retraced[1];
        chart_.joins.push_back({0,
                                {barOf(fromBar), from},
                                {barOf(toBar), to},
                                PalettePart::Mark,
                                Join::Stroke::Dashes});
        for (const double share : patterns::retracementShares) {
            const double price = patterns::retracementPrice(from, to, share);
            chart_.joins.push_back({0,
                                    {barOf(std::min(fromBar, toBar)), price},
                                    {chart_.size() - 1, price},
                                    PalettePart::Mark,
                                    Join::Stroke::Dots,
                                    fmt::format("{:.1f} %  {:.1f}", 100.0 * share, price),
                                    Join::Words::Before});
        }
    }

    const conditions::LineShown& shown_;
    const LineParts& parts_;
    Chart chart_;
    std::vector<std::size_t> ends_;
};

} // namespace

Chart chartOfLine(const conditions::LineShown& shown, const SetUp& looks, const LineParts& parts)
{
    return LineMaking(shown, looks, parts).run();
}

} // namespace sieve::charts
