#include "core/library/own_fields.h"

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

void saveOwnFields(Library& library, const language::OwnFields& fields,
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
    for (const language::Field& field : fields.fields()) {
        write.bind(1, field.name);
        write.bind(2, toToml(field));
        write.exec();
        write.reset();
    }
    transaction.commit();
}

} // namespace sieve::library
