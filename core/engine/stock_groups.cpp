#include "core/engine/stock_groups.h"

#include "core/base/missing.h"

#include <algorithm>
#include <numeric>

namespace sieve::engine {

StockGroups StockGroups::all(std::size_t stocks)
{
    StockGroups groups;
    auto& members = groups.members_.emplace_back(stocks);
    std::iota(members.begin(), members.end(), 0U);
    return groups;
}

StockGroups StockGroups::of(std::span<const double> values, bool areYesNo)
{
    std::vector<std::uint32_t> in;
    for (std::uint32_t i = 0; i < values.size(); ++i)
        if (!isMissing(values[i]) && (!areYesNo || values[i] == 1.0))
            in.push_back(i);
    std::ranges::stable_sort(in, {}, [&](std::uint32_t i) { return values[i]; });
    StockGroups groups;
    for (std::size_t i = 0; i < in.size(); ++i) {
        if (i == 0 || values[in[i]] != values[in[i - 1]])
            groups.members_.emplace_back();
        groups.members_.back().push_back(in[i]);
    }
    return groups;
}

StockGroups StockGroups::ofTexts(std::span<const std::uint32_t> numbers)
{
    std::vector<std::vector<std::uint32_t>> byNumber;
    for (std::uint32_t i = 0; i < numbers.size(); ++i) {
        if (numbers[i] >= byNumber.size())
            byNumber.resize(std::size_t{numbers[i]} + 1);
        if (numbers[i] != 0)
            byNumber[numbers[i]].push_back(i);
    }
    StockGroups groups;
    for (auto& members : byNumber)
        if (!members.empty())
            groups.members_.push_back(std::move(members));
    return groups;
}

std::vector<std::uint32_t> StockGroups::numbers(std::size_t stocks) const
{
    std::vector<std::uint32_t> numbers(stocks, none);
    for (std::uint32_t group = 0; group < members_.size(); ++group)
        for (const std::uint32_t place : members_[group])
            numbers[place] = group;
    return numbers;
}

} // namespace sieve::engine
