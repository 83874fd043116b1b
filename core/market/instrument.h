#pragma once

#include "core/base/day.h"
#include "core/base/missing.h"

#include <optional>
#include <string>
#include <string_view>

namespace sieve::market {

enum class InstrumentKind { Share, Fund, Trust, Receipt, Index };

/// "share", "fund", "trust", "receipt", "index": the words of the dataset and the language.
std::string_view instrumentKindName(InstrumentKind kind);
std::optional<InstrumentKind> instrumentKindNamed(std::string_view name);

/// One row of instruments.csv. Empty texts and absent days are not known.
struct Instrument {
    std::string symbol;
    std::string name;
    std::string exchange;
    InstrumentKind kind = InstrumentKind::Share;
    std::string sector;
    std::string industry;
    std::string currency;
    std::optional<Day> listedOn;
    double offerPrice = missing; ///< as traded, in `currency`
    std::optional<Day> delistedOn;
    std::string delistedWhy;
    bool optionable = false;
    bool shortable = false;
    std::string about;
};

} // namespace sieve::market
