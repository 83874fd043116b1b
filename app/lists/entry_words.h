#pragma once

#include "app/look/tone.h"
#include "core/watchlists/list_told.h"
#include "core/watchlists/market_call.h"

#include <QString>
#include <optional>

namespace sieve::app {

// How entries, states and positions are said, in the table and on the page.

/// Of the state alone: "near", "target 2 reached".
QString stateText(watchlists::PlanState state, std::size_t target = 0);
/// Of an entry in a cell: the state, and since when; what the market says where the stock is held.
QString stateText(const watchlists::EntryTold& told,
                  const std::optional<watchlists::MarketCall>& call, Day asOf);
/// In sentences, with distances, rules and days.
QString stateSentence(const watchlists::EntryTold& told, const market::Market& market,
                      const std::optional<watchlists::MarketCall>& call);
Tone toneOf(watchlists::PlanState state);

QString signText(watchlists::Sign sign); ///< its shape as a word
/// What is held of a list in all, against the account and the stance (missing: not known).
QString holdingsText(const watchlists::Holdings& holdings, const watchlists::PlanTerms& terms,
                     const std::string& currency, double stance);
/// What was bought and sold of an entry and what it came to.
QString positionText(const watchlists::Position& position);

} // namespace sieve::app
