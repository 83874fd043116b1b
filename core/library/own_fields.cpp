#include "core/library/own_fields.h"

#include "core/library/library.h"

#include <algorithm>

namespace sieve::library {

LoadedFields loadOwnFields(Library& library)
{
    LoadedFields loaded;
    std::vector<language::Field> waiting;
    SQLite::Statement query(library.database(), "SELECT toml FROM own_field ORDER BY position");
    while (query.executeStep()) {
        language::Vocabulary one;
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
        std::erase_if(waiting, [&](const language::Field& field) {
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

void saveOwnFields(Library& library, const language::OwnFields& before,
                   const language::OwnFields& after)
{
    const auto has = [](const language::OwnFields& fields, const std::string& name) {
        return std::ranges::find(fields.fields(), name, &language::Field::name) !=
               fields.fields().end();
    };
    for (const language::Field& field : before.fields())
        if (!has(after, field.name))
            library.execute("DELETE FROM own_field WHERE name = ?", field.name);
    for (const language::Field& field : after.fields()) {
        if (!has(before, field.name)) { // one that could not be read may bear the name
            SQLite::Statement other(library.database(),
                                    "SELECT toml FROM own_field WHERE name = ?");
            other.bind(1, field.name);
            if (other.executeStep())
                library.setAside("own_field", other.getColumn(0).getString());
        }
        library.execute("INSERT INTO own_field (name, toml) VALUES (?, ?) ON CONFLICT (name) "
                        "DO UPDATE SET toml = excluded.toml",
                        field.name, toToml(field));
    }
}

} // namespace sieve::library
