#include "core/library/drawings.h"

#include "core/library/library.h"

#include <limits>

namespace sieve::library {

LoadedDrawings loadDrawings(Library& library)
{
    LoadedDrawings loaded;
    SQLite::Statement query(library.database(), "SELECT id, toml FROM drawing ORDER BY id");
    while (query.executeStep()) {
        auto read = drawings::drawingFromToml(query.getColumn(1).getString());
        if (!read) {
            loaded.problems.push_back(read.error());
            continue;
        }
        drawings::Drawing drawing = *std::move(read);
        drawing.id = query.getColumn(0).getInt64();
        loaded.drawings.emplace_back(std::move(drawing));
    }
    return loaded;
}

void saveDrawings(Library& library, std::span<const Shared<drawings::Drawing>> before,
                  std::span<const Shared<drawings::Drawing>> after)
{
    std::size_t old = 0;
    const auto removeUpTo = [&](std::int64_t id) { // and not with it
        for (; old < before.size() && before[old]->id < id; ++old)
            library.execute("DELETE FROM drawing WHERE id = ?", before[old]->id);
    };
    for (const Shared<drawings::Drawing>& drawing : after) {
        removeUpTo(drawing->id);
        const bool isKnown = old < before.size() && before[old]->id == drawing->id;
        if (!isKnown || before[old] != drawing)
            library.execute("INSERT INTO drawing (id, toml) VALUES (?, ?) ON CONFLICT (id) "
                            "DO UPDATE SET toml = excluded.toml",
                            drawing->id, toToml(*drawing));
        old += isKnown ? 1 : 0;
    }
    removeUpTo(std::numeric_limits<std::int64_t>::max());
}

} // namespace sieve::library
