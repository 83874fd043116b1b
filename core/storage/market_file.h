#pragma once

#include "core/base/progress.h"
#include "core/base/result.h"
#include "core/market/market.h"
#include "core/market/sessions.h"
#include "core/storage/file_aside.h"
#include "core/storage/mapped_file.h"

#include <cstdint>
#include <filesystem>
#include <memory>
#include <span>
#include <string>
#include <vector>

namespace sieve::storage {

// The market as one file of columns, mapped and not read: header, blocks of bars (instrument by
// instrument, each field one stretch), sections of rows, and a table of contents at the end. It is
// made from a dataset, checksummed throughout (XXH3), and of one version of this program's format
// and this machine's byte order: anything else is refused, and made again. The bytes depend on what
// the market holds alone.

/// Where the market's file lies in its folder.
std::filesystem::path marketFile(const std::filesystem::path& folder);

/// Some bars as the bytes that the file holds: stamps (days, or minutes of universal time), then
/// open, high, low, close, volume.
struct BarBlock {
    std::string bytes;
    std::uint64_t bars = 0;
    std::uint64_t checksum = 0;
};

/// Where a block lies in the file.
struct BlockPlace {
    std::uint64_t offset = 0;
    std::uint64_t bars = 0;
    std::uint64_t checksum = 0;
};

/// One bar on its way into the file.
struct StampedBar {
    std::int32_t stamp = 0; ///< serial of a Day or of a Minute
    double open = 0;
    double high = 0;
    double low = 0;
    double close = 0;
    double volume = 0;
};

/// The block of `count` bars, of which `barAt(i)` gives each.
/// Requires: stamps ascending without doubles.
/// `memory` is that of a block no longer needed: making many needs it only once.
template <class BarAt> BarBlock barBlock(std::size_t count, BarAt barAt, std::string memory = {});
BarBlock barBlock(const market::BarsView& bars);
BarBlock barBlock(const market::MinuteBarsView& bars);

/// A block's memory with its columns, and its checksum when they are filled.
class BlockInMaking {
public:
    explicit BlockInMaking(std::size_t bars, std::string memory = {});
    std::int32_t* stamps;
    double* open;
    double* high;
    double* low;
    double* close;
    double* volume;
    BarBlock finish() &&;

private:
    BarBlock block_;
};

template <class BarAt> BarBlock barBlock(std::size_t count, BarAt barAt, std::string memory)
{
    BlockInMaking block(count, std::move(memory));
    for (std::size_t i = 0; i < count; ++i) {
        const StampedBar& bar = barAt(i);
        block.stamps[i] = bar.stamp;
        block.open[i] = bar.open;
        block.high[i] = bar.high;
        block.low[i] = bar.low;
        block.close[i] = bar.close;
        block.volume[i] = bar.volume;
    }
    return std::move(block).finish();
}

/// Writes a market, instrument after instrument, beside the former one; `finish` puts it in place.
/// Errors: std::system_error with the path; the former market stays.
class MarketFileWriter {
public:
    explicit MarketFileWriter(const std::filesystem::path& folder);
    /// Adds the bars of the next instrument, by symbol; `adjustedCloses` stand beside the daily
    /// ones, or are none.
    void add(const BarBlock& daily, const BarBlock& minutes,
             std::span<const double> adjustedCloses = {});
    /// Adds all else and puts the file in place. The records' own bars are not looked at; their
    /// rows must be as market::sortRows leaves them. Requires: as many records as bars were added
    /// for, in the same order.
    void finish(const market::MarketDescription& description,
                std::span<const market::InstrumentRecord> records);

private:
    struct Section {
        std::string name;
        std::uint64_t offset = 0;
        std::uint64_t bytes = 0;
        std::uint64_t checksum = 0;
    };
    struct Table {
        std::string name;
        std::vector<std::uint64_t> ends{0}; ///< of each instrument's rows, after a leading 0
        std::string rows;
    };
    void add(const market::InstrumentRecord& record);
    template <class Row> void addRows(std::size_t table, std::span<const Row> rows);
    void addSection(const std::string& name, std::span<const std::byte> bytes);
    BlockPlace write(const BarBlock& block);
    BlockPlace write(std::span<const double> figures);

    FileAside file_;
    std::string instruments_;
    market::SessionDays sessions_;
    std::vector<BlockPlace> daily_;
    std::vector<BlockPlace> minutes_;
    std::vector<BlockPlace> adjustedCloses_;
    bool hasAdjustedCloses_ = false;
    std::vector<Table> tables_;
    std::vector<Section> sections_;
};

/// Sixteen digits that tell the folder's market file from every other one (the checksum of its
/// header, which covers that of the table of contents); empty when there is none.
std::string identityOf(const std::filesystem::path& folder);

/// Opens a folder's market. The table of contents and all that opening reads are held to their
/// checksums; bars and rows are not touched (verifyMarket does that).
/// Errors: no market there; another version; damage: each tells that it must be made again.
Result<market::MarketPtr> openMarket(const std::filesystem::path& folder);

/// The adjusted closes that came with a market's prices. They are no part of what is read of it:
/// later updates need them to see a split or a dividend between their bars and the former ones.
class AdjustedCloses {
public:
    AdjustedCloses() = default; ///< none
    /// Those of a folder's market, which openMarket opens.
    explicit AdjustedCloses(const std::filesystem::path& folder);
    /// Beside each daily bar of the instrument, or none.
    std::span<const double> of(std::size_t instrument) const;
    bool isSound(std::size_t instrument) const; ///< they keep their checksum
    /// Instruments from the first on that may have some; none after them has.
    std::size_t count() const { return places_.size(); }

private:
    std::shared_ptr<const MappedFile> file_;
    std::span<const BlockPlace> places_;
};

/// Holds every byte of the folder's market to its checksum.
/// Errors: as openMarket, and damage anywhere. Stopped when told to.
Result<std::uint64_t> verifyMarket(const std::filesystem::path& folder,
                                   const Progress& progress = {});

} // namespace sieve::storage
