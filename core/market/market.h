#pragma once

// What is known of an exchange's instruments, and when it became known:
//   instrument.h     who is listed         exchange.h   where, and when it trades
//   bars.h           what was traded       actions.h    splits, dividends, spin-offs
//   currency.h       exchange rates
//   statements.h     what companies filed  company_facts.h  shares, owners, estimates, dates
//   notices.h        news and ratings      text_table.h the texts of instruments, by number
//   market.h         all of it, immutable  as_of.h      what was known on one day
// A `Market` never changes once made, so any number of threads read it without a lock. Its columns
// are spans: over a mapped file (storage/market_file.h) or over records in memory.

#include "core/base/base.h"
#include "core/market/actions.h"
#include "core/market/bars.h"
#include "core/market/company_facts.h"
#include "core/market/currency.h"
#include "core/market/exchange.h"
#include "core/market/instrument.h"
#include "core/market/notices.h"
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

/// All that the dataset tells of one instrument but its minute bars. All rows run by date.
struct InstrumentRecord {
    Instrument instrument;
    Bars bars;
    std::vector<Action> actions;
    std::vector<ShareCount> shares;
    std::vector<StatementRow> statements;
    std::vector<EstimateRow> estimates;
    std::vector<OwnerRow> owners;
    std::vector<CalendarEntry> calendar;
    Notices notices;
};

/// Puts every kind of row in the one order that markets hold them in, so that equal knowledge is
/// equal bytes. Bars are left alone.
void sortRows(InstrumentRecord& record);

/// The same as spans over memory that somebody else keeps. What most questions ask for stands last,
/// close together.
struct InstrumentView {
    Instrument instrument;
    MinuteBarsView minuteBars;
    std::span<const Action> actions;
    std::span<const ShareCount> shares;
    std::span<const EstimateRow> estimates;
    std::span<const OwnerRow> owners;
    std::span<const CalendarEntry> calendar;
    std::span<const std::byte> notices; ///< packed
    BarsView bars;
    Statements statements;
};

struct MarketDescription {
    std::string name;
    std::string version;
    std::string currency;
    std::string benchmark; ///< symbol; empty when the dataset names none
    std::vector<Exchange> exchanges = {};
    std::vector<Currency> currencies = {}; ///< others than the market's, by name

    friend bool operator==(const MarketDescription&, const MarketDescription&) = default;
};

/// What a market is made of.
struct MarketParts {
    MarketDescription description;
    std::vector<InstrumentView> instruments; ///< by symbol
    std::vector<Day> sessions;               ///< every day on which anything traded, ascending
    std::shared_ptr<const void> keeper;      ///< holds the memory of the views
};

class Market;
using MarketPtr = std::shared_ptr<const Market>;

/// An instrument's bar of a session that still runs: what was traded up to now.
struct LiveBar {
    std::size_t instrument = 0;
    Bar bar;
};

enum class BarField { Open, High, Low, Close, Volume };
enum class TextField { Symbol, Name, Exchange, Kind, Sector, Industry, Currency };
inline constexpr std::size_t textFieldCount = 7;

/// An instrument that has not traded on so many sessions of the market is not listed from the next
/// one on, until it trades again: it has no value, and counts in no screen, place, breadth or
/// composite. Until then it is judged by its newest bar.
inline constexpr std::size_t idleSessions = 20;

/// When an instrument traded, and whether it is a stock at all, close together for all instruments:
/// what every question asks first.
struct Tenure {
    Day firstBar = Day::fromSerial(0);
    Day lastBar = Day::fromSerial(0);
    Day gone = Day::fromSerial(0); ///< the day from which on it is not listed, or one far ahead
    std::uint32_t bars = 0;
    bool isIndex = false;
};

class Market {
public:
    explicit Market(MarketParts parts);
    /// A market in memory; bars must be oldest first without doubles.
    Market(MarketDescription description, std::vector<InstrumentRecord> records);
    /// The same market with one more bar of some instruments, all of one day: while a session runs,
    /// every question is asked of this as of any other market. Only the bars of these instruments
    /// are copied; all else is `past`'s.
    /// Requires: a day after each one's newest bar, each instrument once; else std::logic_error.
    Market(const MarketPtr& past, std::span<const LiveBar> bars);

    const MarketDescription& description() const { return description_; }
    /// The exchange's row; null when the dataset tells nothing of it.
    const Exchange* exchange(std::string_view name) const;
    std::size_t size() const { return listings_.size(); } ///< instruments, delisted ones too
    bool isLive() const { return isLive_; }               ///< the newest session still runs
    /// By the newest symbol; failing that, by a former one.
    std::optional<std::size_t> find(std::string_view symbol) const;
    /// Who bore the symbol on that day. When nobody did, as find(symbol): a symbol may be kept with
    /// a day on which its bearer was not listed yet.
    std::optional<std::size_t> find(std::string_view symbol, Day day) const;

    const Tenure& tenure(std::size_t at) const { return tenures_.at(at); }
    /// Whether it has traded by that day, not too long ago (idleSessions), and is not delisted.
    bool isListed(std::size_t at, Day day) const;
    /// Whether so many sessions lie after a bar's day, up to a day, that the instrument is left
    /// out.
    bool isIdleTooLong(Day newestBar, Day day) const;
    bool isIndex(std::size_t at) const { return tenures_.at(at).isIndex; } ///< and so no stock
    const Instrument& instrument(std::size_t at) const { return listing(at).instrument; }
    const BarsView& bars(std::size_t at) const { return listing(at).bars; } ///< as traded
    const MinuteBarsView& minuteBars(std::size_t at) const { return listing(at).minuteBars; }
    std::span<const Action> actions(std::size_t at) const { return listing(at).actions; }
    std::span<const Split> splits(std::size_t at) const { return listing(at).splits; }
    std::span<const ShareCount> shares(std::size_t at) const { return listing(at).shares; }
    const Statements& statements(std::size_t at) const { return listing(at).statements; }
    std::span<const EstimateRow> estimates(std::size_t at) const { return listing(at).estimates; }
    std::span<const OwnerRow> owners(std::size_t at) const { return listing(at).owners; }
    std::span<const CalendarEntry> calendar(std::size_t at) const { return listing(at).calendar; }
    Notices notices(std::size_t at) const { return unpackedNotices(listing(at).notices); }

    /// The currency in which money of several stocks is compared: the dataset's, or the one of most
    /// instruments where it names none. An instrument that names none has this one, and so has an
    /// index, whose level is no money.
    const std::string& currency() const { return currency_; }
    /// Whether some instrument's prices and figures are in another currency.
    bool hasOtherCurrencies() const { return !ratesOf_.empty(); }
    bool isInOtherCurrency(std::size_t at) const;
    /// What one unit of the instrument's currency was worth at the close of a day, in the market's:
    /// 1 for that itself; missing as of rateOn.
    double rate(std::size_t at, Day day) const;
    /// The same by the instrument's rates, for many days; none where it is in the market's currency
    /// or nothing is known.
    std::span<const ExchangeRate> rates(std::size_t at) const;

    const TextTable& texts() const { return texts_; }
    std::uint32_t text(std::size_t at, TextField field) const;

    /// Every day on which anything traded, ascending.
    std::span<const Day> sessions() const { return sessions_; }
    /// The newest session on or before `day`; empty when `day` lies before all.
    std::optional<Day> sessionOnOrBefore(Day day) const;

    /// How many of the instrument's splits had taken effect by a bar: its *footing*. Prices of bars
    /// on one footing compare as they stand.
    std::size_t footing(std::size_t at, std::size_t bar) const;
    /// What a price of `day` is multiplied by to stand on `footing` (volumes are divided by it).
    double priceFactor(std::size_t at, Day day, std::size_t footing) const;
    /// Writes a field of bars [from, from + out.size()) as seen on `footing`.
    void adjusted(std::size_t at, BarField field, std::size_t footing, std::size_t from,
                  std::span<double> out) const;
    /// Writes the total return of bars [from, from + out.size()): the worth, in prices on
    /// `footing`, of one share bought at the first bar whose dividends and spin-offs bought more of
    /// it at the close of the day without them. Nothing later changes what stands there, but for
    /// the footing.
    void totalReturn(std::size_t at, std::size_t footing, std::size_t from,
                     std::span<double> out) const;

private:
    struct Listing : InstrumentView {
        std::vector<Split> splits;
        std::vector<std::size_t> splitBars; ///< first bar on or after each split
    };
    const Listing& listing(std::size_t at) const { return listings_.at(at); }
    void setBars(std::size_t at, const BarsView& bars);
    void findIdle();
    void findCurrencies();

    MarketDescription description_;
    std::shared_ptr<const void> keeper_;
    std::vector<Listing> listings_;
    std::vector<Tenure> tenures_;
    std::array<std::vector<std::uint32_t>, textFieldCount> textNumbers_; ///< by field, instrument
    std::map<std::string, std::size_t, std::less<>> bySymbol_;
    std::multimap<std::string, std::size_t, std::less<>> byFormerSymbol_;
    std::vector<Day> sessions_;
    TextTable texts_;
    std::string currency_;
    /// By instrument: 0 in the market's currency, 1 in another of which no rate is known, else the
    /// place of its rates, from 2. Empty where all are in the market's.
    std::vector<std::uint32_t> ratesOf_;
    bool isLive_ = false;
};

} // namespace sieve::market
