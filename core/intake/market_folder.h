#pragma once

#include "core/base/day.h"
#include "core/base/result.h"
#include "core/intake/intake_report.h"
#include "core/intake/price_layout.h"

#include <cstdint>
#include <filesystem>
#include <optional>
#include <string>
#include <vector>

namespace sieve::intake {

// A market's folder:
//   sources.toml     what the market is made from; it holds, whatever else lies there
//   market.sieve     the market (storage/market_file.h)
//   report.json      what the newest intake found
//   looked_through   which market file was last held to all of its checksums
//   base/            the market before its first update, when there is one
//   updates/0001 …   the files of each update as they were taken in
//   making/          while a market is made
// The market is a function of sources.toml: one that is not the one named there is made again.

/// One source that went into a market.
struct TakenSource {
    std::filesystem::path path; ///< where it lay
    bool isUpdate = false;
    std::optional<Day> takenOn;         ///< the day on which it was taken in
    std::string fingerprint;            ///< of its files there (source.h)
    std::uint64_t files = 0;            ///< how many these were
    std::uint64_t bars = 0;             ///< daily ones that the market held after it
    std::string market;                 ///< identity of the market after it
    std::string kept;                   ///< of an update: its folder within the market's
    std::string checksum;               ///< of the files there (kept_files.h)
    std::optional<PriceLayout> mapping; ///< how its prices were read, if that was said

    friend bool operator==(const TakenSource&, const TakenSource&) = default;
};

/// The sources of the folder's market in the order in which they were taken in; none when unknown.
std::vector<TakenSource> sourcesOf(const std::filesystem::path& market);

/// Errors: std::system_error with the path.
void writeSources(const std::filesystem::path& market, const std::vector<TakenSource>& sources);
void writeReport(const std::filesystem::path& market, const IntakeReport& report);

/// Whether the folder's market file is the one that was last looked through, and has not been
/// written since.
bool isLookedThrough(const std::filesystem::path& market);
/// Remembers it so; where the folder cannot be written, it is looked through again the next time.
void setLookedThrough(const std::filesystem::path& market);

/// Held while a market is made, so that two programs do not write it at once.
class FolderLock {
public:
    /// Makes the folder when it is not there.
    explicit FolderLock(const std::filesystem::path& market);
    ~FolderLock();
    FolderLock(const FolderLock&) = delete;
    FolderLock& operator=(const FolderLock&) = delete;
    bool isHeld() const { return isHeld_; }

private:
    int descriptor_ = -1;
    bool isHeld_ = false;
};

} // namespace sieve::intake
