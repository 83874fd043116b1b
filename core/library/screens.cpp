#include "core/library/screens.h"

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
    SQLite::Statement write(library.database(),
                            "INSERT INTO screen_version (screen, toml) VALUES (?, ?)");
    write.bind(1, name);
    write.bind(2, toml);
    write.exec();
}

void writeScreen(Library& library, const screens::Screen& screen)
{
    const std::string toml = toToml(screen);
    SQLite::Statement write(library.database(),
                            "INSERT INTO screen (name, toml) VALUES (?, ?) ON CONFLICT (name) DO "
                            "UPDATE SET toml = excluded.toml, changed_at = datetime('now')");
    write.bind(1, screen.name);
    write.bind(2, toml);
    write.exec();
    addVersion(library, screen.name, toml);
}

} // namespace

LoadedScreens loadScreens(Library& library)
{
    LoadedScreens loaded;
    SQLite::Statement query(library.database(), "SELECT name, toml FROM screen ORDER BY name");
    while (query.executeStep()) {
        Result<screens::Screen> screen = screens::screenFromToml(query.getColumn(1).getString());
        if (screen) {
            loaded.screens.push_back(*std::move(screen));
            continue;
        }
        LocatedError problem = screen.error();
        problem.problem =
            fmt::format("screen “{}”: {}", query.getColumn(0).getString(), problem.problem);
        loaded.problems.push_back(std::move(problem));
    }
    return loaded;
}

void saveScreen(Library& library, const screens::Screen& screen)
{
    SQLite::Transaction transaction(library.database());
    writeScreen(library, screen);
    transaction.commit();
}

void renameScreen(Library& library, const std::string& from, const screens::Screen& renamed)
{
    SQLite::Transaction transaction(library.database());
    for (const char* change : {"UPDATE screen SET name = ? WHERE name = ?",
                               "UPDATE screen_version SET screen = ? WHERE screen = ?"}) {
        SQLite::Statement rename(library.database(), change);
        rename.bind(1, renamed.name);
        rename.bind(2, from);
        rename.exec();
    }
    writeScreen(library, renamed);
    transaction.commit();
}

void removeScreen(Library& library, const std::string& name)
{
    SQLite::Statement remove(library.database(), "DELETE FROM screen WHERE name = ?");
    remove.bind(1, name);
    remove.exec();
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
