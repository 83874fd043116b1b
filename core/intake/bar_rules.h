#pragma once

#include "core/intake/bar_file.h"
#include "core/market/market.h"

#include <span>
#include <vector>

namespace sieve::intake {

/// What the rules of one instrument's bars look at.
struct BarContext {
    const market::InstrumentRecord& record;
    const market::Exchange* exchange = nullptr; ///< null: not known
    BarScale scale = BarScale::Daily;
    std::span<const BarFile> files; ///< by the number that bars name them by
};

/// Puts an instrument's bars in order, oldest first, and leaves out all but the first of each day
/// or minute; a bar of a file goes before one of the former market (`line` 0), which it corrects.
/// Leaves out rows that tell a day without trade; reports bars where the exchange was closed, and
/// jumps that look like a split without one.
void ruleBars(std::vector<ReadBar>& bars, const BarContext& context, IntakeReport& report);

/// The splits and dividends that an adjusted close implies where it parts from the close, for
/// sources that tell them in no other way. Bars must be in order.
/// Source: the usual back-adjustment, where adjusted / close falls by 1 - dividend / last close at
///         a dividend, and by 1 / ratio at a split, going back in time.
std::vector<market::Action> impliedActions(const std::vector<ReadBar>& bars);

} // namespace sieve::intake
