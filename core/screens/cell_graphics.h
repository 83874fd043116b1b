#pragma once

#include "core/base/toml_table.h"
#include "core/screens/screen.h"

namespace sieve::screens {

/// The graphics of cells as a line of TOML, empty for none; and read from a file's table.
/// Errors: TomlFault, see readToml().
std::string cellsToml(const CellGraphics& cells);
CellGraphics readCells(const toml::table& table);

} // namespace sieve::screens
