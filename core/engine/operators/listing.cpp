#include "core/drawings/stock.h"
#include "core/drawings/time_line.h"
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

bool onList(Facts& facts)
{
    std::vector<const ListMembers::Stay*> own;
    for (const ListMembers::Stay& stay : facts.node.list->stays)
        if (market::wasCalled(facts.market, facts.instrument, stay.symbol, stay.from))
            own.push_back(&stay);
    return facts.eachDay([&](Day day) {
        const bool isOn = std::ranges::any_of(own, [day](const ListMembers::Stay* stay) {
            return stay->from <= day && (!stay->until || day < *stay->until);
        });
        return isOn ? 1.0 : 0.0;
    });
}

/// What the person answered last by the bar's day; missing before the first answer.
bool answered(Facts& facts)
{
    std::vector<const PersonsAnswers::Answer*> own;
    for (const PersonsAnswers::Answer& answer : facts.node.answers->answers)
        if (market::wasCalled(facts.market, facts.instrument, answer.symbol, answer.on))
            own.push_back(&answer);
    return facts.eachDay([&](Day day) {
        double said = missing;
        for (const PersonsAnswers::Answer* answer : own)
            if (answer->on <= day)
                said = !answer->isYes ? missing : *answer->isYes ? 1.0 : 0.0;
        return said;
    });
}

/// The price across the person's drawing of that name on the bar's day; none before it was drawn.
bool drawn(Facts& facts)
{
    const drawings::Drawing* own = drawingOf(*facts.node.drawings, facts.market, facts.instrument);
    if (!own)
        return facts.all(missing);
    const market::Bars daily =
        market::barsOnFooting(facts.market, facts.instrument, facts.footing(),
                              facts.market.bars(facts.instrument).size());
    const drawings::Drawn lines(onFooting(*own, facts.market, facts.instrument, facts.footing()),
                                daily);
    return facts.eachDay([&](Day day) {
        const std::size_t bars = drawings::upTo(daily.days, day).size();
        return bars == 0 || day < own->drawnOn
                   ? missing
                   : lines.value(facts.node.number, static_cast<double>(bars - 1));
    });
}

constexpr std::array quotedName{Parameter{"name", Accepts::Quoted}};

constexpr std::array drawingParameters{
    Parameter{"name", Accepts::Quoted},
    Parameter{
        .name = "share", .accepts = Accepts::Factor, .initial = 0.0, .least = -100, .most = 100}};

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
    Operator{.op = Op::Answered, .family = Family::Data, .fill = ofFacts<answered>},
    Operator{.op = Op::Drawing,
             .family = Family::Data,
             .name = "drawing",
             .help =
                 "Price of your drawing of that name on the stock, at a share across it (0: its "
                 "first line), from the day on which it was drawn",
             .parameters = drawingParameters,
             .unit = Unit::Money,
             .fill = ofFacts<drawn>},
};

} // namespace

std::span<const Operator> listingOperators()
{
    return listingRows;
}

} // namespace sieve::engine
