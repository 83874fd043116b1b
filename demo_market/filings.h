#pragma once

#include "core/market/market.h"

#include <filesystem>
#include <span>

namespace sieve::demo_market {

/// Writes the statements of some companies in the form in which a regulator publishes them: flows
/// of cash as sums since the fiscal year began, restatements as amended filings. Errors:
/// std::system_error with the path.
void writeFilings(std::span<const market::InstrumentRecord* const> companies,
                  const std::filesystem::path& folder);

} // namespace sieve::demo_market
