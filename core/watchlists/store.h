#pragma once

#include "core/storage/library.h"
#include "core/watchlists/tray.h"
#include "core/watchlists/watchlist.h"

#include <string>
#include <vector>

namespace sieve::watchlists {

/// Lists and the tray in the library. Each call is one transaction, on the disk when it returns.
/// Threads and Errors: those of the library; SQLite::Exception when a write fails.
std::vector<Watchlist> loadLists(storage::Library& library);
Tray loadTray(storage::Library& library);

/// Writes the list as it is now, name and entries in their order; makes it, at the end of the
/// lists, when the library has none with its id. Requires: a name that no other list has.
void saveList(storage::Library& library, const Watchlist& list);
void removeList(storage::Library& library, std::int64_t list);
/// Brings the library from the lists `before` to the lists `after`: saves those that changed,
/// removes those that are gone.
void saveChanges(storage::Library& library, const std::vector<Watchlist>& before,
                 const std::vector<Watchlist>& after);
void saveTray(storage::Library& library, const Tray& tray);

} // namespace sieve::watchlists
