#pragma once

#include "core/conditions/divergence.h"
#include "core/conditions/panes.h"
#include "core/conditions/reading.h"
#include "core/patterns/bar_marks.h"
#include "core/patterns/swings.h"

#include <array>
#include <cstddef>
#include <span>
#include <string>
#include <vector>

namespace sieve::conditions {

/// What the chart of a line shows as of a day: all made of what was known by then.
struct LineShown {
    struct Diverging {
        std::size_t pane = 0;
        DivergenceFound found;
    };
    Line line;
    std::size_t bars = 0; ///< of the line by the day
    std::array<TrendHistory, 3> trends;
    std::vector<Pane> panes;
    std::vector<patterns::Swing> swings;
    std::vector<patterns::MarkedBar> marks;
    std::vector<Diverging> divergences; ///< the newest first

    double close(std::size_t bar) const { return line.bars().close[bar]; }
};

/// Puts together what the chart of a line shows as of a day; swings are those of 5 %.
/// Missing: before the line's first bar all but its panes and states is empty.
/// Errors:  Stopped; of a pane, in the pane.
LineShown lineShown(engine::Evaluator& evaluator, const language::Names& names,
                    const LineReading& read, std::span<const std::string> panes, Day day,
                    const Progress& progress);

} // namespace sieve::conditions
