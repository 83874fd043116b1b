#pragma once

#include "core/market/market.h"

#include <cstdint>
#include <filesystem>
#include <string>
#include <string_view>
#include <vector>

namespace sieve::demo_market {

/// Changes whenever the generator's bytes do, so that a kept market is made again.
inline constexpr std::string_view generatorVersion = "6";

/// Something that the market was promised to hold, and where it can be found.
struct Situation {
    std::string what;
    std::string symbol;
    Day day;
};

struct DemoMarket {
    market::MarketDescription description;
    std::vector<market::InstrumentRecord> records; ///< by symbol
    std::vector<Situation> situations;             ///< by what they are
};

/// How much of the isles is made: all of it, or a part that tests can make in a moment.
enum class Extent { Whole, Small };

/// Makes the Vellan Isles up: ten years of sessions to 30 September 2026 (six in the small extent).
/// The same seed gives the same market on every machine.
DemoMarket makeMarket(std::uint64_t seed, Extent extent = Extent::Whole);

/// Writes a market as an open dataset into a folder that it makes or empties of its own files, with
/// minute bars of the last `minuteSessions` sessions of the most traded.
/// Errors: std::system_error with the path.
void writeDataset(const DemoMarket& market, const std::filesystem::path& folder,
                  std::size_t minuteSessions = 60);

/// The situations as the page docs/demo-market.md.
std::string mapOf(const DemoMarket& market);

} // namespace sieve::demo_market
