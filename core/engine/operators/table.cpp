#include "core/engine/operators/families.h"

#include <array>

namespace sieve::engine {

namespace {

constexpr std::size_t operatorCount = static_cast<std::size_t>(Op::LeastPlaced) + 1;

std::array<Operator, operatorCount> allOperators()
{
    std::array<Operator, operatorCount> all;
    std::size_t count = 0;
    for (const std::span<const Operator> family :
         {constantOperators(), barOperators(), listingOperators(), statementOperators(),
          shareOperators(), estimateOperators(), noticeOperators(), valueOperators(),
          alongBarsOperators(), patternOperators(), otherBarsOperators(), acrossStocksOperators()})
        for (const Operator& each : family) {
            require(static_cast<std::size_t>(each.op) == count, "operators: a row out of order");
            all.at(count++) = each;
        }
    require(count == operatorCount, "operators: a name without a row");
    return all;
}

} // namespace

std::span<const Operator> operators()
{
    static const std::array<Operator, operatorCount> all = allOperators();
    return all;
}

const Operator& operatorOf(Op op)
{
    return operators()[static_cast<std::size_t>(op)];
}

bool isValueByValue(Op op)
{
    return operatorOf(op).family == Family::ValueByValue;
}

bool isAcross(Op op)
{
    return operatorOf(op).family == Family::AcrossStocks;
}

bool changesBars(Op op)
{
    const Family family = operatorOf(op).family;
    return family == Family::OtherScale || family == Family::OtherLine;
}

} // namespace sieve::engine
