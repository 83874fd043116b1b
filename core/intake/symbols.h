#pragma once

#include "core/base/day.h"
#include "core/market/instrument.h"

#include <map>
#include <set>
#include <string>
#include <string_view>
#include <vector>

namespace sieve::intake {

/// Whose a symbol was on a day: instruments are known by their newest symbols, and a symbol may
/// have been borne by one and later by another.
class Symbols {
public:
    void addInstrument(std::string symbol);
    void removeInstrument(std::string_view symbol);
    bool isInstrument(std::string_view symbol) const;
    /// From `day` on, what was `before` is called `after`.
    void addRename(std::string before, std::string after, Day day);

    bool wasGivenUp(std::string_view symbol) const { return renames_.contains(symbol); }

    /// The newest symbol of the instrument that bore `symbol` on `day`; `symbol` itself when nobody
    /// is known to have.
    std::string resolve(std::string_view symbol, Day day) const;
    /// The newest symbols of all instruments that gave `symbol` up.
    std::vector<std::string> thoseWhoGaveUp(std::string_view symbol) const;
    bool hasRename(std::string_view before, std::string_view after, Day day) const;
    /// For each newest symbol, every one that its instrument bore before, by the day on which it
    /// gave it up.
    std::map<std::string, std::vector<market::FormerSymbol>, std::less<>> formerSymbols() const;

private:
    struct Rename {
        std::string after;
        Day day;
    };
    std::map<std::string, std::vector<Rename>, std::less<>> renames_; ///< by symbol before, by day
    std::set<std::string, std::less<>> instruments_;
};

} // namespace sieve::intake
