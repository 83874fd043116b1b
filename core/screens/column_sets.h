#pragma once

#include "core/screens/screen.h"

#include <span>
#include <string>
#include <string_view>
#include <vector>

namespace sieve::screens {

/// Columns under a name, to be put under any screen.
struct ColumnSet {
    std::string name;
    std::vector<std::string> columns; ///< fields or expressions
    CellGraphics cells = {};

    friend bool operator==(const ColumnSet&, const ColumnSet&) = default;
};

/// The sets that the program brings, by what they are for.
const std::vector<ColumnSet>& readyColumnSets();

/// A person's sets as TOML, and back.
/// Errors: located: no TOML, a set without a name, a key or graphic that is unknown.
std::string toToml(std::span<const ColumnSet> sets);
Result<std::vector<ColumnSet>> columnSetsFromToml(std::string_view toml);

} // namespace sieve::screens
