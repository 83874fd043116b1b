#pragma once

#include "core/base/day.h"
#include "core/base/missing.h"

#include <cstdint>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace sieve::market {

enum class InstrumentKind : std::uint8_t { Share, Fund, Trust, Receipt, Index };

/// "share", "fund", "trust", "receipt", "index": the words of the dataset and the language.
std::string_view instrumentKindName(InstrumentKind kind);
std::optional<InstrumentKind> instrumentKindNamed(std::string_view name);

/// A symbol that the instrument bore before `until`, on which it took the next one.
struct FormerSymbol {
    std::string symbol;
    Day until;

    friend bool operator==(const FormerSymbol&, const FormerSymbol&) = default;
};

/// A stay in an index, from a day on and until before another.
struct Membership {
    std::string index; ///< its symbol
    Day from;
    std::optional<Day> until = std::nullopt;

    friend bool operator==(const Membership&, const Membership&) = default;
};

/// One row of instruments.csv, with its rows of renames.csv and index_members.csv. Empty texts and
/// absent days are not known.
struct Instrument {
    std::string symbol; ///< the newest one
    std::string name;
    std::string exchange;
    InstrumentKind kind = InstrumentKind::Share;
    std::string sector;
    std::string industry;
    std::string currency;
    std::optional<Day> listedOn = std::nullopt;
    double offerPrice = missing; ///< as traded, in `currency`
    std::optional<Day> delistedOn = std::nullopt;
    std::string delistedWhy;
    bool optionable = false;
    bool shortable = false;
    std::string about;
    std::vector<FormerSymbol> formerSymbols; ///< by day
    std::vector<Membership> memberships;     ///< by index and day
};

/// The symbol that the instrument bore on a day.
const std::string& symbolOn(const Instrument& instrument, Day day);
/// Whether its figures are money of a currency that it names; the level of an index is none.
bool hasCurrency(const Instrument& instrument);
bool isMember(const Instrument& instrument, std::string_view index, Day day);

} // namespace sieve::market
