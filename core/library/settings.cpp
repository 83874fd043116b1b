#include "core/library/settings.h"

namespace sieve::library {

std::map<std::string, std::string> settings(Library& library)
{
    std::map<std::string, std::string> all;
    SQLite::Statement query(library.database(), "SELECT key, value FROM setting");
    while (query.executeStep())
        all.emplace(query.getColumn(0).getString(), query.getColumn(1).getString());
    return all;
}

void setSetting(Library& library, std::string_view key, std::string_view value)
{
    SQLite::Statement write(library.database(),
                            "INSERT INTO setting (key, value) VALUES (?, ?) "
                            "ON CONFLICT (key) DO UPDATE SET value = excluded.value");
    write.bind(1, std::string(key));
    write.bind(2, std::string(value));
    write.exec();
}

} // namespace sieve::library
