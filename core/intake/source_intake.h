#pragma once

#include "core/base/progress.h"
#include "core/base/result.h"
#include "core/intake/price_layout.h"
#include "core/intake/source.h"
#include "core/market/market.h"
#include "core/storage/market_file.h"

#include <cstdint>
#include <filesystem>
#include <optional>

namespace sieve::intake {

/// One source on its way into a market file.
struct SourceToTake {
    Source source;
    std::filesystem::path name; ///< of the source, as messages tell it
    std::optional<PriceLayout> mapping;
    market::MarketPtr former;               ///< the market to which it is added; null: none
    storage::AdjustedCloses formerAdjusted; ///< of that market
    Day takenOn;                            ///< the day on which it was first taken in
    std::filesystem::path into;             ///< the folder of the new market file, which is there
};

struct TakenBars {
    IntakeReport report;
    std::uint64_t bars = 0; ///< daily ones of the new market
};

/// Reads the source, adds it to the former market and writes the market file of both.
/// Errors:  no prices there, or none that could be taken; of an addition: nothing could be taken.
///          std::system_error with the path when a file cannot be read or written; Stopped.
/// Threads: works in parallel inside.
Result<TakenBars> takeSource(const SourceToTake& request, const Progress& progress);

} // namespace sieve::intake
