#pragma once

#include <cstddef>
#include <span>
#include <vector>

namespace sieve::screens {

/// How a field's figures are spread over some stocks, in bars of one width. The outermost hundredth
/// on each side is counted apart, so that one stray figure does not press all others together.
struct Distribution {
    double low = 0;  ///< where the first bar begins
    double high = 0; ///< where the last one ends
    bool isLogarithmic = false;
    std::vector<std::size_t> counts; ///< a bar; empty when nothing is known
    std::size_t below = 0;           ///< figures under `low`
    std::size_t above = 0;           ///< figures over `high`
    std::size_t noData = 0;

    /// Where a figure stands between `low` (0) and `high` (1), on this scale.
    double placeOf(double figure) const;
    /// The figure at a place: the other way round.
    double figureAt(double place) const;
    /// The round step near a figure that moves it by about `share` of the width; missing where the
    /// figures have none.
    double stepAt(double figure, double share) const;

    friend bool operator==(const Distribution&, const Distribution&) = default;
};

/// 1, 2 or 5 times a power of ten, at or below `width`; missing where that is not above 0.
double roundStep(double width);

/// `bars` of them over the figures; logarithmic where all are positive and the largest tenth lies
/// more than thirty times above the smallest.
Distribution distributionOf(std::span<const double> figures, std::size_t bars = 40);

} // namespace sieve::screens
