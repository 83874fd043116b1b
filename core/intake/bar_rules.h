#pragma once

#include "core/intake/bar_file.h"
#include "core/market/market.h"

#include <optional>
#include <span>
#include <vector>

namespace sieve::intake {

/// What the rules of one instrument's bars look at.
struct BarContext {
    const market::InstrumentRecord& record;
    const market::Exchange* exchange = nullptr; ///< null: not known
    BarScale scale = BarScale::Daily;
    std::span<const BarFile> files;  ///< by the number that bars name them by
    std::optional<Day> takenOn = {}; ///< the day of the intake; empty: any day may have come
};

/// Puts an instrument's bars in order, oldest first, and leaves out all but the first of each day
/// or minute; a bar of a file goes before one of the former market (`line` 0), which it corrects.
/// Leaves out rows that tell a day without trade, and days that cannot be meant: after the day of
/// the intake and more than half a year after the bar before them (ten years after the day of the
/// intake where there is none before), or followed by no bar for more than twenty years.
void settleBars(std::vector<ReadBar>& bars, const BarContext& context, IntakeReport& report);

/// Reports settled bars where the exchange was closed, and jumps that look like a split without
/// one.
void noteOddBars(const std::vector<ReadBar>& bars, const BarContext& context, IntakeReport& report);

/// The splits and dividends that an adjusted close implies where it parts from the close, for
/// sources that tell them in no other way. Bars must be settled. A step down to a simple fraction
/// (2:1, 3:2, 5:4, …) that the rounding of the figures lets tell from its neighbours is a split.
/// Source: the usual back-adjustment, where adjusted / close falls by 1 - dividend / last close at
///         a dividend, and by 1 / ratio at a split, going back in time.
std::vector<market::Action> impliedActions(const std::vector<ReadBar>& bars);

/// Adjusted closes are told relative to the newest action that their file knew. Puts those of the
/// former market (bars in order) on the footing of an update by the first bar that both tell; where
/// there is none they stay.
void rebase(std::vector<ReadBar>& former, const std::vector<ReadBar>& now);

} // namespace sieve::intake
