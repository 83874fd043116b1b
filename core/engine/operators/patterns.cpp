#include "core/engine/operators/families.h"
#include "core/engine/operators/records.h"
#include "core/patterns/bar_marks.h"

namespace sieve::engine {

bool readColumn(Series& series, const Run&, std::size_t, std::size_t)
{
    series.lieAt(series.inputs[0]->columnFrom(series.by->column, series.from));
    return true;
}

namespace {

/// A bar against the one before: inside, outside.
struct BarShapes {
    static constexpr std::size_t columns = 2;
    double high = missing;
    double low = missing;

    std::array<double, columns> step(const std::array<double, 2>& bar)
    {
        const double highBefore = std::exchange(high, bar[0]);
        const double lowBefore = std::exchange(low, bar[1]);
        if (isMissing(highBefore) || isMissing(lowBefore) || isMissing(high) || isMissing(low))
            return {missing, missing};
        const patterns::BarShape shape = patterns::barShape(highBefore, lowBefore, high, low);
        return {shape == patterns::BarShape::Inside ? 1.0 : 0.0,
                shape == patterns::BarShape::Outside ? 1.0 : 0.0};
    }
};

Lookback oneBar(const Node&)
{
    return {1, 0};
}

constexpr std::array highAndLow{market::BarField::High, market::BarField::Low};

constexpr std::array patternRows{
    Operator{.op = Op::BarShape,
             .family = Family::AlongBars,
             .barInputs = highAndLow,
             .lookback = oneBar,
             .fill = fillBySteps<BarShapes, highAndLow.size()>,
             .columns = BarShapes::columns},
    Operator{.op = Op::InsideDay,
             .family = Family::AlongBars,
             .kind = Kind::YesNo,
             .record = Op::BarShape,
             .column = 0,
             .fill = readColumn,
             .liesInPlace = true,
             .cost = 0.0},
    Operator{.op = Op::OutsideDay,
             .family = Family::AlongBars,
             .kind = Kind::YesNo,
             .record = Op::BarShape,
             .column = 1,
             .fill = readColumn,
             .liesInPlace = true,
             .cost = 0.0},
};

} // namespace

std::span<const Operator> patternOperators()
{
    return patternRows;
}

} // namespace sieve::engine
