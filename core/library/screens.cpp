#include "core/library/screens.h"

#include "core/library/library.h"

#include <algorithm>
#include <fmt/format.h>

namespace sieve::library {

namespace {

void addVersion(Library& library, const std::string& name, const std::string& toml)
{
    SQLite::Statement last(library.database(), "SELECT toml FROM screen_version WHERE screen = ? "
                                               "ORDER BY number DESC LIMIT 1");
    last.bind(1, name);
    if (last.executeStep() && last.getColumn(0).getString() == toml)
        return;
    library.execute("INSERT INTO screen_version (screen, toml) VALUES (?, ?)", name, toml);
}

const Shared<KeptScreen>* screenIn(std::span<const Shared<KeptScreen>> screens, std::int64_t id)
{
    const auto place =
        std::ranges::find_if(screens, [id](const auto& each) { return each->id == id; });
    return place == screens.end() ? nullptr : &*place;
}

/// A row of that name that could not be read gives way, and is kept as a file.
void setUnreadableAside(Library& library, const KeptScreen& screen)
{
    SQLite::Statement other(library.database(),
                            "SELECT id, toml FROM screen WHERE name = ? AND id <> ?");
    other.bind(1, screen.screen.name);
    other.bind(2, screen.id);
    if (!other.executeStep())
        return;
    library.setAside("screen", other.getColumn(1).getString());
    const std::int64_t id = other.getColumn(0).getInt64();
    other.reset();
    library.execute("DELETE FROM screen WHERE id = ?", id);
}

LoadedScreens screensIn(SQLite::Statement query)
{
    LoadedScreens loaded;
    while (query.executeStep()) {
        Result<screens::Screen> screen = screens::screenFromToml(query.getColumn(2).getString());
        if (screen) {
            loaded.screens.push_back(KeptScreen{query.getColumn(0).getInt64(), *std::move(screen)});
            continue;
        }
        LocatedError problem = screen.error();
        problem.problem =
            fmt::format("screen “{}”: {}", query.getColumn(1).getString(), problem.problem);
        loaded.problems.push_back(std::move(problem));
    }
    return loaded;
}

} // namespace

LoadedScreens loadScreens(Library& library)
{
    return screensIn({library.database(), "SELECT id, name, toml FROM screen ORDER BY name"});
}

LoadedScreens loadDrafts(Library& library)
{
    return screensIn({library.database(), "SELECT 0, name, toml FROM draft ORDER BY name"});
}

void saveScreens(Library& library, std::span<const Shared<KeptScreen>> before,
                 std::span<const Shared<KeptScreen>> after)
{
    for (const auto& screen : before)
        if (!screenIn(after, screen->id))
            library.execute("DELETE FROM screen WHERE id = ?", screen->id);
    // Names may go round among the screens; each is free before it is given anew.
    for (const auto& screen : after)
        if (const auto* former = screenIn(before, screen->id);
            former && (*former)->screen.name != screen->screen.name) {
            library.execute("UPDATE screen SET name = char(1) || id WHERE id = ?", screen->id);
            library.execute("UPDATE screen_version SET screen = ? WHERE screen = ?",
                            screen->screen.name, (*former)->screen.name);
        }
    for (const auto& screen : after) {
        const auto* former = screenIn(before, screen->id);
        if (former && *former == screen)
            continue;
        setUnreadableAside(library, *screen);
        const std::string toml = toToml(screen->screen);
        library.execute("INSERT INTO screen (id, name, toml) VALUES (?, ?, ?) ON CONFLICT (id) DO "
                        "UPDATE SET name = excluded.name, toml = excluded.toml",
                        screen->id, screen->screen.name, toml);
        addVersion(library, screen->screen.name, toml);
    }
}

void saveDrafts(Library& library, std::span<const Shared<screens::Screen>> drafts)
{
    library.database().exec("DELETE FROM draft");
    for (const auto& draft : drafts)
        library.execute("INSERT INTO draft VALUES (?, ?)", draft->name, toToml(*draft));
}

std::vector<ScreenVersion> versionsOf(Library& library, const std::string& name)
{
    std::vector<ScreenVersion> versions;
    SQLite::Statement query(library.database(), "SELECT saved_at, toml FROM screen_version WHERE "
                                                "screen = ? ORDER BY number DESC");
    query.bind(1, name);
    while (query.executeStep())
        if (Result<screens::Screen> screen =
                screens::screenFromToml(query.getColumn(1).getString()))
            versions.push_back({query.getColumn(0).getString(), *std::move(screen)});
    return versions;
}

std::vector<std::string> removedScreens(Library& library)
{
    std::vector<std::string> names;
    SQLite::Statement query(library.database(),
                            "SELECT DISTINCT screen FROM screen_version WHERE screen NOT IN "
                            "(SELECT name FROM screen) ORDER BY screen");
    while (query.executeStep())
        names.push_back(query.getColumn(0).getString());
    return names;
}

} // namespace sieve::library
