#include "core/library/outbox.h"

#include "core/library/library.h"
#include "core/library/settings.h"
#include "core/storage/file_aside.h"

#include <algorithm>
#include <cctype>

namespace sieve::library {

namespace {

std::string mailedKey(std::string_view market)
{
    return "mailed_to/" + std::string(market);
}

/// Letters and digits, the rest as '-'.
std::string plainName(std::string_view name)
{
    std::string plain(name.substr(0, 60));
    std::ranges::replace_if(
        plain, [](unsigned char c) { return c >= 0x80 || std::isalnum(c) == 0; }, '-');
    return plain;
}

} // namespace

std::filesystem::path outboxOf(const std::filesystem::path& library)
{
    return library.empty() ? std::filesystem::path()
                           : std::filesystem::path(library.string() + ".outbox");
}

std::optional<Day> mailedTo(Library& library, std::string_view market)
{
    const auto day = setting(library, mailedKey(market));
    return day ? Day::parse(*day) : std::nullopt;
}

std::filesystem::path keepMail(Library& library, std::string_view market, Day session,
                               std::string_view mail)
{
    std::filesystem::path path;
    if (!mail.empty()) {
        const auto folder = outboxOf(library.file());
        std::filesystem::create_directories(folder);
        path = folder / (session.iso() + "-" + plainName(market) + ".eml");
        storage::writeWhole(path, mail);
    }
    if (const auto known = mailedTo(library, market); !known || *known < session)
        library.inTransaction([&] { setSetting(library, mailedKey(market), session.iso()); });
    return path;
}

} // namespace sieve::library
