#pragma once

#include "core/conditions/reading.h"
#include "core/watchlists/trading_terms.h"

#include <optional>
#include <string>

namespace sieve::watchlists {

/// Whether the market itself says to leave, by the rule that the person chose for that.
struct MarketCall {
    bool saysLeave = false;
    std::optional<Day> since = {}; ///< since when it has said what it says
    std::string rule = {};         ///< the rule's title; empty: no money may be at work
};

/// As of a day. Nothing is said (empty) where nothing is known of the rule by the day, or it is no
/// longer among the market's rules.
std::optional<MarketCall> marketCallOn(const conditions::Reading& reading,
                                       const TradingTerms& terms, Day day);

} // namespace sieve::watchlists
