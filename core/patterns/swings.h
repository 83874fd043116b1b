#pragma once

#include "core/base/missing.h"

#include <array>
#include <cstddef>
#include <span>
#include <vector>

namespace sieve::patterns {

enum class Turn { High, Low };

/// A bar at which prices turned, and the bar that showed it: before that nobody could know.
struct Swing {
    Turn turn = Turn::High;
    std::size_t bar = 0;
    double price = missing;
    std::size_t knownOn = 0;

    friend bool operator==(const Swing&, const Swing&) = default;
};

/// Swings by reversal: a high is one when a low has come by `reversal` (0.05: five percent) under
/// it, a low when a high has come by as much over it; highs and lows take turns. The last extreme
/// that nothing has reversed yet is none.
/// Missing:  a bar without a high or low is passed over.
/// Source:   the percentage filter of charting by reversals; ties keep the earlier bar.
/// Requires: reversal > 0; as many highs as lows.
std::vector<Swing> swingsByReversal(std::span<const double> highs, std::span<const double> lows,
                                    double reversal);

/// Turning points of a line: bars that nothing within `reach` bars on either side tops (or
/// undercuts), known `reach` bars later. Of equal values the first counts.
/// Missing:  a bar with a missing value within its reach is none.
/// Requires: reach >= 1.
std::vector<Swing> turningPoints(std::span<const double> values, std::size_t reach);

/// How much of the move from one price to another a third takes back: 0 at its end, 1 at its
/// begin, more beyond; missing for a move of nothing.
double retraced(double from, double to, double price);
/// The price at which so much of the move is taken back.
double retracementPrice(double from, double to, double share);
/// The most that bars took back of a move: by their lows of a rise, by their highs of a fall.
/// Shape:    highs[n], lows[n], of the bars from the move's end on. 0 when none took back anything.
double mostRetraced(double from, double to, std::span<const double> highs,
                    std::span<const double> lows);

/// A price on a bar.
struct PricePoint {
    std::size_t bar = 0;
    double price = missing;

    friend bool operator==(const PricePoint&, const PricePoint&) = default;
};

/// The point that a person means who points at a bar, over its close or under it: the nearest swing
/// within `reach` bars; failing one, the highest high over that close (or the lowest low under it)
/// of the bars within reach, since the newest extreme is no swing yet; else the close.
/// Requires: columns of equal sizes; a bar of theirs.
PricePoint pointNear(std::span<const Swing> swings, std::span<const double> highs,
                     std::span<const double> lows, std::span<const double> closes, std::size_t bar,
                     bool isOverClose, std::size_t reach = 6);

inline constexpr std::array retracementShares{0.0, 0.236, 0.382, 0.5, 0.618, 0.786, 1.0};

} // namespace sieve::patterns
