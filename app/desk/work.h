#pragma once

#include "core/conditions/market_book.h"
#include "core/language/renaming.h"
#include "core/screens/screen.h"
#include "core/watchlists/tray.h"
#include "core/watchlists/watchlist.h"

#include <cstdint>
#include <vector>

namespace sieve::app {

/// What the person makes and may undo, as a value.
struct Work {
    watchlists::Tray tray;
    std::vector<watchlists::Watchlist> lists;
    screens::Screen screen; ///< the one in hand in Sift
    conditions::MarketBook marketBook = conditions::standardBook();

    watchlists::Watchlist* list(std::int64_t id); ///< null when there is none
    friend bool operator==(const Work&, const Work&) = default;
};

/// The same work with the new name wherever a text of it asks for the former one.
Work withRenamed(Work work, const language::Renaming& renaming);

/// The lists that bear another name after a step than before it.
std::vector<language::Renaming> renamedLists(const Work& before, const Work& after);

} // namespace sieve::app
