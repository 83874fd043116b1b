#pragma once

#include "core/base/result.h"
#include "core/watchlists/trade_plan.h"

#include <string>
#include <string_view>

namespace sieve::watchlists {

/// What a person settled on for all plans.
struct TradingTerms {
    PlanTerms plan = {};
    double near = 0.03;   ///< of the entry: so close to it a price is near
    double tooFar = 0.05; ///< of the entry: so far above it one does not run after the price
    /// The title of the market's rule that says when to leave the market: it does while the rule is
    /// off (one to stand aside: while it is on). Empty: the market does when no money may be at
    /// work.
    std::string leavingRule = {};

    friend bool operator==(const TradingTerms&, const TradingTerms&) = default;
};

/// As TOML, and back.
/// Errors: located: no TOML, an unknown key, an account or share that is not above zero.
std::string toToml(const TradingTerms& terms);
Result<TradingTerms> tradingTermsFromToml(std::string_view toml);

} // namespace sieve::watchlists
