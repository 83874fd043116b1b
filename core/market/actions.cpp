#include "core/market/actions.h"

#include "core/market/words.h"

namespace sieve::market {

namespace {
constexpr Words<ActionKind, 3> kinds{{{{ActionKind::Split, "split"},
                                       {ActionKind::Dividend, "dividend"},
                                       {ActionKind::SpinOff, "spin-off"}}}};
} // namespace

std::string_view actionKindName(ActionKind kind)
{
    return kinds.word(kind);
}

std::optional<ActionKind> actionKindNamed(std::string_view name)
{
    return kinds.value(name);
}

} // namespace sieve::market
