#pragma once

// What a chart shows, as a finished value that a widget only draws:
//   set_up.h      what is shown, whatever the instrument     bar_scale.h   days, weeks, months
//   chart.h       a set-up put to an instrument              value_axis.h  how values lie in a pane
//   viewport.h    which bars are in sight                    reduction.h   what pixels can show
//   ticks.h       which sessions are named                   figures.h     the chart as a table
//   marks.h       what happened on which bar                 comparison.h  lines from one start

#include "core/charts/marks.h"
#include "core/charts/set_up.h"
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

struct Chart {
    std::string symbol;
    std::string otherCurrency; ///< of the prices, where it is another than the market's
    SetUp setUp;
    std::shared_ptr<const market::Bars>
        bars; ///< of the scale, on the footing of the last; never null
    std::shared_ptr<const market::Bars> daily; ///< of which they are made; never null
    std::vector<std::size_t> ends;             ///< of the bars, among the daily ones
    std::vector<Mark> marks;                   ///< of the set-up's kinds
    std::vector<Pane> panes;                   ///< as the set-up has them

    std::size_t size() const { return bars->size(); }
};

/// A chart without an instrument.
Chart emptyChart(const SetUp& setUp);

/// The person's lists, for marks of entries.
using Lists = std::span<const Shared<watchlists::Watchlist>>;

/// Puts a set-up to an instrument as of a day: nothing later shows. Layers of weeks and months are
/// the expression on those bars; one that has no place there (stocks of a day compared, calendar
/// days) is that of the bar's last day.
/// Errors: Stopped; a layer that does not check bears its error, and the others are made.
Chart makeChart(engine::Evaluator& evaluator, const language::Names& names, const SetUp& setUp,
                std::size_t instrument, Day day, const Progress& progress = {}, Lists lists = {});

} // namespace sieve::charts
