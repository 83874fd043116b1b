#pragma once

#include "core/library/work.h"

#include <span>
#include <vector>

namespace sieve::library {

class Library;

// Lists and the tray in the library. Writing happens inside the caller's transaction.
// Errors: SQLite::Exception.

std::vector<Shared<watchlists::Watchlist>> loadLists(Library& library);
watchlists::Tray loadTray(Library& library);

/// Brings the library from the lists `before` to the lists `after`: writes those that changed and
/// their order, removes those that are gone.
void saveLists(Library& library, std::span<const Shared<watchlists::Watchlist>> before,
               std::span<const Shared<watchlists::Watchlist>> after);
void saveTray(Library& library, const watchlists::Tray& tray);

} // namespace sieve::library
