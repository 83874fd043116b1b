#pragma once

#include "core/market/market.h"

#include <cstddef>
#include <string>
#include <string_view>
#include <vector>

namespace sieve::market {

/// A word of a text that is a symbol, or looks like one.
struct PickedSymbol {
    std::string typed;                    ///< as it stands in the text, without $ or #
    std::vector<std::size_t> instruments; ///< one: known; several: ambiguous; none: unknown
    bool isFormer = false;                ///< the instrument bore that symbol before

    friend bool operator==(const PickedSymbol&, const PickedSymbol&) = default;
};

/// Picks the symbols out of any text: a mail, a table of a page, a column of a sheet. Each stands
/// once, in the order of the text.
/// Known:   a symbol in any case, with or without a $ or # before it; the part before the dot of
///          one ("VRRA" for VRRA.C), which may be several's; a symbol of before a rename. A word in
///          small letters counts only when it bears a mark or an ending, or when at least half of
///          the text's words are symbols: "take" in a sentence is no order to take TAKE.
/// Unknown: what bears a mark or an ending like a symbol's and is none; in a text that is mostly
///          symbols, every other word in capitals too.
/// Cost:    linear in the text and the instruments.
std::vector<PickedSymbol> pickSymbols(const Market& market, std::string_view text);

/// The instruments of those that are known for certain, each once, in the order of the text.
std::vector<std::size_t> certainPicks(const Market& market, std::string_view text);

} // namespace sieve::market
