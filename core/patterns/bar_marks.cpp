#include "core/patterns/bar_marks.h"

#include "core/base/missing.h"
#include "core/base/ties.h"

#include <algorithm>
#include <optional>

namespace sieve::patterns {

namespace {

class Marking {
public:
    explicit Marking(const market::BarsView& bars) : high_(bars.high), low_(bars.low) {}

    std::vector<MarkedBar> run()
    {
        for (std::size_t bar = 1; bar < high_.size(); ++bar) {
            switch (barShape(high_[bar - 1], low_[bar - 1], high_[bar], low_[bar])) {
            case BarShape::GapUp:
                gap(bar, Mark::GapUp, Mark::IslandBottom);
                break;
            case BarShape::GapDown:
                gap(bar, Mark::GapDown, Mark::IslandTop);
                break;
            case BarShape::Inside:
                marks_.push_back({Mark::InsideDay, bar, bar});
                break;
            case BarShape::Outside:
                marks_.push_back({Mark::OutsideDay, bar, bar});
                break;
            case BarShape::Plain:
                break;
            }
        }
        return std::move(marks_);
    }

private:
    void gap(std::size_t bar, Mark mark, Mark island)
    {
        marks_.push_back({mark, bar, bar});
        std::optional<std::size_t>& other = mark == Mark::GapUp ? lastDown_ : lastUp_;
        if (other && bar - *other <= mostIslandBars && isApart(*other, bar, mark))
            marks_.push_back({island, bar, *other});
        (mark == Mark::GapUp ? lastUp_ : lastDown_) = bar;
        other.reset(); // an island is left once
    }

    /// Whether bars [first, end) lie wholly on one side of the bars before and after them.
    bool isApart(std::size_t first, std::size_t end, Mark leaving) const
    {
        if (leaving == Mark::GapDown) {
            const double floor = *std::ranges::min_element(low_.subspan(first, end - first));
            return isGreater(floor, high_[first - 1]) && isGreater(floor, high_[end]);
        }
        const double top = *std::ranges::max_element(high_.subspan(first, end - first));
        return isLess(top, low_[first - 1]) && isLess(top, low_[end]);
    }

    std::span<const double> high_;
    std::span<const double> low_;
    std::optional<std::size_t> lastUp_;
    std::optional<std::size_t> lastDown_;
    std::vector<MarkedBar> marks_;
};

} // namespace

BarShape barShape(double highBefore, double lowBefore, double high, double low)
{
    const bool haveRange =
        isGreater(highBefore, lowBefore) && isGreater(high, low); // no where one is missing
    if (!haveRange)
        return BarShape::Plain;
    if (isGreater(low, highBefore))
        return BarShape::GapUp;
    if (isLess(high, lowBefore))
        return BarShape::GapDown;
    if (isGreater(high, highBefore) && isLess(low, lowBefore))
        return BarShape::Outside;
    const bool isWithin = isAtMost(high, highBefore) && isAtLeast(low, lowBefore);
    return isWithin && (isLess(high, highBefore) || isGreater(low, lowBefore)) ? BarShape::Inside
                                                                               : BarShape::Plain;
}

std::string_view markName(Mark mark)
{
    switch (mark) {
    case Mark::GapUp:
        return "gap up";
    case Mark::GapDown:
        return "gap down";
    case Mark::IslandTop:
        return "island top";
    case Mark::IslandBottom:
        return "island bottom";
    case Mark::InsideDay:
        return "inside day";
    case Mark::OutsideDay:
        break;
    }
    return "outside day";
}

std::vector<MarkedBar> markedBars(const market::BarsView& bars)
{
    return Marking(bars).run();
}

} // namespace sieve::patterns
