#pragma once

#include "core/charts/chart.h"
#include "core/conditions/line_shown.h"
#include "core/patterns/swings.h"

#include <array>
#include <span>

namespace sieve::charts {

/// What of a line's chart a person switches on and off, and lays over it.
struct LineParts {
    bool hasSwings = false;
    bool hasBarMarks = false;
    bool hasDivergences = true;
    /// States in place of those that were read, while a rule is being typed; null: as read.
    std::array<const conditions::TrendHistory*, 3> drafts{};
    std::span<const patterns::PricePoint> retraced = {}; ///< two, or none
};

/// The chart of a line of the market: its levels, the states at the three horizons as strips, and
/// the panes' figures. Swings (the newest nine counted), divergences and a retracement are joins;
/// gaps and other shapes of days are marks. What was found on days stands on weeks and months on
/// the bar in which its day lies. Bars of days, weeks or months, as `looks` says; of minutes there
/// are none, and days are shown.
Chart chartOfLine(const conditions::LineShown& shown, const SetUp& looks, const LineParts& parts);

} // namespace sieve::charts
