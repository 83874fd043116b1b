#include "core/market/instrument.h"

#include <array>
#include <utility>

namespace sieve::market {

namespace {

constexpr std::array<std::pair<InstrumentKind, std::string_view>, 5> kindNames{{
    {InstrumentKind::Share, "share"},
    {InstrumentKind::Fund, "fund"},
    {InstrumentKind::Trust, "trust"},
    {InstrumentKind::Receipt, "receipt"},
    {InstrumentKind::Index, "index"},
}};

} // namespace

std::string_view instrumentKindName(InstrumentKind kind)
{
    for (const auto& [each, name] : kindNames)
        if (each == kind)
            return name;
    return {};
}

std::optional<InstrumentKind> instrumentKindNamed(std::string_view name)
{
    for (const auto& [kind, each] : kindNames)
        if (each == name)
            return kind;
    return std::nullopt;
}

} // namespace sieve::market
