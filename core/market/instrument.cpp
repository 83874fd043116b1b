#include "core/market/instrument.h"

#include "core/base/words.h"

#include <algorithm>

namespace sieve::market {

namespace {
constexpr Words<InstrumentKind, 5> instrumentKinds{{{{InstrumentKind::Share, "share"},
                                                     {InstrumentKind::Fund, "fund"},
                                                     {InstrumentKind::Trust, "trust"},
                                                     {InstrumentKind::Receipt, "receipt"},
                                                     {InstrumentKind::Index, "index"}}}};
} // namespace

std::string_view instrumentKindName(InstrumentKind kind)
{
    return instrumentKinds.word(kind);
}

std::optional<InstrumentKind> instrumentKindNamed(std::string_view name)
{
    return instrumentKinds.value(name);
}

const std::string& symbolOn(const Instrument& instrument, Day day)
{
    for (const FormerSymbol& former : instrument.formerSymbols)
        if (day < former.until)
            return former.symbol;
    return instrument.symbol;
}

bool isMember(const Instrument& instrument, std::string_view index, Day day)
{
    return std::ranges::any_of(instrument.memberships, [&](const Membership& stay) {
        return stay.index == index && stay.from <= day && (!stay.until || day < *stay.until);
    });
}

bool hasCurrency(const Instrument& instrument)
{
    return !instrument.currency.empty() && instrument.kind != InstrumentKind::Index;
}

} // namespace sieve::market
