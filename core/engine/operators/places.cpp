#include "core/engine/operators/places.h"

#include "core/base/ties.h"

#include <algorithm>
#include <array>
#include <bit>
#include <limits>
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

/// A group's members in the order of their figures.
class Ordered {
public:
    std::span<const Member> order(std::span<const double> all, std::span<const std::uint32_t> own)
    {
        members_.resize(own.size());
        std::size_t count = 0;
        for (const std::uint32_t place : own) {
            members_[count] = {static_cast<std::uint32_t>(keyOf(all[place]) >> 32U), place};
            count += isMissing(all[place]) ? 0U : 1U;
        }
        members_.resize(count);
        sortMembers(members_, spare_, all);
        return members_;
    }

private:
    std::vector<Member> members_;
    std::vector<Member> spare_;
};

double percentileOf(double less, double equal, double count)
{
    return 100.0 * (less + 0.5 * equal) / count;
}

double rankOf(double less, double equal, double count)
{
    return count - less - equal + 1.0;
}

/// placeOf(less, equal, count) of each member: figures that are tied share theirs.
template <class Place> void writePlaces(std::span<const double> all,
                                        std::span<const std::uint32_t> own, std::span<double> out,
                                        Place placeOf)
{
    static thread_local Ordered ordered;
    const std::span<const Member> sorted = ordered.order(all, own);
    const auto count = static_cast<double>(sorted.size());
    for (std::size_t begin = 0; begin < sorted.size();) {
        std::size_t end = begin + 1;
        const double least = all[sorted[begin].place];
        while (end < sorted.size() && isTied(all[sorted[end].place], least))
            ++end;
        const auto less = static_cast<double>(begin);
        const auto equal = static_cast<double>(end - begin);
        const double value = placeOf(less, equal, count);
        for (; begin < end; ++begin)
            out[sorted[begin].place] = value;
    }
}

/// Whether the place of a figure keeps to the limit: once one does, so do all greater figures.
bool keepsTo(const Node& limit, double less, double equal, double count)
{
    switch (limit.place) {
    case PlaceLimit::PercentileAtLeast:
        return isAtLeast(percentileOf(less, equal, count), limit.number);
    case PlaceLimit::PercentileAbove:
        return isGreater(percentileOf(less, equal, count), limit.number);
    case PlaceLimit::RankAtMost:
        return isAtMost(rankOf(less, equal, count), limit.number);
    case PlaceLimit::RankBelow:
        break;
    }
    return isLess(rankOf(less, equal, count), limit.number);
}

/// Where among `count` figures in order the first that keeps to the limit is expected.
double expectedPlace(const Node& limit, double count)
{
    const bool isPercentile =
        limit.place == PlaceLimit::PercentileAtLeast || limit.place == PlaceLimit::PercentileAbove;
    return isPercentile ? limit.number / 100.0 * count : count - limit.number;
}

/// The least of `figures` whose place keeps to the limit (one of those tied with it; the greatest
/// number there is when none does), `below` others being less than all of
/// them and `all` figures in the whole; they are lost. Each turn asks about one of them and leaves
/// out those that are then decided.
double leastPlaced(const Node& limit, std::span<double> figures, double below, double all)
{
    double least = std::numeric_limits<double>::max();
    while (!figures.empty()) {
        const double pivot = figures[figures.size() / 2];
        std::size_t belowPivot = 0;
        std::size_t tied = 0;
        for (const double figure : figures) {
            belowPivot += isLess(figure, pivot) ? 1U : 0U;
            tied += isTied(figure, pivot) ? 1U : 0U;
        }
        const auto less = static_cast<double>(belowPivot);
        const auto equal = static_cast<double>(tied);
        const bool keeps = keepsTo(limit, below + less, equal, all);
        const double sign = keeps ? 1.0 : -1.0;
        std::size_t count = 0;
        for (const double figure : figures) { // those below it, else those above it
            figures[count] = figure;
            count += isLess(sign * figure, sign * pivot) ? 1U : 0U;
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

} // namespace

void percentiles(const Node&, std::span<const double> figures,
                 std::span<const std::uint32_t> members, std::span<double> out)
{
    writePlaces(figures, members, out, percentileOf);
}

void ranks(const Node&, std::span<const double> figures, std::span<const std::uint32_t> members,
           std::span<double> out)
{
    writePlaces(figures, members, out, rankOf);
}

double leastPlaced(const Node& limit, std::span<const double> all,
                   std::span<const std::uint32_t> own, double)
{
    // Mostly it lies among the few between two bounds.
    static thread_local std::vector<double> between;
    if (between.size() < own.size())
        between.resize(own.size());
    const auto [least, greatest] = boundsOf(limit, all, own);
    const double low = least - 2.0 * slackOf(least); // what is tied with them lies between
    const double high = greatest + 2.0 * slackOf(greatest);
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
        if (const double placed =
                leastPlaced(limit, std::span(between).first(count), less, members);
            placed <= high)
            return placed;
    count = 0;
    for (const std::uint32_t place : own) {
        between[count] = all[place];
        count += isMissing(all[place]) ? 0U : 1U;
    }
    return leastPlaced(limit, std::span(between).first(count), 0.0, members);
}

} // namespace sieve::engine
