#include "core/library/lists.h"

#include <algorithm>

namespace sieve::library {

namespace {

std::vector<watchlists::Entry> loadEntries(SQLite::Database& database, std::int64_t list)
{
    std::vector<watchlists::Entry> entries;
    SQLite::Statement query(database, "SELECT symbol, added_on, price_then, reason, source "
                                      "FROM watchlist_entry WHERE watchlist = ? ORDER BY position");
    query.bind(1, list);
    while (query.executeStep())
        entries.push_back({query.getColumn(0).getString(),
                           Day::fromSerial(query.getColumn(1).getInt()),
                           query.isColumnNull(2) ? missing : query.getColumn(2).getDouble(),
                           query.getColumn(3).getString(), query.getColumn(4).getString()});
    return entries;
}

void insertEntries(SQLite::Database& database, const watchlists::Watchlist& list)
{
    SQLite::Statement insert(
        database, "INSERT INTO watchlist_entry (watchlist, symbol, added_on, price_then, "
                  "reason, source, position) VALUES (?, ?, ?, ?, ?, ?, ?)");
    int position = 0;
    for (const watchlists::Entry& entry : list.entries) {
        insert.reset();
        insert.bind(1, list.id);
        insert.bind(2, entry.symbol);
        insert.bind(3, entry.addedOn.serial());
        if (isMissing(entry.priceThen))
            insert.bind(4);
        else
            insert.bind(4, entry.priceThen);
        insert.bind(5, entry.reason);
        insert.bind(6, entry.source);
        insert.bind(7, position++);
        insert.exec();
    }
}

} // namespace

std::vector<watchlists::Watchlist> loadLists(Library& library)
{
    std::vector<watchlists::Watchlist> lists;
    SQLite::Statement query(library.database(), "SELECT id, name FROM watchlist ORDER BY position");
    while (query.executeStep()) {
        const std::int64_t id = query.getColumn(0).getInt64();
        lists.push_back({id, query.getColumn(1).getString(), loadEntries(library.database(), id)});
    }
    return lists;
}

watchlists::Tray loadTray(Library& library)
{
    std::vector<watchlists::Card> cards;
    SQLite::Statement query(library.database(),
                            "SELECT symbol, mark, source FROM tray_card ORDER BY position");
    while (query.executeStep())
        cards.push_back(
            {query.getColumn(0).getString(),
             watchlists::markNamed(query.getColumn(1).getString()).value_or(watchlists::Mark::Open),
             query.getColumn(2).getString()});
    return watchlists::Tray(std::move(cards));
}

void saveList(Library& library, const watchlists::Watchlist& list)
{
    SQLite::Transaction transaction(library.database());
    SQLite::Statement upsert(library.database(),
                             "INSERT INTO watchlist (id, name, position) VALUES "
                             "(?, ?, (SELECT coalesce(max(position), 0) + 1 FROM watchlist)) "
                             "ON CONFLICT (id) DO UPDATE SET name = excluded.name");
    upsert.bind(1, list.id);
    upsert.bind(2, list.name);
    upsert.exec();
    SQLite::Statement clear(library.database(), "DELETE FROM watchlist_entry WHERE watchlist = ?");
    clear.bind(1, list.id);
    clear.exec();
    insertEntries(library.database(), list);
    transaction.commit();
}

void removeList(Library& library, std::int64_t list)
{
    SQLite::Statement remove(library.database(), "DELETE FROM watchlist WHERE id = ?");
    remove.bind(1, list);
    remove.exec();
}

void saveChanges(Library& library, const std::vector<watchlists::Watchlist>& before,
                 const std::vector<watchlists::Watchlist>& after)
{
    const auto has = [](const std::vector<watchlists::Watchlist>& lists, std::int64_t id) {
        return std::ranges::find(lists, id, &watchlists::Watchlist::id) != lists.end();
    };
    for (const watchlists::Watchlist& list : before)
        if (!has(after, list.id))
            removeList(library, list.id);
    for (const watchlists::Watchlist& list : after)
        if (std::ranges::find(before, list) == before.end())
            saveList(library, list);
}

void saveTray(Library& library, const watchlists::Tray& tray)
{
    SQLite::Transaction transaction(library.database());
    library.database().exec("DELETE FROM tray_card");
    SQLite::Statement insert(library.database(), "INSERT INTO tray_card (symbol, mark, source, "
                                                 "position) VALUES (?, ?, ?, ?)");
    int position = 0;
    for (const watchlists::Card& card : tray.cards()) {
        insert.reset();
        insert.bind(1, card.symbol);
        insert.bind(2, std::string(watchlists::markName(card.mark)));
        insert.bind(3, card.source);
        insert.bind(4, position++);
        insert.exec();
    }
    transaction.commit();
}

} // namespace sieve::library
