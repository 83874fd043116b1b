#pragma once

#include "core/base/result.h"
#include "core/base/shared.h"
#include "core/library/library.h"

#include <fmt/format.h>
#include <limits>
#include <span>
#include <string_view>
#include <vector>

namespace sieve::library {

/// Things that each have a number and are kept as one text: drawings, verdicts. `Table` is a table
/// of the columns id and toml.
template <class Thing> struct LoadedNumbered {
    std::vector<Shared<Thing>> things;  ///< by id
    std::vector<LocatedError> problems; ///< of those that cannot be read; they stay in the library
};
template <class Thing> LoadedNumbered<Thing> loadNumbered(Library& library, std::string_view table,
                                                          Result<Thing> (*read)(std::string_view))
{
    LoadedNumbered<Thing> loaded;
    SQLite::Statement query(library.database(),
                            fmt::format("SELECT id, toml FROM {} ORDER BY id", table));
    while (query.executeStep()) {
        auto thing = read(query.getColumn(1).getString());
        if (!thing) {
            loaded.problems.push_back(thing.error());
            continue;
        }
        thing->id = query.getColumn(0).getInt64();
        loaded.things.emplace_back(*std::move(thing));
    }
    return loaded;
}

/// Brings the table from `before` to `after`, both by id, inside the caller's transaction.
template <class Thing> void saveNumbered(Library& library, std::string_view table,
                                         std::span<const Shared<Thing>> before,
                                         std::span<const Shared<Thing>> after)
{
    const std::string remove = fmt::format("DELETE FROM {} WHERE id = ?", table);
    const std::string write =
        fmt::format("INSERT INTO {} (id, toml) VALUES (?, ?) ON CONFLICT (id) "
                    "DO UPDATE SET toml = excluded.toml",
                    table);
    std::size_t old = 0;
    const auto removeUpTo = [&](std::int64_t id) { // and not with it
        for (; old < before.size() && before[old]->id < id; ++old)
            library.execute(remove.c_str(), before[old]->id);
    };
    for (const Shared<Thing>& thing : after) {
        removeUpTo(thing->id);
        const bool isKnown = old < before.size() && before[old]->id == thing->id;
        if (!isKnown || before[old] != thing)
            library.execute(write.c_str(), thing->id, toToml(*thing));
        old += isKnown ? 1 : 0;
    }
    removeUpTo(std::numeric_limits<std::int64_t>::max());
}

} // namespace sieve::library
