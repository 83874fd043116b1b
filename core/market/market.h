#pragma once

// What is known of an exchange's instruments, and when it became known:
//   instrument.h  who is listed           bars.h        what was traded, as traded
//   statements.h  what companies filed    text_table.h  the texts of instruments, by number
//   market.h      all of it, immutable    as_of.h       what was known on one day
// A `Market` never changes once made, so any number of threads read it without a lock.

#include "core/base/base.h"
#include "core/market/bars.h"
#include "core/market/instrument.h"
#include "core/market/statements.h"
#include "core/market/text_table.h"

#include <array>
#include <cstdint>
#include <map>
#include <memory>
#include <optional>
#include <span>
#include <string>
#include <string_view>
#include <vector>

namespace sieve::market {

/// A row of shares.csv: counts as of `date`, known from that day on.
struct ShareCount {
    Day date;
    double outstanding = missing;
    double freeFloat = missing;     ///< shares
    double shortInterest = missing; ///< shares
};

/// All that the dataset tells of one instrument. Splits, dividends and counts run by date.
struct InstrumentRecord {
    Instrument instrument;
    Bars bars;
    std::vector<Split> splits;
    std::vector<Dividend> dividends;
    std::vector<ShareCount> shares;
    std::vector<StatementRow> statements;
};

struct MarketDescription {
    std::string name;
    std::string version;
    std::string currency;
    std::string benchmark; ///< symbol; empty when the dataset names none
};

enum class BarField { Open, High, Low, Close, Volume };
enum class TextField { Symbol, Name, Exchange, Kind, Sector, Industry, Currency };
inline constexpr std::size_t textFieldCount = 7;

class Market {
public:
    /// Takes the records as they are, by symbol order; bars must be oldest first without doubles.
    Market(MarketDescription description, std::vector<InstrumentRecord> records);

    const MarketDescription& description() const { return description_; }
    std::size_t size() const { return listings_.size(); } ///< instruments, delisted ones too
    std::optional<std::size_t> find(std::string_view symbol) const;

    const Instrument& instrument(std::size_t at) const { return listing(at).record.instrument; }
    const Bars& bars(std::size_t at) const { return listing(at).record.bars; } ///< as traded
    std::span<const Split> splits(std::size_t at) const { return listing(at).record.splits; }
    std::span<const Dividend> dividends(std::size_t at) const
    {
        return listing(at).record.dividends;
    }
    std::span<const ShareCount> shares(std::size_t at) const { return listing(at).record.shares; }
    const Statements& statements(std::size_t at) const { return listing(at).statements; }

    const TextTable& texts() const { return texts_; }
    std::uint32_t text(std::size_t at, TextField field) const;

    /// Every day on which anything traded, ascending.
    std::span<const Day> sessions() const { return sessions_; }
    /// The newest session on or before `day`; the first one when `day` lies before all.
    Day sessionOnOrBefore(Day day) const;

    /// How many of the instrument's splits had taken effect by a bar: its *footing*. Prices of bars
    /// on one footing compare as they stand.
    std::size_t footing(std::size_t at, std::size_t bar) const;
    /// What a price of `day` is multiplied by to stand on `footing` (volumes are divided by it).
    double priceFactor(std::size_t at, Day day, std::size_t footing) const;
    /// Writes a field of bars [from, from + out.size()) as seen on `footing`.
    void adjusted(std::size_t at, BarField field, std::size_t footing, std::size_t from,
                  std::span<double> out) const;

private:
    struct Listing {
        InstrumentRecord record;
        Statements statements;
        std::vector<std::size_t> splitBars; ///< first bar on or after each split
        std::array<std::uint32_t, textFieldCount> texts{};
    };
    const Listing& listing(std::size_t at) const { return listings_.at(at); }

    MarketDescription description_;
    std::vector<Listing> listings_;
    std::map<std::string, std::size_t, std::less<>> bySymbol_;
    std::vector<Day> sessions_;
    TextTable texts_;
};

using MarketPtr = std::shared_ptr<const Market>;

} // namespace sieve::market
