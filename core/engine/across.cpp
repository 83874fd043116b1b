#include "core/engine/across.h"

#include "core/engine/operators/median.h"

#include <algorithm>
#include <iterator>

namespace sieve::engine {

bool isOneAGroup(Op op)
{
    return operatorOf(op).across.ofGroup != nullptr;
}

void acrossGroups(const Node& part, std::span<const double> figures, const StockGroups& groups,
                  std::span<const double> near, std::span<double> out)
{
    const AcrossWays& ways = operatorOf(part.op).across;
    for (std::size_t i = 0; i < out.size(); ++i)
        out[i] = ways.ofGroup(part, figures, groups.members()[i], near.empty() ? missing : near[i]);
    if (ways.amongGroups)
        ways.amongGroups(out);
}

void across(const Node& part, std::span<const double> figures, const StockGroups& groups,
            std::span<double> out)
{
    static thread_local std::vector<double> ownAll;
    ownAll.assign(figures.begin(), figures.end()); // `out` may be `figures`
    const std::span<const double> all = ownAll;
    std::ranges::fill(out, missing);
    const AcrossWays& ways = operatorOf(part.op).across;
    if (ways.eachMember) {
        for (const auto& members : groups.members())
            ways.eachMember(part, all, members, out);
        return;
    }
    std::vector<double> values(groups.members().size());
    acrossGroups(part, all, groups, {}, values);
    for (std::size_t i = 0; i < values.size(); ++i)
        for (const std::uint32_t place : groups.members()[i])
            if (!ways.isOfKnownMembers || !isMissing(all[place]))
                out[place] = values[i];
}

double valueOfTheDay(Op op, const KnownSum& all)
{
    return all.count == 0.0 ? missing : operatorOf(op).across.ofSum(all);
}

double valueOfTheDay(Op op, std::span<const double> figures)
{
    if (!operatorOf(op).across.ofSum) { // a median
        std::vector<double> known;
        std::ranges::copy_if(figures, std::back_inserter(known),
                             [](double figure) { return !isMissing(figure); });
        return known.empty() ? missing : medianOf(known);
    }
    KnownSum all;
    for (std::size_t first = 0; first < figures.size(); first += instrumentsABlock) {
        KnownSum block;
        for (const double figure :
             figures.subspan(first, std::min(instrumentsABlock, figures.size() - first)))
            block.add(figure);
        all.add(block);
    }
    return valueOfTheDay(op, all);
}

} // namespace sieve::engine
