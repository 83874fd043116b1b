#pragma once

#include "core/base/result.h"
#include "core/market/market.h"

#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace sieve::watchlists {

/// Whom a stock is set beside, chosen by hand.
struct ChosenPeers {
    std::string of; ///< the symbol that it bore on `on`
    Day on = Day::fromSerial(0);
    std::vector<std::string> symbols; ///< borne on `on`, too

    friend bool operator==(const ChosenPeers&, const ChosenPeers&) = default;
};

/// A stock about which the person wants to hear what is new.
struct Followed {
    std::string of; ///< the symbol that it bore on `on`
    Day on = Day::fromSerial(0);
    Day seenTo = Day::fromSerial(0); ///< all up to this day was seen

    friend bool operator==(const Followed&, const Followed&) = default;
};

/// What a person settled on for weighing candidates.
struct Weighing {
    /// A few words each, given by a key; the review counts by them.
    std::vector<std::string> reasons;
    std::vector<ChosenPeers> peers;      ///< one a stock
    std::vector<Followed> followed = {}; ///< in the order in which they came, each stock once

    friend bool operator==(const Weighing&, const Weighing&) = default;
};

/// That of somebody who has settled on nothing.
Weighing standardWeighing();

/// Those chosen for a stock; null: none were.
const ChosenPeers* peersOf(const Weighing& weighing, const market::Market& market,
                           std::size_t stock);
/// Puts them in the place of those chosen before; none: the proposed ones are shown again.
void choosePeers(Weighing& weighing, const market::Market& market, std::size_t stock, Day day,
                 std::vector<std::string> symbols);

bool isFollowed(const Weighing& weighing, const market::Market& market, std::size_t stock);
/// Follows a stock from a day on, or no longer.
void follow(Weighing& weighing, const market::Market& market, std::size_t stock, Day day,
            bool isFollowed);

/// As TOML, and back.
/// Errors: located: no TOML, a key that is unknown, peers or a followed stock without a symbol or
///         day.
std::string toToml(const Weighing& weighing);
Result<Weighing> weighingFromToml(std::string_view toml);

} // namespace sieve::watchlists
