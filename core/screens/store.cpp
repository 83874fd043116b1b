#include "core/screens/store.h"

#include <fmt/format.h>

namespace sieve::screens {

namespace {

void addVersion(storage::Library& library, const std::string& name, const std::string& toml)
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

void writeScreen(storage::Library& library, const Screen& screen)
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

LoadedScreens loadScreens(storage::Library& library)
{
    LoadedScreens loaded;
    SQLite::Statement query(library.database(), "SELECT name, toml FROM screen ORDER BY name");
    while (query.executeStep()) {
        Result<Screen> screen = screenFromToml(query.getColumn(1).getString());
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

void saveScreen(storage::Library& library, const Screen& screen)
{
    SQLite::Transaction transaction(library.database());
    writeScreen(library, screen);
    transaction.commit();
}

void renameScreen(storage::Library& library, const std::string& from, const Screen& renamed)
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

void removeScreen(storage::Library& library, const std::string& name)
{
    SQLite::Statement remove(library.database(), "DELETE FROM screen WHERE name = ?");
    remove.bind(1, name);
    remove.exec();
}

std::vector<ScreenVersion> versionsOf(storage::Library& library, const std::string& name)
{
    std::vector<ScreenVersion> versions;
    SQLite::Statement query(library.database(), "SELECT saved_at, toml FROM screen_version WHERE "
                                                "screen = ? ORDER BY number DESC");
    query.bind(1, name);
    while (query.executeStep())
        if (Result<Screen> screen = screenFromToml(query.getColumn(1).getString()))
            versions.push_back({query.getColumn(0).getString(), *std::move(screen)});
    return versions;
}

std::vector<std::string> removedScreens(storage::Library& library)
{
    std::vector<std::string> names;
    SQLite::Statement query(library.database(),
                            "SELECT DISTINCT screen FROM screen_version WHERE screen NOT IN "
                            "(SELECT name FROM screen) ORDER BY screen");
    while (query.executeStep())
        names.push_back(query.getColumn(0).getString());
    return names;
}

LoadedFields loadOwnFields(storage::Library& library)
{
    LoadedFields loaded;
    std::vector<expressions::Field> waiting;
    SQLite::Statement query(library.database(), "SELECT toml FROM own_field ORDER BY position");
    while (query.executeStep()) {
        expressions::Vocabulary one;
        const Result<std::size_t> added = one.add(query.getColumn(0).getString());
        if (!added)
            loaded.problems.push_back(added.error());
        else
            waiting.insert(waiting.end(), one.fields().begin(), one.fields().end());
    }
    // A field may use one that stands behind it: those that check are taken until none is left.
    std::vector<LocatedError> errors;
    for (bool isTaken = true; isTaken && !waiting.empty();) {
        isTaken = false;
        errors.clear();
        std::erase_if(waiting, [&](const expressions::Field& field) {
            const auto error = loaded.fields.put(field);
            if (error)
                errors.push_back(*error);
            isTaken = isTaken || !error;
            return !error;
        });
    }
    loaded.problems.insert(loaded.problems.end(), errors.begin(), errors.end());
    return loaded;
}

void saveOwnFields(storage::Library& library, const expressions::OwnFields& fields,
                   const std::vector<std::string>& removed)
{
    SQLite::Transaction transaction(library.database());
    SQLite::Statement remove(library.database(), "DELETE FROM own_field WHERE name = ?");
    for (const std::string& name : removed) {
        remove.bind(1, name);
        remove.exec();
        remove.reset();
    }
    SQLite::Statement write(library.database(),
                            "INSERT INTO own_field (name, toml) VALUES (?, ?) ON CONFLICT (name) "
                            "DO UPDATE SET toml = excluded.toml");
    for (const expressions::Field& field : fields.fields()) {
        write.bind(1, field.name);
        write.bind(2, toToml(field));
        write.exec();
        write.reset();
    }
    transaction.commit();
}

} // namespace sieve::screens
