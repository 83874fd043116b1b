#include "core/expressions/across.h"

#include <algorithm>
#include <array>
#include <bit>
#include <cmath>
#include <cstdint>
#include <vector>

namespace sieve::expressions {

namespace {

struct Member {
    std::uint64_t key; ///< orders as the figure does
    std::uint32_t place;
};

/// Whole numbers that order as the figures do; both zeros are one.
std::uint64_t keyOf(double figure)
{
    const auto bits = std::bit_cast<std::uint64_t>(figure + 0.0);
    return bits >> 63U ? ~bits : bits | (1ULL << 63U);
}

double figureOf(const Member& member)
{
    const std::uint64_t bits = member.key >> 63U ? member.key & ~(1ULL << 63U) : ~member.key;
    return std::bit_cast<double>(bits);
}

/// Sorts by digits of a byte, least first (radix sort); digits that all share are skipped.
void sortMembers(std::vector<Member>& members, std::vector<Member>& spare)
{
    if (members.size() < 256) {
        std::ranges::stable_sort(members, {}, &Member::key);
        return;
    }
    std::array<std::array<std::uint32_t, 256>, 8> counts{};
    for (const Member& member : members)
        for (std::size_t digit = 0; digit < 8; ++digit)
            ++counts[digit][(member.key >> (8 * digit)) & 255U];
    spare.resize(members.size());
    for (std::size_t digit = 0; digit < 8; ++digit) {
        auto& count = counts[digit];
        const auto shift = 8 * digit;
        if (count[(members[0].key >> shift) & 255U] == members.size())
            continue;
        std::uint32_t before = 0;
        for (std::uint32_t& each : count)
            before += std::exchange(each, before);
        for (const Member& member : members)
            spare[count[(member.key >> shift) & 255U]++] = member;
        members.swap(spare);
    }
}

double meanOf(std::span<const Member> sorted)
{
    double sum = 0.0;
    for (const Member& member : sorted)
        sum += figureOf(member);
    return sum / static_cast<double>(sorted.size());
}

double medianOf(std::span<const Member> sorted)
{
    const std::size_t middle = sorted.size() / 2;
    if (sorted.size() % 2 == 1)
        return figureOf(sorted[middle]);
    return (figureOf(sorted[middle - 1]) + figureOf(sorted[middle])) / 2.0;
}

void zScores(std::span<const Member> sorted, std::span<double> out)
{
    if (sorted.size() < 2 || sorted.front().key == sorted.back().key)
        return;
    const double mean = meanOf(sorted);
    double squares = 0.0;
    for (const Member& member : sorted)
        squares += (figureOf(member) - mean) * (figureOf(member) - mean);
    const double deviation = std::sqrt(squares / static_cast<double>(sorted.size() - 1));
    for (const Member& member : sorted)
        out[member.place] = (figureOf(member) - mean) / deviation;
}

/// Percentiles or ranks: equal figures share theirs.
void places(Op op, std::span<const Member> sorted, std::span<double> out)
{
    const auto count = static_cast<double>(sorted.size());
    for (std::size_t begin = 0; begin < sorted.size();) {
        std::size_t end = begin;
        while (end < sorted.size() && sorted[end].key == sorted[begin].key)
            ++end;
        const auto less = static_cast<double>(begin);
        const auto equal = static_cast<double>(end - begin);
        const double value = op == Op::Percentile ? 100.0 * (less + 0.5 * equal) / count
                                                  : count - less - equal + 1.0;
        for (; begin < end; ++begin)
            out[sorted[begin].place] = value;
    }
}

/// What all members of a group are given.
double groupValue(Op op, std::span<const Member> sorted)
{
    switch (op) {
    case Op::Median:
        return medianOf(sorted);
    case Op::CountOf:
        return std::round(meanOf(sorted) * static_cast<double>(sorted.size()));
    default:
        return meanOf(sorted);
    }
}

/// The stocks of a day by group, those outside left out.
class Groups {
public:
    Groups(std::span<const double> figures, std::span<const double> groups, bool areYesNo)
        : figures_(figures), groups_(groups), areYesNo_(areYesNo)
    {
        order_.reserve(figures.size());
        for (std::uint32_t i = 0; i < figures.size(); ++i)
            if (isIn(i))
                order_.push_back(i);
        if (!groups.empty() && !areYesNo)
            std::ranges::stable_sort(order_, {}, [&](std::uint32_t i) { return groups[i]; });
    }

    /// Calls `take(places, members)` for each group.
    template <class Take> void each(Take take)
    {
        std::vector<Member> members;
        for (std::size_t begin = 0; begin < order_.size();) {
            std::size_t end = begin;
            members.clear();
            for (; end < order_.size() && isSame(order_[end], order_[begin]); ++end)
                if (!isMissing(figures_[order_[end]]))
                    members.push_back({keyOf(figures_[order_[end]]), order_[end]});
            take(std::span<const std::uint32_t>(order_).subspan(begin, end - begin), members);
            begin = end;
        }
    }

private:
    bool isIn(std::uint32_t i) const
    {
        return groups_.empty() || (!isMissing(groups_[i]) && (!areYesNo_ || groups_[i] == 1.0));
    }
    bool isSame(std::uint32_t a, std::uint32_t b) const
    {
        return groups_.empty() || areYesNo_ || groups_[a] == groups_[b];
    }

    std::span<const double> figures_;
    std::span<const double> groups_;
    bool areYesNo_;
    std::vector<std::uint32_t> order_;
};

void groupRanks(Groups& groups, std::span<double> out)
{
    std::vector<double> means;
    std::vector<std::vector<std::uint32_t>> places;
    groups.each([&](std::span<const std::uint32_t> own, std::vector<Member>& members) {
        if (members.empty())
            return;
        means.push_back(meanOf(members));
        places.emplace_back(own.begin(), own.end());
    });
    std::ranges::fill(out, missing);
    for (std::size_t group = 0; group < means.size(); ++group) {
        const auto greater =
            std::ranges::count_if(means, [&](double mean) { return mean > means[group]; });
        for (const std::uint32_t place : places[group])
            out[place] = 1.0 + static_cast<double>(greater);
    }
}

} // namespace

void across(Op op, std::span<const double> figures, std::span<const double> groups,
            bool groupsAreYesNo, std::span<double> out)
{
    const std::vector<double> own(figures.begin(), figures.end()); // `out` may be `figures`
    Groups all(own, groups, groupsAreYesNo);
    if (op == Op::GroupRank)
        return groupRanks(all, out);
    std::ranges::fill(out, missing);
    static thread_local std::vector<Member> spare;
    all.each([&](std::span<const std::uint32_t> places_, std::vector<Member>& members) {
        if (members.empty())
            return;
        const bool needsOrder = op != Op::ShareOf && op != Op::CountOf;
        if (needsOrder)
            sortMembers(members, spare);
        if (op == Op::Percentile || op == Op::Rank)
            return places(op, members, out);
        if (op == Op::ZScore)
            return zScores(members, out);
        const double value = groupValue(op, members);
        for (const std::uint32_t place : places_)
            out[place] = value;
    });
}

} // namespace sieve::expressions
