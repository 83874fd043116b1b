#include "app/desk/work.h"

#include "core/screens/renaming.h"

#include <algorithm>

namespace sieve::app {

using language::Renaming;

watchlists::Watchlist* Work::list(std::int64_t id)
{
    const auto found = std::ranges::find(lists, id, &watchlists::Watchlist::id);
    return found == lists.end() ? nullptr : &*found;
}

Work withRenamed(Work work, const Renaming& renaming)
{
    work.screen = screens::withRenamed(std::move(work.screen), renaming);
    work.marketBook = conditions::withRenamed(std::move(work.marketBook), renaming);
    return work;
}

std::vector<Renaming> renamedLists(const Work& before, const Work& after)
{
    std::vector<Renaming> renamings;
    for (const watchlists::Watchlist& list : before.lists) {
        const auto now = std::ranges::find(after.lists, list.id, &watchlists::Watchlist::id);
        if (now != after.lists.end() && now->name != list.name)
            renamings.push_back({Renaming::What::List, list.name, now->name});
    }
    return renamings;
}

} // namespace sieve::app
