#include "core/engine/operators/facts.h"
#include "core/market/as_of.h"

#include <array>

namespace sieve::engine {

namespace {

/// One of the three counts of shares, on the footing asked for.
template <auto count> bool shareCount(Facts& facts)
{
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
    return datesOf(market::sharesOn(market, instrument, day), &market::ShareCount::date);
}

/// One figure of the owners that were known.
template <double (*figure)(const market::OwnerRow&)> bool owners(Facts& facts)
{
    const auto kind = static_cast<market::OwnerKind>(facts.node.item);
    return facts.whileKnown(
        [&](Day day) {
            const auto row =
                market::ownersOn(facts.market, facts.instrument, kind, facts.node.count, day);
            return row ? figure(*row) : missing;
        },
        [&](const auto& consider) {
            for (const market::OwnerRow& row : facts.market.owners(facts.instrument))
                consider(row.knownOn);
        });
}

double held(const market::OwnerRow& row)
{
    return row.share;
}

double holders(const market::OwnerRow& row)
{
    return row.holders < 0 ? missing : row.holders;
}

ValueDates ownerDates(const Node& node, const market::Market& market, std::size_t instrument,
                      Day day)
{
    const auto kind = static_cast<market::OwnerKind>(node.item);
    return datesOf(market::ownersOn(market, instrument, kind, node.count, day),
                   &market::OwnerRow::asOf);
}

constexpr std::array ownerParameters{Parameter{"kind", Accepts::Owner},
                                     Parameter{"back", Accepts::Whole, 0.0, 0, 80}};

constexpr std::array shareRows{
    Operator{.op = Op::SharesOutstanding,
             .family = Family::Data,
             .fill = ofFacts<shareCount<&market::ShareCount::outstanding>>,
             .dates = shareDates},
    Operator{.op = Op::FreeFloat,
             .family = Family::Data,
             .fill = ofFacts<shareCount<&market::ShareCount::freeFloat>>,
             .dates = shareDates},
    Operator{.op = Op::ShortInterest,
             .family = Family::Data,
             .fill = ofFacts<shareCount<&market::ShareCount::shortInterest>>,
             .dates = shareDates},
    Operator{.op = Op::Held,
             .family = Family::Data,
             .name = "held",
             .help = "Share of all shares that a kind of owner holds",
             .parameters = ownerParameters,
             .unit = Unit::Percent,
             .fill = ofFacts<owners<held>>,
             .dates = ownerDates},
    Operator{.op = Op::Holders,
             .family = Family::Data,
             .name = "holders",
             .help = "How many owners of a kind there are",
             .parameters = ownerParameters,
             .fill = ofFacts<owners<holders>>,
             .dates = ownerDates},
};

} // namespace

std::span<const Operator> shareOperators()
{
    return shareRows;
}

} // namespace sieve::engine
