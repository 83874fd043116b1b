#pragma once

#include "core/studies/following.h"

#include <optional>
#include <span>
#include <string>
#include <vector>

namespace sieve::studies {

/// A limit of a screen that is moved.
struct MovedLimit {
    std::size_t criterion = 0;
    std::size_t limit = 0; ///< of those that screens::limitsOf() finds in it
    std::vector<double> bounds =
        {}; ///< ascending; empty: `steps` of them over the figures that occur

    friend bool operator==(const MovedLimit&, const MovedLimit&) = default;
};

/// What followed, had two limits of a screen stood elsewhere.
struct NeighbourQuestion {
    FollowingQuestion of; ///< its first horizon; every match is a case
    MovedLimit across;
    MovedLimit down;
    std::size_t steps = 20;
};

inline constexpr std::size_t mostBounds = 60;
/// A cell of fewer cases is not chosen by a walk.
inline constexpr std::size_t fewWalked = 30;
/// Bars on which all else holds; with more the question is refused.
inline constexpr std::size_t mostNeighbourBars = 8'000'000;

struct Neighbours {
    NeighbourQuestion question; ///< with the bounds that were taken
    std::string across;         ///< the field of the limit, such as "rsi(close, 14)"
    std::string down;
    Unit acrossUnit = Unit::Plain;
    Unit downUnit = Unit::Plain;
    std::size_t ownAcross = 0; ///< place of the screen's own bound, or of the nearest one
    std::size_t ownDown = 0;
    struct Cell {
        std::size_t cases = 0;
        double mean = missing;
        double excess = missing; ///< less the mean of all stocks on the same days
    };
    std::vector<Cell> cells; ///< row by row: down * across

    /// A year that was tested with the limits that were best before it (walk forward).
    struct WalkStep {
        int year = 0;
        std::size_t across = 0; ///< place of the chosen bound; so is the next
        std::size_t down = 0;
        Cell before; ///< of the chosen limits, over all cases whose end was known before the year
        Cell after;  ///< of the chosen limits, over the cases of the year
        Cell own;    ///< of the screen's own limits, over the cases of the year
    };
    /// A year, ascending; those without a cell of fewWalked cases before them are left out. Of
    /// equal cells the first is chosen.
    std::vector<WalkStep> walk;

    const Cell& at(std::size_t row, std::size_t column) const
    {
        return cells[row * question.across.bounds.size() + column];
    }
    const Cell& own() const { return at(ownDown, ownAcross); }
    /// How much of the own cell's excess those next to it have on average: near 1 on a plateau,
    /// near or below 0 on a ridge. Missing where the own one is not above 0.
    double steadiness() const;
};

/// The excess over the cases of all years of a walk: of the chosen limits before and after, and of
/// the screen's own. Missing without a case.
struct WalkTold {
    double before = missing;
    double after = missing;
    double own = missing;
};
WalkTold walkToldOf(std::span<const Neighbours::WalkStep> walk);

/// All cells at once: the screen's other criteria are asked once, and so are the two figures.
/// Errors: as followingOf(); a limit that is not there or whose bound is no number; the same limit
/// twice; too many bars. Stopped.
Result<Neighbours> neighboursOf(const NeighbourQuestion& question, const language::Names& names,
                                engine::Evaluator& evaluator, Day day,
                                const Progress& progress = {});

/// All limits of a screen that can be moved, in its order.
std::vector<MovedLimit> movableLimits(const screens::Screen& screen, const language::Names& names);

} // namespace sieve::studies
