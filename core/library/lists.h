#pragma once

#include "core/library/work.h"

#include <functional>
#include <set>
#include <span>
#include <vector>

namespace sieve::library {

class Library;

// Lists and the tray in the library. Writing happens inside the caller's transaction.
// Errors: SQLite::Exception.

/// Told of a plan or an entry's page that cannot be read, with its text: the entry or card comes
/// without it.
enum class TextOf { Plan, Page };
using UnreadText =
    std::function<void(TextOf what, const LocatedError& error, const std::string& text)>;

/// All lists; where `some` is given, the entries of these alone.
std::vector<Shared<watchlists::Watchlist>> loadLists(Library& library, const UnreadText& unread,
                                                     const std::set<std::int64_t>* some = nullptr);
watchlists::Tray loadTray(Library& library, const UnreadText& unread);

/// Brings the library from the lists `before` to the lists `after`: writes those that changed and
/// their order, removes those that are gone.
void saveLists(Library& library, std::span<const Shared<watchlists::Watchlist>> before,
               std::span<const Shared<watchlists::Watchlist>> after);
void saveTray(Library& library, const watchlists::Tray& tray);

} // namespace sieve::library
