#pragma once

#include "core/engine/bar_frame.h"
#include "core/engine/plan.h"

#include <cstddef>
#include <optional>
#include <vector>

namespace sieve::engine {

/// Weekly, monthly or n-minute bars of one instrument, made from what it traded.
/// A week begins on Monday, a month on its first day; a stretch without trade is no bar. Each bar
/// bears the day of its last trade. Bars of n minutes count from the exchange's opening (from
/// midnight of universal time where its hours are not known).
/// Owns: the columns that its frame shows; one object serves many instruments in turn.
class ScaledBars {
public:
    /// Finds where each bar begins among daily bars [0, dailyEnd). `op` is Weekly, Monthly or
    /// Minutes. Weeks and months still lack their figures: see `fill`.
    void open(const BarFrame& daily, Op op, int minutes, std::size_t dailyEnd);

    const BarFrame& frame() const { return frame_; }
    /// When each bar of minutes begins; none of weeks and months.
    std::span<const Minute> minutes() const { return minutes_; }
    /// The bar to which a daily bar belongs; of minutes, the last one of its day, if any.
    std::optional<std::size_t> barOf(std::size_t dailyBar) const;

    /// Makes weeks or months [from, to) from all their days.
    void fill(std::size_t from, std::size_t to);
    /// Makes one of them as it stood at the close of a daily bar in it.
    void fillUpTo(std::size_t bar, std::size_t dailyBar);

private:
    void openMinutes(int minutes, std::size_t dailyEnd);
    void resize(std::size_t bars);
    void show();

    BarFrame daily_;
    BarFrame frame_;
    std::vector<std::size_t> begins_;    ///< first daily bar of each week or month, and the end
    std::vector<std::uint32_t> ofDaily_; ///< by daily bar; `none` for a day without minutes
    std::vector<Day> days_;
    std::vector<Minute> minutes_;
    std::vector<std::uint32_t> dailyBars_;
    std::array<std::vector<double>, 5> columns_;
    std::array<std::vector<double>, 5> adjusted_; ///< daily columns, where splits moved them
    std::array<std::span<const double>, 5> dailyColumns_;
};

} // namespace sieve::engine
