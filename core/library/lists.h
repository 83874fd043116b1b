#pragma once

#include "core/library/library.h"
#include "core/watchlists/tray.h"
#include "core/watchlists/watchlist.h"

#include <string>
#include <vector>

namespace sieve::library {

/// Lists and the tray in the library. Each call is one transaction, on the disk when it returns.
/// Threads and Errors: those of the library; SQLite::Exception when a write fails.
std::vector<watchlists::Watchlist> loadLists(Library& library);
watchlists::Tray loadTray(Library& library);

/// Writes the list as it is now, name and entries in their order; makes it, at the end of the
/// lists, when the library has none with its id. Requires: a name that no other list has.
void saveList(Library& library, const watchlists::Watchlist& list);
void removeList(Library& library, std::int64_t list);
/// Brings the library from the lists `before` to the lists `after`: saves those that changed,
/// removes those that are gone.
void saveChanges(Library& library, const std::vector<watchlists::Watchlist>& before,
                 const std::vector<watchlists::Watchlist>& after);
void saveTray(Library& library, const watchlists::Tray& tray);

} // namespace sieve::library
