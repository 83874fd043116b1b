#include "core/expressions/across.h"

#include <algorithm>
#include <array>
#include <bit>
#include <cmath>
#include <iterator>
#include <limits>
#include <numeric>
#include <utility>

namespace sieve::expressions {

namespace {

/// A whole number that orders as the figure does; both zeros are one.
std::uint64_t keyOf(double figure)
{
    const auto bits = std::bit_cast<std::uint64_t>(figure + 0.0);
    return bits >> 63U ? ~bits : bits | (1ULL << 63U);
}

/// The upper half of a figure's key, and whose figure it is.
struct Member {
    std::uint32_t key;
    std::uint32_t place;
};

/// Sorts by digits of eleven bits, least first (radix sort); digits that all share are skipped.
void sortByKey(std::vector<Member>& members, std::vector<Member>& spare)
{
    constexpr std::size_t bits = 11;
    constexpr std::uint32_t mask = (1U << bits) - 1;
    std::array<std::array<std::uint32_t, mask + 1>, 3> counts{};
    for (const Member& member : members)
        for (std::size_t digit = 0; digit < 3; ++digit)
            ++counts[digit][(member.key >> (bits * digit)) & mask];
    spare.resize(members.size());
    for (std::size_t digit = 0; digit < 3; ++digit) {
        auto& count = counts[digit];
        const auto shift = bits * digit;
        if (count[(members[0].key >> shift) & mask] == members.size())
            continue;
        std::uint32_t before = 0;
        for (std::uint32_t& each : count)
            before += std::exchange(each, before);
        for (const Member& member : members)
            spare[count[(member.key >> shift) & mask]++] = member;
        members.swap(spare);
    }
}

/// Orders by figure. Upper halves settle nearly all; those that share theirs are looked at whole.
void sortMembers(std::vector<Member>& members, std::vector<Member>& spare,
                 std::span<const double> figures)
{
    const auto figure = [figures](const Member& member) { return figures[member.place]; };
    if (members.size() < 256) {
        std::ranges::sort(members, {}, figure);
        return;
    }
    sortByKey(members, spare);
    for (auto begin = members.begin(); begin != members.end();) {
        auto end = begin + 1;
        bool areEqual = true;
        for (; end != members.end() && end->key == begin->key; ++end)
            areEqual = areEqual && figure(*end) == figure(*begin);
        if (!areEqual)
            std::sort(begin, end,
                      [&](const Member& a, const Member& b) { return figure(a) < figure(b); });
        begin = end;
    }
}

double meanOf(std::span<const double> figures)
{
    double sum = 0.0;
    for (const double figure : figures)
        sum += figure;
    return sum / static_cast<double>(figures.size());
}

double medianOf(std::span<double> figures)
{
    const auto middle = figures.begin() + static_cast<std::ptrdiff_t>(figures.size() / 2);
    std::nth_element(figures.begin(), middle, figures.end());
    if (figures.size() % 2 == 1)
        return *middle;
    return (*std::max_element(figures.begin(), middle) + *middle) / 2.0;
}

/// One group of one day: the figures that are known, and whose they are.
struct OneGroup {
    std::vector<double> figures;
    std::vector<std::uint32_t> places;
    std::vector<Member> members;
    std::vector<Member> spare;

    void take(std::span<const double> all, std::span<const std::uint32_t> own)
    {
        figures.resize(own.size());
        places.resize(own.size());
        std::size_t count = 0;
        for (const std::uint32_t place : own) {
            figures[count] = all[place];
            places[count] = place;
            count += isMissing(all[place]) ? 0U : 1U;
        }
        figures.resize(count);
        places.resize(count);
    }
    /// Orders the members by their figures.
    void order(std::span<const double> all, std::span<const std::uint32_t> own)
    {
        members.resize(own.size());
        std::size_t count = 0;
        for (const std::uint32_t place : own) {
            members[count] = {static_cast<std::uint32_t>(keyOf(all[place]) >> 32U), place};
            count += isMissing(all[place]) ? 0U : 1U;
        }
        members.resize(count);
        sortMembers(members, spare, all);
    }
};

double percentileOf(double less, double equal, double count)
{
    return 100.0 * (less + 0.5 * equal) / count;
}

double rankOf(double less, double equal, double count)
{
    return count - less - equal + 1.0;
}

/// Percentiles or ranks of ordered members: equal figures share theirs.
void standings(Op op, std::span<const Member> sorted, std::span<const double> all,
               std::span<double> out)
{
    const auto count = static_cast<double>(sorted.size());
    const auto areEqual = [all](const Member& a, const Member& b) {
        return a.key == b.key && all[a.place] == all[b.place];
    };
    for (std::size_t begin = 0; begin < sorted.size();) {
        std::size_t end = begin + 1;
        while (end < sorted.size() && areEqual(sorted[end], sorted[begin]))
            ++end;
        const auto less = static_cast<double>(begin);
        const auto equal = static_cast<double>(end - begin);
        const double value = op == Op::Percentile ? percentileOf(less, equal, count)
                                                  : rankOf(less, equal, count);
        for (; begin < end; ++begin)
            out[sorted[begin].place] = value;
    }
}

/// Whether the place of a figure keeps to the limit: once one does, so do all greater figures.
bool keepsTo(const Node& limit, double less, double equal, double count)
{
    switch (limit.place) {
    case PlaceLimit::PercentileAtLeast:
        return percentileOf(less, equal, count) >= limit.number;
    case PlaceLimit::PercentileAbove:
        return percentileOf(less, equal, count) > limit.number;
    case PlaceLimit::RankAtMost:
        return rankOf(less, equal, count) <= limit.number;
    case PlaceLimit::RankBelow:
        break;
    }
    return rankOf(less, equal, count) < limit.number;
}

/// Where among `count` figures in order the first that keeps to the limit is expected.
double expectedPlace(const Node& limit, double count)
{
    const bool isPercentile = limit.place == PlaceLimit::PercentileAtLeast ||
                              limit.place == PlaceLimit::PercentileAbove;
    return isPercentile ? limit.number / 100.0 * count : count - limit.number;
}

/// One of the figures, not far above or below the expected place in their order, as a few of them
/// show.
double pivotOf(std::span<const double> figures, double place, bool isAbove)
{
    constexpr std::size_t few = 64;
    constexpr double margin = 6.0;
    std::array<double, few> sample;
    const std::size_t count = std::min(few, figures.size());
    for (std::size_t i = 0; i < count; ++i)
        sample[i] = figures[i * figures.size() / count];
    const double scale = static_cast<double>(count) / static_cast<double>(figures.size());
    const double at = place * scale + (isAbove ? margin : -margin);
    const auto nth = sample.begin() + static_cast<std::ptrdiff_t>(
                                          std::clamp(at, 0.0, static_cast<double>(count - 1)));
    std::nth_element(sample.begin(), nth, sample.begin() + static_cast<std::ptrdiff_t>(count));
    return *nth;
}

/// The least of `figures` whose place keeps to the limit; they are lost. Each turn asks about one
/// of them and leaves out those that are then decided.
double leastPlaced(const Node& limit, std::vector<double>& figures)
{
    const auto all = static_cast<double>(figures.size());
    const double expected = expectedPlace(limit, all);
    double below = 0.0; // those left out as too small
    double least = std::numeric_limits<double>::infinity();
    for (bool isAbove = true; !figures.empty(); isAbove = !isAbove) {
        const double pivot = pivotOf(figures, expected - below, isAbove);
        std::uint32_t less = 0;
        std::uint32_t equal = 0;
        for (const double figure : figures) {
            less += figure < pivot ? 1U : 0U;
            equal += figure == pivot ? 1U : 0U;
        }
        const bool keeps = keepsTo(limit, below + less, equal, all);
        std::size_t count = 0;
        for (const double figure : figures) {
            figures[count] = figure;
            count += (keeps ? figure < pivot : figure > pivot) ? 1U : 0U;
        }
        figures.resize(count);
        if (keeps)
            least = pivot;
        else
            below += less + equal;
    }
    return least;
}

void zScores(const OneGroup& group, std::span<double> out)
{
    const auto [least, most] = std::ranges::minmax(group.figures);
    if (group.figures.size() < 2 || least == most)
        return;
    const double mean = meanOf(group.figures);
    double squares = 0.0;
    for (const double figure : group.figures)
        squares += (figure - mean) * (figure - mean);
    const double deviation = std::sqrt(squares / static_cast<double>(group.figures.size() - 1));
    for (std::size_t i = 0; i < group.figures.size(); ++i)
        out[group.places[i]] = (group.figures[i] - mean) / deviation;
}

/// What all members of a group are given.
double groupValue(const Node& part, OneGroup& group)
{
    switch (part.op) {
    case Op::LeastPlaced:
        return leastPlaced(part, group.figures);
    case Op::Median:
        return medianOf(group.figures);
    case Op::CountOf:
        return std::round(meanOf(group.figures) * static_cast<double>(group.figures.size()));
    case Op::TotalOf:
        return std::accumulate(group.figures.begin(), group.figures.end(), 0.0);
    default:
        return meanOf(group.figures);
    }
}

void groupRanks(std::span<const double> figures, const Groups& groups, std::span<double> out)
{
    OneGroup group;
    std::vector<double> means;
    for (const auto& members : groups.members()) {
        group.take(figures, members);
        means.push_back(group.figures.empty() ? missing : meanOf(group.figures));
    }
    for (std::size_t i = 0; i < means.size(); ++i) {
        const auto greater =
            std::ranges::count_if(means, [&](double mean) { return mean > means[i]; });
        out[i] = isMissing(means[i]) ? missing : 1.0 + static_cast<double>(greater);
    }
}

} // namespace

Groups Groups::all(std::size_t stocks)
{
    Groups groups;
    auto& members = groups.members_.emplace_back(stocks);
    std::iota(members.begin(), members.end(), 0U);
    return groups;
}

Groups Groups::of(std::span<const double> values, bool areYesNo)
{
    std::vector<std::uint32_t> in;
    for (std::uint32_t i = 0; i < values.size(); ++i)
        if (!isMissing(values[i]) && (!areYesNo || values[i] == 1.0))
            in.push_back(i);
    std::ranges::stable_sort(in, {}, [&](std::uint32_t i) { return values[i]; });
    Groups groups;
    for (std::size_t i = 0; i < in.size(); ++i) {
        if (i == 0 || values[in[i]] != values[in[i - 1]])
            groups.members_.emplace_back();
        groups.members_.back().push_back(in[i]);
    }
    return groups;
}

std::vector<std::uint32_t> Groups::numbers(std::size_t stocks) const
{
    std::vector<std::uint32_t> numbers(stocks, none);
    for (std::uint32_t group = 0; group < members_.size(); ++group)
        for (const std::uint32_t place : members_[group])
            numbers[place] = group;
    return numbers;
}

bool isOneAGroup(Op op)
{
    return op != Op::Percentile && op != Op::Rank && op != Op::ZScore;
}

void acrossGroups(const Node& part, std::span<const double> figures, const Groups& groups,
                  std::span<double> out)
{
    static thread_local OneGroup group;
    if (part.op == Op::GroupRank)
        return groupRanks(figures, groups, out);
    for (std::size_t i = 0; i < out.size(); ++i) {
        group.take(figures, groups.members()[i]);
        out[i] = group.figures.empty() ? missing : groupValue(part, group);
    }
}

void across(const Node& part, std::span<const double> figures, const Groups& groups,
            std::span<double> out)
{
    static thread_local std::vector<double> ownAll;
    static thread_local OneGroup group;
    const Op op = part.op;
    ownAll.assign(figures.begin(), figures.end()); // `out` may be `figures`
    const std::span<const double> all = ownAll;
    std::ranges::fill(out, missing);
    if (isOneAGroup(op)) {
        std::vector<double> values(groups.members().size());
        acrossGroups(part, all, groups, values);
        for (std::size_t i = 0; i < values.size(); ++i)
            for (const std::uint32_t place : groups.members()[i])
                if (op != Op::LeastPlaced || !isMissing(all[place]))
                    out[place] = values[i];
        return;
    }
    for (const auto& members : groups.members())
        if (op == Op::ZScore) {
            group.take(all, members);
            if (!group.figures.empty())
                zScores(group, out);
        } else {
            group.order(all, members);
            standings(op, group.members, all, out);
        }
}

double Tally::value(Op op) const
{
    if (count == 0.0)
        return missing;
    return op == Op::CountOf || op == Op::TotalOf ? sum : sum / count;
}

double valueOfTheDay(Op op, std::span<const double> figures)
{
    if (op == Op::Median) {
        std::vector<double> known;
        std::ranges::copy_if(figures, std::back_inserter(known),
                             [](double figure) { return !isMissing(figure); });
        return known.empty() ? missing : medianOf(known);
    }
    Tally all;
    for (std::size_t first = 0; first < figures.size(); first += instrumentsABlock) {
        Tally block;
        for (const double figure :
             figures.subspan(first, std::min(instrumentsABlock, figures.size() - first)))
            block.add(figure);
        all.add(block);
    }
    return all.value(op);
}

} // namespace sieve::expressions
