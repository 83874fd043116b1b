#include "core/library/settings.h"

#include "core/library/library.h"

namespace sieve::library {

std::map<std::string, std::string> settings(Library& library)
{
    std::map<std::string, std::string> all;
    SQLite::Statement query(library.database(), "SELECT key, value FROM setting");
    while (query.executeStep())
        all.emplace(query.getColumn(0).getString(), query.getColumn(1).getString());
    return all;
}

std::optional<std::string> setting(Library& library, std::string_view key)
{
    SQLite::Statement query(library.database(), "SELECT value FROM setting WHERE key = ?");
    query.bind(1, std::string(key));
    if (!query.executeStep())
        return std::nullopt;
    return query.getColumn(0).getString();
}

void setSetting(Library& library, std::string_view key, std::string_view value)
{
    library.execute("INSERT INTO setting (key, value) VALUES (?, ?) "
                    "ON CONFLICT (key) DO UPDATE SET value = excluded.value",
                    std::string(key), std::string(value));
}

} // namespace sieve::library
