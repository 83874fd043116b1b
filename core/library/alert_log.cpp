#include "core/library/alert_log.h"

#include "core/library/library.h"
#include "core/library/settings.h"

#include <set>
#include <string>
#include <tuple>

namespace sieve::library {

namespace {

using watchlists::Raised;

std::string checkedKey(std::string_view market)
{
    return "alerts_checked_to/" + std::string(market);
}

auto identityOf(const Raised& raised)
{
    return std::tuple(raised.alert, raised.on, raised.symbol, raised.words);
}

} // namespace

AlertLog alertLog(Library& library)
{
    AlertLog log;
    SQLite::Statement query(library.database(), "SELECT id, toml FROM raised ORDER BY id");
    while (query.executeStep()) {
        auto raised = watchlists::raisedFromToml(query.getColumn(1).getString());
        if (!raised) {
            log.problems.push_back(raised.error());
            continue;
        }
        raised->id = query.getColumn(0).getInt64();
        log.raised.push_back(*std::move(raised));
    }
    return log;
}

std::vector<Raised> addRaised(Library& library, std::span<const Raised> raised,
                              std::string_view market, Day checkedTo)
{
    std::set<decltype(identityOf(Raised{}))> known;
    for (const Raised& each : alertLog(library).raised)
        known.insert(identityOf(each));
    std::vector<Raised> written;
    for (const Raised& each : raised)
        if (known.insert(identityOf(each)).second)
            written.push_back(each);
    library.inTransaction([&] {
        SQLite::Statement insert(library.database(), "INSERT INTO raised (toml) VALUES (?)");
        for (Raised& each : written) {
            insert.bind(1, toToml(each));
            insert.exec();
            insert.reset();
            each.id = library.database().getLastInsertRowid();
        }
        setSetting(library, checkedKey(market), checkedTo.iso());
    });
    return written;
}

std::optional<Day> alertsCheckedTo(Library& library, std::string_view market)
{
    const auto day = setting(library, checkedKey(market));
    return day ? Day::parse(*day) : std::nullopt;
}

void setSeen(Library& library, std::span<const std::int64_t> ids)
{
    library.inTransaction([&] {
        SQLite::Statement read(library.database(), "SELECT toml FROM raised WHERE id = ?");
        for (const std::int64_t id : ids) {
            read.bind(1, id);
            auto raised = read.executeStep()
                              ? watchlists::raisedFromToml(read.getColumn(0).getString())
                              : Result<Raised>(LocatedError{});
            read.reset();
            if (!raised)
                continue;
            raised->isSeen = true;
            library.execute("UPDATE raised SET toml = ? WHERE id = ?", toToml(*raised), id);
        }
    });
}

} // namespace sieve::library
