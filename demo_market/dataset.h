#pragma once

#include "core/market/market.h"

#include <cstdint>
#include <filesystem>
#include <string_view>
#include <vector>

namespace sieve::demo_market {

/// Changes whenever the generator's bytes do, so that a kept market is made again.
inline constexpr std::string_view generatorVersion = "1";

struct DemoMarket {
    market::MarketDescription description;
    std::vector<market::InstrumentRecord> records;
};

/// Makes the Vellan Isles up: six years of sessions to 30 September 2026. The same seed gives the
/// same market on every machine.
DemoMarket makeMarket(std::uint64_t seed);

/// Writes a market as an open dataset into a folder that it makes or empties of its own files.
/// Errors: std::system_error with the path.
void writeDataset(const DemoMarket& market, const std::filesystem::path& folder);

} // namespace sieve::demo_market
