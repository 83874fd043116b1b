#pragma once

#include "core/screens/answers.h"
#include "core/screens/distribution.h"

#include <cstddef>
#include <optional>
#include <vector>

namespace sieve::screens {

/// A stock that only one criterion keeps out, and only by a limit.
struct NearMiss {
    std::size_t instrument = 0;
    std::size_t criterion = 0;
    double figure = missing; ///< of the criterion's field
    double bound = missing;
    double distance = missing; ///< by how much the figure would have to move, in the field's unit
    Unit unit = Unit::Plain;
};

/// What a limit set less strictly would do.
struct Loosening {
    std::size_t criterion = 0;
    std::size_t limit = 0; ///< of the criterion's
    double bound = missing;
    std::size_t adds = 0; ///< stocks that would then pass the screen
};

/// Two criteria that stand in a relation.
struct CriterionPair {
    std::size_t first = 0;
    std::size_t second = 0;
    friend bool operator==(const CriterionPair&, const CriterionPair&) = default;
};

/// How to come to a workable number of stocks.
struct Guidance {
    std::vector<NearMiss> nearMisses;      ///< the nearest first, at most `mostNearMisses`
    std::optional<std::size_t> mostCostly; ///< without it the most more would pass
    std::vector<std::optional<Loosening>>
        loosenings;                            ///< a criterion: the next round step that adds
    std::vector<std::size_t> idle;             ///< criteria that keep nobody out
    std::vector<CriterionPair> contradictions; ///< no stock passes both, though each has some
    std::vector<CriterionPair> repetitions;    ///< pass nearly the same stocks
    /// A criterion: how what its first limit shows is spread over the stocks that pass all above
    /// it.
    std::vector<Distribution> spreads;
};

inline constexpr std::size_t mostNearMisses = 50;

/// Distances are compared across fields by the width over which what each limit shows (see
/// LimitFigures::shown) is spread in the universe. A step is a round number (1, 2 or 5 times a
/// power of ten) of about a twentieth of that width; a loosening goes at most twenty steps.
Guidance guidanceOf(const Answers& answers);

} // namespace sieve::screens
