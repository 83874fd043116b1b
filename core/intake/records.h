#pragma once

#include "core/intake/symbols.h"
#include "core/market/market.h"

#include <cstdint>
#include <map>
#include <optional>
#include <span>
#include <string>
#include <string_view>
#include <vector>

namespace sieve::intake {

/// The instruments that an intake gathers, each with its rows but without its bars.
class Records {
public:
    /// Begins with what the former market knows, or with nothing.
    Records() = default;
    explicit Records(const market::Market& former);

    market::MarketDescription description;
    Symbols symbols;

    std::size_t size() const { return records_.size(); }
    market::InstrumentRecord& operator[](std::size_t at) { return records_[at]; }
    const market::InstrumentRecord& operator[](std::size_t at) const { return records_[at]; }
    std::span<const market::InstrumentRecord> all() const { return records_; }
    std::optional<std::uint32_t> find(std::string_view newestSymbol) const;
    /// The instrument that bore the symbol on a day.
    std::optional<std::uint32_t> find(std::string_view symbol, Day day) const;
    /// The instrument's record, made when there is none.
    std::uint32_t add(const std::string& symbol);
    /// What bore the symbol before bears the other from `day` on.
    void rename(const std::string& before, const std::string& after, Day day);
    /// Where each instrument's bars lie in the former market; empty when it is new.
    std::optional<std::size_t> formerPlace(std::size_t at) const { return formerPlaces_[at]; }
    /// Puts all in the order of the symbols.
    void finish();

private:
    std::vector<market::InstrumentRecord> records_;
    std::vector<std::optional<std::size_t>> formerPlaces_;
    std::map<std::string, std::uint32_t, std::less<>> bySymbol_;
};

} // namespace sieve::intake
