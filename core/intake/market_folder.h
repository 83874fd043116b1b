#pragma once

#include "core/base/result.h"
#include "core/intake/intake_report.h"
#include "core/intake/price_layout.h"

#include <filesystem>
#include <optional>
#include <string>
#include <vector>

namespace sieve::intake {

// A market's folder: market.sieve (storage/market_file.h), sources.toml, report.json, and
// mapping.toml when prices needed one.

/// One source that went into a market.
struct TakenSource {
    std::filesystem::path path;
    std::string fingerprint;
    bool isUpdate = false;

    friend bool operator==(const TakenSource&, const TakenSource&) = default;
};

/// The sources of the folder's market in the order in which they were taken in; none when unknown.
std::vector<TakenSource> sourcesOf(const std::filesystem::path& market);
std::optional<PriceLayout> mappingOf(const std::filesystem::path& market);

/// Errors: std::system_error with the path.
void writeSources(const std::filesystem::path& market, const std::vector<TakenSource>& sources);
void writeMapping(const std::filesystem::path& market, const PriceLayout& layout);
void writeReport(const std::filesystem::path& market, const IntakeReport& report);

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
