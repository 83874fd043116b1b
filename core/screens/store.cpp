#include "core/screens/store.h"

namespace sieve::screens {

std::vector<Screen> loadScreens(storage::Library& library)
{
    std::vector<Screen> screens;
    SQLite::Statement query(library.database(), "SELECT toml FROM screen ORDER BY name");
    while (query.executeStep())
        if (Result<Screen> screen = screenFromToml(query.getColumn(0).getString()))
            screens.push_back(*std::move(screen));
    return screens;
}

void saveScreen(storage::Library& library, const Screen& screen)
{
    SQLite::Statement write(library.database(),
                            "INSERT INTO screen (name, toml) VALUES (?, ?) ON CONFLICT (name) DO "
                            "UPDATE SET toml = excluded.toml, changed_at = datetime('now')");
    write.bind(1, screen.name);
    write.bind(2, toToml(screen));
    write.exec();
}

void removeScreen(storage::Library& library, const std::string& name)
{
    SQLite::Statement remove(library.database(), "DELETE FROM screen WHERE name = ?");
    remove.bind(1, name);
    remove.exec();
}

} // namespace sieve::screens
