#include "core/engine/across.h"

#include "core/indicators/wide.h"

#include <algorithm>
#include <array>
#include <bit>
#include <cmath>
#include <iterator>
#include <limits>
#include <numeric>
#include <utility>

namespace sieve::engine {

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
    const double below =
        figures.size() % 2 == 1 ? *middle : *std::max_element(figures.begin(), middle);
    return (below + *middle) / 2.0 + 0.0; // one zero only
}

/// How many figures are less than a value, and how many equal it.
struct Counts {
    std::uint64_t less = 0;
    std::uint64_t equal = 0;
};

SIEVE_WIDE Counts countAbout(const double* figures, std::size_t size, double value)
{
    Counts counts;
    for (std::size_t i = 0; i < size; ++i) {
        counts.less += figures[i] < value ? 1U : 0U;
        counts.equal += figures[i] == value ? 1U : 0U;
    }
    return counts;
}

/// The farthest of all figures that lie on one side of a value; `none` where there is none there.
template <class Lies, class Farther> SIEVE_INLINE double
neighbour(std::span<const double> figures, double none, Lies lies, Farther farther)
{
    constexpr std::size_t lanes = 8;
    std::array<double, lanes> nearest;
    nearest.fill(none);
    std::size_t i = 0;
    for (; i + lanes <= figures.size(); i += lanes)
        for (std::size_t lane = 0; lane < lanes; ++lane) {
            const double figure = figures[i + lane];
            nearest[lane] = farther(nearest[lane], lies(figure) ? figure : none);
        }
    for (; i < figures.size(); ++i)
        nearest[0] = farther(nearest[0], lies(figures[i]) ? figures[i] : none);
    for (const double each : nearest)
        none = farther(none, each);
    return none;
}

/// The figure next to a value, below or above it.
SIEVE_WIDE double nextBelow(std::span<const double> figures, double value)
{
    return neighbour(
        figures, -std::numeric_limits<double>::infinity(),
        [value](double figure) { return figure < value; },
        [](double a, double b) { return a < b ? b : a; });
}

SIEVE_WIDE double nextAbove(std::span<const double> figures, double value)
{
    return neighbour(
        figures, std::numeric_limits<double>::infinity(),
        [value](double figure) { return figure > value; },
        [](double a, double b) { return b < a ? b : a; });
}

/// The same, by steps from a value that is thought to lie near.
double medianNear(std::span<double> figures, double near)
{
    constexpr int mostSteps = 12;
    const std::size_t middle = figures.size() / 2;
    for (int step = 0; step < mostSteps; ++step) {
        const Counts counts = countAbout(figures.data(), figures.size(), near);
        if (counts.less > middle) {
            near = nextBelow(figures, near);
        } else if (counts.less + counts.equal <= middle) {
            near = nextAbove(figures, near);
        } else {
            const bool isBetween = figures.size() % 2 == 0 && counts.less == middle;
            return ((isBetween ? nextBelow(figures, near) : near) + near) / 2.0 + 0.0;
        }
    }
    return medianOf(figures);
}

/// One group of one day: the figures that are known, or its members in their order.
struct OneGroup {
    std::span<double> figures;
    std::vector<Member> members;

    void take(std::span<const double> all, std::span<const std::uint32_t> own)
    {
        if (store.size() < own.size())
            store.resize(own.size());
        double* const known = store.data();
        std::size_t count = 0;
        for (const std::uint32_t place : own) {
            const double figure = all[place];
            known[count] = figure;
            count += figure == figure ? 1U : 0U;
        }
        figures = std::span(store).first(count);
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

private:
    std::vector<double> store;
    std::vector<Member> spare;
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
        const double value =
            op == Op::Percentile ? percentileOf(less, equal, count) : rankOf(less, equal, count);
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
    const bool isPercentile =
        limit.place == PlaceLimit::PercentileAtLeast || limit.place == PlaceLimit::PercentileAbove;
    return isPercentile ? limit.number / 100.0 * count : count - limit.number;
}

/// The least of `figures` whose place keeps to the limit, `below` others being less than all of
/// them and `all` figures in the whole; they are lost. Each turn asks about one of them and leaves
/// out those that are then decided.
double leastPlaced(const Node& limit, std::span<double> figures, double below, double all)
{
    double least = std::numeric_limits<double>::infinity();
    while (!figures.empty()) {
        const double pivot = figures[figures.size() / 2];
        const Counts counts = countAbout(figures.data(), figures.size(), pivot);
        const auto less = static_cast<double>(counts.less);
        const auto equal = static_cast<double>(counts.equal);
        const bool keeps = keepsTo(limit, below + less, equal, all);
        const double sign = keeps ? 1.0 : -1.0;
        std::size_t count = 0;
        for (const double figure : figures) { // those below it, else those above it
            figures[count] = figure;
            count += sign * figure < sign * pivot ? 1U : 0U;
        }
        figures = figures.first(count);
        if (keeps)
            least = pivot;
        else
            below += less + equal;
    }
    return least;
}

/// Two figures between which the least one that keeps to the limit is expected, as a few members
/// show; missing where nothing is known of them.
std::pair<double, double> boundsOf(const Node& limit, std::span<const double> all,
                                   std::span<const std::uint32_t> own)
{
    constexpr std::size_t few = 128;
    constexpr double margin = 8.0;
    std::array<double, few> sample;
    std::size_t known = 0;
    const std::size_t asked = std::min(few, own.size());
    for (std::size_t i = 0; i < asked; ++i) {
        sample[known] = all[own[i * own.size() / asked]];
        known += isMissing(sample[known]) ? 0U : 1U;
    }
    if (known == 0)
        return {missing, missing};
    std::sort(sample.begin(), sample.begin() + static_cast<std::ptrdiff_t>(known));
    const double scale = static_cast<double>(own.size()) / static_cast<double>(asked);
    const double rank = expectedPlace(limit, static_cast<double>(known) * scale) / scale;
    const auto at = [&](double place) {
        return sample[static_cast<std::size_t>(
            std::clamp(place, 0.0, static_cast<double>(known - 1)))];
    };
    return {at(rank - margin), at(rank + margin)};
}

/// The same of a group's members: mostly it lies among the few between two bounds.
double leastPlaced(const Node& limit, std::span<const double> all,
                   std::span<const std::uint32_t> own)
{
    static thread_local std::vector<double> between;
    if (between.size() < own.size())
        between.resize(own.size());
    const auto [low, high] = boundsOf(limit, all, own);
    std::size_t known = 0;
    std::size_t below = 0;
    std::size_t count = 0;
    for (const std::uint32_t place : own) {
        const double figure = all[place];
        between[count] = figure;
        known += static_cast<std::size_t>(figure == figure);
        below += static_cast<std::size_t>(figure < low);
        count += static_cast<std::size_t>(figure >= low) & static_cast<std::size_t>(figure <= high);
    }
    if (known == 0)
        return missing;
    const auto members = static_cast<double>(known);
    const auto less = static_cast<double>(below);
    if (below == 0 || !keepsTo(limit, less - 1.0, 1.0, members))
        if (const double least = leastPlaced(limit, std::span(between).first(count), less, members);
            least <= high)
            return least;
    count = 0;
    for (const std::uint32_t place : own) {
        between[count] = all[place];
        count += isMissing(all[place]) ? 0U : 1U;
    }
    return leastPlaced(limit, std::span(between).first(count), 0.0, members);
}

void zScores(const OneGroup& group, std::span<const double> all, std::span<const std::uint32_t> own,
             std::span<double> out)
{
    const auto [least, most] = std::ranges::minmax(group.figures);
    if (group.figures.size() < 2 || least == most)
        return;
    const double mean = meanOf(group.figures);
    double squares = 0.0;
    for (const double figure : group.figures)
        squares += (figure - mean) * (figure - mean);
    const double deviation = std::sqrt(squares / static_cast<double>(group.figures.size() - 1));
    for (const std::uint32_t place : own) // of a missing figure it is missing
        out[place] = (all[place] - mean) / deviation;
}

/// What all members of a group are given.
double groupValue(const Node& part, OneGroup& group, double near)
{
    switch (part.op) {
    case Op::Median:
        return isMissing(near) ? medianOf(group.figures) : medianNear(group.figures, near);
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

Groups Groups::ofTexts(std::span<const std::uint32_t> numbers)
{
    std::vector<std::vector<std::uint32_t>> byNumber;
    for (std::uint32_t i = 0; i < numbers.size(); ++i) {
        if (numbers[i] >= byNumber.size())
            byNumber.resize(std::size_t{numbers[i]} + 1);
        if (numbers[i] != 0)
            byNumber[numbers[i]].push_back(i);
    }
    Groups groups;
    for (auto& members : byNumber)
        if (!members.empty())
            groups.members_.push_back(std::move(members));
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
                  std::span<const double> near, std::span<double> out)
{
    static thread_local OneGroup group;
    if (part.op == Op::GroupRank)
        return groupRanks(figures, groups, out);
    for (std::size_t i = 0; i < out.size(); ++i) {
        if (part.op == Op::LeastPlaced) {
            out[i] = leastPlaced(part, figures, groups.members()[i]);
            continue;
        }
        group.take(figures, groups.members()[i]);
        out[i] = group.figures.empty() ? missing
                                       : groupValue(part, group, near.empty() ? missing : near[i]);
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
        acrossGroups(part, all, groups, {}, values);
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
                zScores(group, all, members, out);
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

} // namespace sieve::engine
