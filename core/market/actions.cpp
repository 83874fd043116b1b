#include "core/market/actions.h"

#include "core/base/words.h"

namespace sieve::market {

namespace {
constexpr Words<ActionKind, 3> actionKinds{{{{ActionKind::Split, "split"},
                                             {ActionKind::Dividend, "dividend"},
                                             {ActionKind::SpinOff, "spin-off"}}}};
} // namespace

std::string_view actionKindName(ActionKind kind)
{
    return actionKinds.word(kind);
}

std::optional<ActionKind> actionKindNamed(std::string_view name)
{
    return actionKinds.value(name);
}

} // namespace sieve::market
