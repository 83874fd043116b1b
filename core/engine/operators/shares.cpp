#include "core/engine/operators/facts.h"
#include "core/market/as_of.h"

#include <array>

namespace sieve::engine {

namespace {

/// One of the three counts of shares, on the footing asked for.
template <auto count>
bool shareCount(Series& series, const Run& run, std::size_t from, std::size_t to)
{
    Facts facts(series, run, from, to);
    return facts.whileKnown(
        [&](Day day) {
            const auto known = market::sharesOn(facts.market, facts.instrument, day);
            return known ? (*known).*count / facts.factorOf(known->date) : missing;
        },
        [&](const auto& consider) {
            for (const market::ShareCount& row : facts.market.shares(facts.instrument)) {
                consider(row.date);
                consider(row.knownOn);
            }
        });
}

ValueDates shareDates(const Node&, const market::Market& market, std::size_t instrument, Day day)
{
    const auto known = market::sharesOn(market, instrument, day);
    if (!known)
        return {};
    return {.day = {}, .periodEnd = known->date, .knownOn = known->knownOn};
}

/// of(row) of the owners that were known.
template <class Of>
bool owners(Series& series, const Run& run, std::size_t from, std::size_t to, Of of)
{
    Facts facts(series, run, from, to);
    const auto kind = static_cast<market::OwnerKind>(facts.node.item);
    return facts.whileKnown(
        [&](Day day) {
            const auto row =
                market::ownersOn(facts.market, facts.instrument, kind, facts.node.count, day);
            return row ? of(*row) : missing;
        },
        [&](const auto& consider) {
            for (const market::OwnerRow& row : facts.market.owners(facts.instrument))
                consider(row.knownOn);
        });
}

bool held(Series& series, const Run& run, std::size_t from, std::size_t to)
{
    return owners(series, run, from, to, [](const market::OwnerRow& row) { return row.share; });
}

bool holders(Series& series, const Run& run, std::size_t from, std::size_t to)
{
    return owners(series, run, from, to, [](const market::OwnerRow& row) {
        return row.holders < 0 ? missing : static_cast<double>(row.holders);
    });
}

ValueDates ownerDates(const Node& node, const market::Market& market, std::size_t instrument,
                      Day day)
{
    const auto known = market::ownersOn(market, instrument,
                                        static_cast<market::OwnerKind>(node.item), node.count, day);
    if (!known)
        return {};
    return {.day = {}, .periodEnd = known->asOf, .knownOn = known->knownOn};
}

constexpr std::array ownerParameters{Parameter{"kind", Accepts::Owner},
                                     Parameter{"back", Accepts::Whole, 0.0, 0, 80}};

constexpr std::array rows{
    Operator{.op = Op::SharesOutstanding,
             .family = Family::Data,
             .fill = shareCount<&market::ShareCount::outstanding>,
             .dates = shareDates},
    Operator{.op = Op::FreeFloat,
             .family = Family::Data,
             .fill = shareCount<&market::ShareCount::freeFloat>,
             .dates = shareDates},
    Operator{.op = Op::ShortInterest,
             .family = Family::Data,
             .fill = shareCount<&market::ShareCount::shortInterest>,
             .dates = shareDates},
    Operator{.op = Op::Held,
             .family = Family::Data,
             .name = "held",
             .help = "Share of all shares that a kind of owner holds",
             .parameters = ownerParameters,
             .unit = Unit::Percent,
             .fill = held,
             .dates = ownerDates},
    Operator{.op = Op::Holders,
             .family = Family::Data,
             .name = "holders",
             .help = "How many owners of a kind there are",
             .parameters = ownerParameters,
             .fill = holders,
             .dates = ownerDates},
};

} // namespace

std::span<const Operator> shareOperators()
{
    return rows;
}

} // namespace sieve::engine
