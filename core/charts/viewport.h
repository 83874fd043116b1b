#pragma once

#include "core/base/day.h"

#include <cstddef>
#include <span>

namespace sieve::charts {

/// Which bars of a chart are in sight. Bar i reaches from i - 0.5 to i + 0.5; behind the last one
/// there is room for what is drawn ahead. Bars, not days, are its measure, so that days without
/// trade leave no gap.
class Viewport {
public:
    Viewport() = default;
    /// All of so many bars.
    explicit Viewport(std::size_t bars);

    std::size_t bars() const { return bars_; }
    double from() const { return from_; }
    double to() const { return to_; }
    double width() const { return to_ - from_; } ///< in bars

    /// The whole bars in sight: [first, end).
    std::size_t first() const;
    std::size_t end() const;

    void fit();                   ///< all bars
    void showNewest(double bars); ///< so many up to the newest, or all there are
    void pan(double bars);        ///< to the right, as far as there are bars
    /// Makes the width `factor` times as large; the place `centre` stays where it is.
    void zoom(double factor, double centre);
    /// The same days in sight over other bars: each bar's last day, of minutes a day several times.
    Viewport movedTo(std::span<const Day> days, std::span<const Day> to) const;

    /// The fewest bars that fill the width, and the room behind the last in shares of the width.
    static constexpr double leastBars = 8.0;
    static constexpr double roomAhead = 0.04;

private:
    void show(double from, double to);
    double mostBars() const;
    double roomFor(double width) const { return width * roomAhead; }

    std::size_t bars_ = 0;
    double from_ = -0.5;
    double to_ = 0.5;
};

} // namespace sieve::charts
