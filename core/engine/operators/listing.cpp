#include "core/engine/operators/facts.h"
#include "core/market/as_of.h"

#include <array>

namespace sieve::engine {

namespace {

bool textField(Facts& facts)
{
    const std::uint32_t number = facts.market.text(facts.instrument, facts.node.textField);
    return facts.all(number == 0 ? missing : static_cast<double>(number));
}

bool symbol(Facts& facts)
{
    const market::TextTable& texts = facts.market.texts();
    const market::Instrument& own = facts.listing();
    if (own.formerSymbols.empty())
        return facts.all(texts.figureOf(own.symbol));
    return facts.eachDay([&](Day day) { return texts.figureOf(symbolOn(own, day)); });
}

bool listedOn(Facts& facts)
{
    const std::optional<Day> day = facts.listing().listedOn;
    return facts.all(day ? day->serial() : missing);
}

bool offerPrice(Facts& facts)
{
    const market::Instrument& listing = facts.listing();
    return facts.all(listing.offerPrice *
                     facts.factorOf(listing.listedOn.value_or(facts.firstDay())));
}

bool optionable(Facts& facts)
{
    return facts.all(facts.listing().optionable ? 1.0 : 0.0);
}

bool shortable(Facts& facts)
{
    return facts.all(facts.listing().shortable ? 1.0 : 0.0);
}

bool inIndex(Facts& facts)
{
    return facts.eachDay([&](Day day) {
        return market::isMember(facts.listing(), facts.node.text, day) ? 1.0 : 0.0;
    });
}

/// Whether a stay is this instrument's. Two may have borne its symbol, one after the other; the
/// market is asked only where the symbol fits, since a list may be long.
bool isStayOf(const Facts& facts, const ListMembers::Stay& stay)
{
    const market::Instrument& own = facts.listing();
    const bool fits = own.symbol == stay.symbol ||
                      std::ranges::find(own.formerSymbols, stay.symbol,
                                        &market::FormerSymbol::symbol) != own.formerSymbols.end();
    return fits && facts.market.find(stay.symbol, stay.from) == facts.instrument;
}

bool onList(Facts& facts)
{
    std::vector<const ListMembers::Stay*> own;
    for (const ListMembers::Stay& stay : facts.node.list->stays)
        if (isStayOf(facts, stay))
            own.push_back(&stay);
    return facts.eachDay([&](Day day) {
        const bool isOn = std::ranges::any_of(own, [day](const ListMembers::Stay* stay) {
            return stay->from <= day && (!stay->until || day < *stay->until);
        });
        return isOn ? 1.0 : 0.0;
    });
}

constexpr std::array quotedName{Parameter{"name", Accepts::Quoted}};

constexpr std::array listingRows{
    Operator{.op = Op::TextField,
             .family = Family::Data,
             .fill = ofFacts<textField>,
             .isSteady = true,
             .cost = 0.0},
    Operator{.op = Op::Symbol, .family = Family::Data, .fill = ofFacts<symbol>},
    Operator{.op = Op::ListedOn, .family = Family::Data, .fill = ofFacts<listedOn>},
    Operator{.op = Op::OfferPrice, .family = Family::Data, .fill = ofFacts<offerPrice>},
    Operator{.op = Op::Optionable, .family = Family::Data, .fill = ofFacts<optionable>},
    Operator{.op = Op::Shortable, .family = Family::Data, .fill = ofFacts<shortable>},
    Operator{.op = Op::InIndex,
             .family = Family::Data,
             .name = "in_index",
             .help = "Whether the stock was a member of an index",
             .parameters = quotedName,
             .kind = Kind::YesNo,
             .fill = ofFacts<inIndex>},
    Operator{.op = Op::OnList,
             .family = Family::Data,
             .name = "on_list",
             .help = "Whether the stock was on one of your lists",
             .parameters = quotedName,
             .kind = Kind::YesNo,
             .fill = ofFacts<onList>},
};

} // namespace

std::span<const Operator> listingOperators()
{
    return listingRows;
}

} // namespace sieve::engine
