#pragma once

#include "core/base/toml_table.h"
#include "core/watchlists/trade_plan.h"

namespace sieve::watchlists {

/// A plan as it stands inside another thing's TOML. Errors: TomlFault, see tradePlanFromToml.
TradePlan readPlan(const toml::table& table);

} // namespace sieve::watchlists
