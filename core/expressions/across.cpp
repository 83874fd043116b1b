#include "core/expressions/across.h"

#include <algorithm>
#include <cmath>
#include <vector>

namespace sieve::expressions {

namespace {

struct Member {
    double figure;
    std::size_t place;
};

double meanOf(std::span<const Member> sorted)
{
    double sum = 0.0;
    for (const Member& member : sorted)
        sum += member.figure;
    return sum / static_cast<double>(sorted.size());
}

double medianOf(std::span<const Member> sorted)
{
    const std::size_t middle = sorted.size() / 2;
    if (sorted.size() % 2 == 1)
        return sorted[middle].figure;
    return (sorted[middle - 1].figure + sorted[middle].figure) / 2.0;
}

void zScores(std::span<const Member> sorted, std::span<double> out)
{
    if (sorted.size() < 2 || sorted.front().figure == sorted.back().figure)
        return;
    const double mean = meanOf(sorted);
    double squares = 0.0;
    for (const Member& member : sorted)
        squares += (member.figure - mean) * (member.figure - mean);
    const double deviation = std::sqrt(squares / static_cast<double>(sorted.size() - 1));
    for (const Member& member : sorted)
        out[member.place] = (member.figure - mean) / deviation;
}

/// Percentiles or ranks: equal figures share theirs.
void places(Op op, std::span<const Member> sorted, std::span<double> out)
{
    const auto count = static_cast<double>(sorted.size());
    for (std::size_t begin = 0; begin < sorted.size();) {
        std::size_t end = begin;
        while (end < sorted.size() && sorted[end].figure == sorted[begin].figure)
            ++end;
        const auto less = static_cast<double>(begin);
        const auto equal = static_cast<double>(end - begin);
        const double value = op == Op::Percentile ? 100.0 * (less + 0.5 * equal) / count
                                                  : count - less - equal + 1.0;
        for (; begin < end; ++begin)
            out[sorted[begin].place] = value;
    }
}

void oneGroup(Op op, std::span<Member> sorted, std::span<const std::size_t> places_,
              std::span<double> out)
{
    if (sorted.empty())
        return;
    if (op == Op::Percentile || op == Op::Rank)
        return places(op, sorted, out);
    if (op == Op::ZScore)
        return zScores(sorted, out);
    double value = 0.0;
    if (op == Op::Median)
        value = medianOf(sorted);
    else if (op == Op::Mean || op == Op::ShareOf)
        value = meanOf(sorted);
    else
        value = meanOf(sorted) * static_cast<double>(sorted.size());
    for (const std::size_t place : places_)
        out[place] = op == Op::CountOf ? std::round(value) : value;
}

} // namespace

void across(Op op, std::span<const double> figures, std::span<const double> groups,
            bool groupsAreYesNo, std::span<double> out)
{
    std::ranges::fill(out, missing);
    std::vector<std::size_t> order; // by group, those outside left out
    for (std::size_t i = 0; i < figures.size(); ++i)
        if (groups.empty() || (!isMissing(groups[i]) && (!groupsAreYesNo || groups[i] == 1.0)))
            order.push_back(i);
    if (!groups.empty())
        std::ranges::stable_sort(order, {}, [&](std::size_t i) { return groups[i]; });

    std::vector<Member> members;
    for (std::size_t begin = 0; begin < order.size();) {
        std::size_t end = begin;
        members.clear();
        for (; end < order.size() && (groups.empty() || groups[order[end]] == groups[order[begin]]);
             ++end)
            if (!isMissing(figures[order[end]]))
                members.push_back({figures[order[end]], order[end]});
        std::ranges::stable_sort(members, {}, &Member::figure);
        oneGroup(op, members, std::span(order).subspan(begin, end - begin), out);
        begin = end;
    }
}

} // namespace sieve::expressions
