#pragma once

// The Vellan Isles, which do not exist, and the market that was made up for them:
//   isles.h    sectors, industries, names    climate.h  what the whole market does, and when
//   company.h  one company's life            dataset.h  all of it as an open dataset
//   dice.h     chance that is the same on every machine

#include "demo_market/dice.h"

#include <set>
#include <span>
#include <string>
#include <string_view>

namespace sieve::demo_market {

struct Industry {
    std::string_view sector;
    std::string_view name;
    std::string_view trade; ///< the word for it in a company's name
};

std::span<const Industry> industries();

/// Names and symbols, none of them twice.
class Register {
public:
    struct Entry {
        std::string name;
        std::string symbol; ///< four letters, without the exchange's ending
    };
    Entry enter(Dice& dice, std::string_view trade);
    /// A symbol that nobody has or had, somewhat like the other.
    std::string symbol(Dice& dice, std::string_view like);

private:
    std::set<std::string> stems_;
    std::set<std::string> symbols_;
};

} // namespace sieve::demo_market
