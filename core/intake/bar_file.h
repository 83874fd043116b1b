#pragma once

#include "core/base/progress.h"
#include "core/intake/byte_source.h"
#include "core/intake/intake_report.h"
#include "core/intake/price_layout.h"
#include "core/market/actions.h"
#include "core/storage/market_file.h"

#include <cstdint>
#include <filesystem>
#include <functional>
#include <span>
#include <string>
#include <string_view>
#include <vector>

namespace sieve::intake {

enum class BarScale { Daily, Minute };

/// A bar with the place that it was read at.
struct ReadBar {
    storage::StampedBar bar;
    double adjustedClose = missing;
    std::uint32_t file = 0; ///< its number among the files of the intake
    std::uint32_t line = 0; ///< 0: it stands in the former market
};

/// A dividend or a split that a column beside the prices tells, with the place that it was read at.
struct ReadAction {
    market::Action action;
    std::uint32_t file = 0;
    std::uint32_t line = 0;
};

/// A file of bars, as the report names it and where it lies.
struct BarFile {
    std::filesystem::path path;
    std::string name; ///< within the dataset
    BarScale scale = BarScale::Daily;
    std::uint32_t number = 0; ///< among the files of the intake
    PriceLayout layout;

    bool hasColumn(PriceColumn column) const { return !layout.heading(column).empty(); }
    bool hasSymbols() const { return hasColumn(PriceColumn::Symbol); }
    /// What the file's name tells, when it has no column for it.
    std::string symbol() const { return hasSymbols() ? std::string() : tableName(path); }
};

/// Memory that a reading thread uses again for the next file.
using ReadBuffer = std::vector<char>;

/// Reads a file row by row and appends each good bar to `bars`, and what its columns of dividends
/// and splits tell to `actions`. Each row that is no possible bar is left out and reported
/// (docs/dataset.md lists the rules).
/// Errors: std::system_error with the path; Stopped.
void readBars(const BarFile& file, IntakeReport& report, const Progress& progress,
              ReadBuffer& memory, std::vector<ReadBar>& bars, std::vector<ReadAction>& actions);

/// The same for a file in which symbols stand mixed: gives each bar with its symbol and what its
/// row tells of actions to `take`.
using TakeMixedBar =
    std::function<void(std::string_view symbol, const ReadBar&, std::span<const ReadAction>)>;
void readMixedBars(const BarFile& file, IntakeReport& report, const Progress& progress,
                   ReadBuffer& memory, const TakeMixedBar& take);

} // namespace sieve::intake
