#pragma once

#include "core/library/work.h"

#include <functional>
#include <span>
#include <vector>

namespace sieve::library {

class Library;

// Lists and the tray in the library. Writing happens inside the caller's transaction.
// Errors: SQLite::Exception.

/// Told of a plan that cannot be read, with its text: its entry or card comes without it.
using UnreadPlan = std::function<void(const LocatedError& error, const std::string& text)>;

std::vector<Shared<watchlists::Watchlist>> loadLists(Library& library, const UnreadPlan& unread);
watchlists::Tray loadTray(Library& library, const UnreadPlan& unread);

/// Brings the library from the lists `before` to the lists `after`: writes those that changed and
/// their order, removes those that are gone.
void saveLists(Library& library, std::span<const Shared<watchlists::Watchlist>> before,
               std::span<const Shared<watchlists::Watchlist>> after);
void saveTray(Library& library, const watchlists::Tray& tray);

} // namespace sieve::library
