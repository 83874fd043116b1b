#pragma once

#include "core/dossier/dossier.h"
#include "core/exports/sheet.h"

namespace sieve::dossier {

/// A table as it leaves the program: the row's name, then its cells; empty where nothing is known.
exports::Sheet sheetOf(const Table& table, const market::TextTable& texts);

} // namespace sieve::dossier
