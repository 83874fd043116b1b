#pragma once

#include "core/engine/target_plan.h"

#include <span>

namespace sieve::engine {

/// The same question with money brought to the market's currency wherever an instrument's own meets
/// that of others. Asked of a market in which all have one currency, both give the same values.
///
/// Converted, at the rate of the bar's day:
///   - what goes across stocks: a percentile, rank or median of money, or of what is computed from
///     money alone, such as log(market_cap);
///   - what is read of another instrument, such as benchmark(close);
///   - money that is compared with, added to or set against such a figure, or against an amount
///     that is written as a number: `close > 10` means ten units of the market's currency.
/// Left in the instrument's own: money compared with other money of the same instrument, and what
/// has no currency: ratios, percentages, counts.
TargetPlan inOneCurrency(const Plan& plan, std::span<const NodeId> targets);

/// Whether a part's values depend on exchange rates, where there are several currencies.
bool dependsOnRates(const Plan& plan, NodeId id);

/// A figure as it is compared with those of other stocks: money in the market's currency; any other
/// as it stands.
NodeId inMarketCurrency(Plan& plan, NodeId id);

} // namespace sieve::engine
