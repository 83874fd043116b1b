#pragma once

#include "core/base/day.h"

#include <cstdint>
#include <optional>
#include <string_view>

namespace sieve::market {

enum class ActionKind : std::uint32_t { Split, Dividend, SpinOff };

/// "split", "dividend", "spin-off": the words of the dataset.
std::string_view actionKindName(ActionKind kind);
std::optional<ActionKind> actionKindNamed(std::string_view name);

/// What a company did to its shares. The value of a split is the number of new shares for one old
/// (2 for 2:1, 0.1 for a reverse split of 10 into 1); of a dividend and of a spin-off, what was
/// handed out for each share, in the currency of the prices.
struct Action {
    Day exDate; ///< the first day on which a buyer no longer has a claim to it
    ActionKind kind = ActionKind::Split;
    double value = 1;

    friend bool operator==(const Action&, const Action&) = default;
};

struct Split {
    Day exDate;
    double ratio = 1;
};

} // namespace sieve::market
