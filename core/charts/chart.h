#pragma once

// What a chart shows, as a finished value that a widget only draws:
//   set_up.h      what is shown, whatever the instrument     bar_scale.h   days, weeks, months
//   chart.h       a set-up put to an instrument              value_axis.h  how values lie in a pane
//   viewport.h    which bars are in sight                    reduction.h   what pixels can show
//   ticks.h       which sessions are named                   figures.h     the chart as a table
//   marks.h       what happened on which bar                 comparison.h  lines from one start
//   trades.h      where a rule enters and leaves
//   line_chart.h  a line of the market instead of a stock

#include "core/charts/marks.h"
#include "core/charts/set_up.h"
#include "core/conditions/divergence.h"
#include "core/engine/evaluator.h"
#include "core/language/checker.h"

#include <memory>
#include <optional>
#include <string>
#include <vector>

namespace sieve::charts {

/// A column of figures, a bar each, that several may read.
using Series = std::shared_ptr<const std::vector<double>>;

/// A layer with its figures.
struct Layer {
    LayerSetUp setUp;
    std::string title; ///< the expression, or the title of the field that it is
    Unit unit = Unit::Plain;
    int decimals = 2;
    Series values;                     ///< a condition's are 1, 0 or missing
    Series to;                         ///< of a band
    std::optional<LocatedError> error; ///< then there are no figures
};

struct Pane {
    double height = 1.0;
    bool beginsAtZero = false;
    std::vector<Layer> layers;
};

/// A line between two bars of a pane, with words at its end: a divergence, a swing, a level.
struct Join {
    struct End {
        std::size_t bar = 0;
        double value = missing;

        friend bool operator==(const End&, const End&) = default;
    };
    enum class Words { Above, Below, Before }; ///< the last: beside its begin
    enum class Stroke { Whole, Dashes, Dots };

    std::size_t pane = 0;
    End from;
    End to;
    PalettePart colour = PalettePart::Mark;
    Stroke stroke = Stroke::Whole;
    std::string words = {};
    Words where = Words::Above;

    friend bool operator==(const Join&, const Join&) = default;
};

struct Chart {
    std::string symbol;
    std::string otherCurrency; ///< of the prices, where it is another than the market's
    SetUp setUp;
    std::shared_ptr<const market::Bars>
        bars; ///< of the scale, on the footing of the last; never null
    std::shared_ptr<const market::Bars> daily; ///< of which they are made; never null
    BarPlaces places;                          ///< of the bars, among the daily ones
    std::vector<int> clock;     ///< a bar of minutes: the minute of the exchange's day at which it
                                ///< begins; empty of other scales
    std::vector<Mark> marks;    ///< of the set-up's kinds
    std::vector<Pane> panes;    ///< as the set-up has them
    std::vector<Join> joins;    ///< what lies over several bars
    bool hasClosesOnly = false; ///< of a composite: bars would be dashes

    std::size_t size() const { return bars->size(); }
    bool isOfMinutes() const { return setUp.scale == BarScale::Minutes; }
};

/// Joins where prices and the first line of each pane below part, the newest `mostDivergences`, and
/// marks on the bars on which they were known. A pane that begins at zero shows
/// amounts, such as volume, and is left out. Nothing after a bar changes what is marked on it or
/// before.
void addDivergences(Chart& chart);
inline constexpr std::size_t mostDivergences = 12;
/// Joins the two turns of one, on the prices, where the line stood at these values, and in a pane.
void joinDivergence(Chart& chart, std::size_t pane, const conditions::DivergenceFound& found,
                    double firstPrice, double secondPrice);

/// A day of a stock that is to be seen on its chart, and why.
struct MarkedDay {
    std::size_t stock = 0;
    Day day = Day::fromSerial(0);
    std::string words;

    friend bool operator==(const MarkedDay&, const MarkedDay&) = default;
};
/// Marks those of one stock on its chart, each on its bar or the next one; days outside are left
/// out.
void markDays(Chart& chart, std::size_t stock, std::span<const MarkedDay> days);

/// A chart without an instrument.
Chart emptyChart(const SetUp& setUp);

/// The person's lists, for marks of entries.
using Lists = std::span<const Shared<watchlists::Watchlist>>;

/// Puts a set-up to an instrument as of a day: nothing later shows. Layers of weeks and months are
/// the expression on those bars; one that has no place there (stocks of a day compared, calendar
/// days) is that of the bar's last day. On minutes, a layer that is not made of the bars alone is
/// known at the close: see Evaluator::minuteHistories.
/// Errors: Stopped; a layer that does not check bears its error, and the others are made.
Chart makeChart(engine::Evaluator& evaluator, const language::Names& names, const SetUp& setUp,
                std::size_t instrument, Day day, const Progress& progress = {}, Lists lists = {});
/// The chart as of a later day, made of a former one of the same set-up and instrument: bars that
/// both have keep their figures, and only what is new is asked for. What makeChart would give.
/// Where the former one does not serve (an earlier day, a split between, minutes) all is made anew.
/// Requires: names that mean what they meant to the former one.
Chart grownChart(const Chart& former, engine::Evaluator& evaluator, const language::Names& names,
                 std::size_t instrument, Day day, const Progress& progress = {}, Lists lists = {});
/// The same set-up put to several instruments, on all threads. Shape: one chart an instrument.
std::vector<Chart> makeCharts(engine::Evaluator& evaluator, const language::Names& names,
                              const SetUp& setUp, std::span<const std::size_t> instruments, Day day,
                              const Progress& progress = {}, Lists lists = {});

} // namespace sieve::charts
