#include "core/library/lists.h"

#include "core/library/library.h"

#include <algorithm>
#include <fmt/format.h>

namespace sieve::library {

namespace {

using watchlists::Entry;
using watchlists::FormerEntry;
using watchlists::Watchlist;
using Lists = std::span<const Shared<Watchlist>>;

void bindPrice(SQLite::Statement& statement, int at, double price)
{
    if (isMissing(price))
        statement.bind(at); // NULL
    else
        statement.bind(at, price);
}

double priceIn(SQLite::Statement& row, int at)
{
    return row.isColumnNull(at) ? missing : row.getColumn(at).getDouble();
}

std::optional<watchlists::TradePlan> planIn(SQLite::Statement& row, int at,
                                            const UnreadText& unread)
{
    const std::string toml = row.getColumn(at).getString();
    if (toml.empty())
        return std::nullopt;
    const auto plan = watchlists::tradePlanFromToml(toml);
    if (!plan) {
        unread(TextOf::Plan, plan.error(), toml);
        return std::nullopt;
    }
    return *plan;
}

std::string tomlOf(const std::optional<watchlists::TradePlan>& plan)
{
    return plan ? toToml(*plan) : std::string();
}

watchlists::EntryPage pageIn(SQLite::Statement& row, int at, const UnreadText& unread)
{
    const std::string toml = row.getColumn(at).getString();
    if (toml.empty()) // of most entries
        return {};
    auto page = watchlists::entryPageFromToml(toml);
    if (!page) {
        unread(TextOf::Page, page.error(), toml);
        return {};
    }
    return *std::move(page);
}

Entry entryIn(SQLite::Statement& row, const UnreadText& unread)
{
    return {row.getColumn(0).getString(),
            Day::fromSerial(row.getColumn(1).getInt()),
            priceIn(row, 2),
            row.getColumn(3).getString(),
            row.getColumn(4).getString(),
            planIn(row, 5, unread),
            pageIn(row, 6, unread)};
}

void bindEntry(SQLite::Statement& insert, std::int64_t list, int position, const Entry& entry)
{
    insert.bind(1, list);
    insert.bind(2, position);
    insert.bind(3, entry.symbol);
    insert.bind(4, entry.addedOn.serial());
    bindPrice(insert, 5, entry.priceThen);
    insert.bind(6, entry.reason);
    insert.bind(7, entry.source);
    insert.bind(8, tomlOf(entry.plan));
    insert.bind(9, toToml(entry.page));
}

/// All lists' entries by one statement, which is ordered by list: `add(list, row)` for each.
template <class Add> void eachRow(Library& library, const std::string& select, Add add)
{
    SQLite::Statement query(library.database(), select);
    while (query.executeStep())
        add(query);
}

/// Writes the rows from `before` to `after` that differ, by their place, and removes those behind
/// the last.
template <class Row, class Write> void writeRows(Library& library, const char* table,
                                                 std::int64_t list, const std::vector<Row>& before,
                                                 const std::vector<Row>& after, Write write)
{
    for (std::size_t place = 0; place < after.size(); ++place)
        if (place >= before.size() || !(before[place] == after[place]))
            write(static_cast<int>(place), after[place]);
    if (after.size() < before.size())
        library.execute(
            fmt::format("DELETE FROM {} WHERE watchlist = ? AND position >= ?", table).c_str(),
            list, static_cast<std::int64_t>(after.size()));
}

void writeEntries(Library& library, const Watchlist& before, const Watchlist& after)
{
    SQLite::Statement insert(
        library.database(),
        "INSERT OR REPLACE INTO entry (watchlist, position, symbol, added_on, price_then, reason, "
        "source, plan, page) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)");
    writeRows(library, "entry", after.id, before.entries, after.entries,
              [&](int position, const Entry& entry) {
                  bindEntry(insert, after.id, position, entry);
                  insert.exec();
                  insert.reset();
              });
    SQLite::Statement remember(
        library.database(),
        "INSERT OR REPLACE INTO former_entry (watchlist, position, symbol, added_on, price_then, "
        "reason, source, plan, page, left_on, price_left, reason_left) "
        "VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)");
    writeRows(library, "former_entry", after.id, before.former, after.former,
              [&](int position, const FormerEntry& former) {
                  bindEntry(remember, after.id, position, former.entry);
                  remember.bind(10, former.leftOn.serial());
                  bindPrice(remember, 11, former.priceLeft);
                  remember.bind(12, former.reasonLeft);
                  remember.exec();
                  remember.reset();
              });
}

const Shared<Watchlist>* listIn(Lists lists, std::int64_t id)
{
    const auto place =
        std::ranges::find_if(lists, [id](const auto& list) { return list->id == id; });
    return place == lists.end() ? nullptr : &*place;
}

} // namespace

std::vector<Shared<Watchlist>> loadLists(Library& library, const UnreadText& unread,
                                         const std::set<std::int64_t>* some)
{
    std::vector<Watchlist> lists;
    eachRow(library,
            "SELECT id, name, folder, screen, columns, is_archived FROM watchlist "
            "ORDER BY position, id",
            [&](auto& row) {
                lists.push_back({row.getColumn(0).getInt64(),
                                 row.getColumn(1).getString(),
                                 {},
                                 {},
                                 {row.getColumn(2).getString(), row.getColumn(3).getString(),
                                  row.getColumn(4).getString(), row.getColumn(5).getInt() != 0}});
            });
    std::map<std::int64_t, Watchlist*> byId;
    for (Watchlist& list : lists)
        byId[list.id] = &list;
    const std::string only =
        some ? fmt::format("WHERE watchlist IN ({}) ", fmt::join(*some, ", ")) : std::string();
    eachRow(
        library,
        "SELECT symbol, added_on, price_then, reason, source, plan, page, watchlist FROM entry " +
            only + "ORDER BY watchlist, position",
        [&](auto& row) {
            byId.at(row.getColumn(7).getInt64())->entries.push_back(entryIn(row, unread));
        });
    eachRow(library,
            "SELECT symbol, added_on, price_then, reason, source, plan, page, watchlist, left_on, "
            "price_left, reason_left FROM former_entry " +
                only + "ORDER BY watchlist, position",
            [&](auto& row) {
                byId.at(row.getColumn(7).getInt64())
                    ->former.push_back({entryIn(row, unread),
                                        Day::fromSerial(row.getColumn(8).getInt()), priceIn(row, 9),
                                        row.getColumn(10).getString()});
            });
    return {std::make_move_iterator(lists.begin()), std::make_move_iterator(lists.end())};
}

watchlists::Tray loadTray(Library& library, const UnreadText& unread)
{
    std::vector<watchlists::Card> cards;
    eachRow(library,
            "SELECT symbol, taken_on, mark, source, reason, plan FROM card ORDER BY position",
            [&](auto& row) {
                cards.push_back({row.getColumn(0).getString(),
                                 Day::fromSerial(row.getColumn(1).getInt()),
                                 watchlists::markNamed(row.getColumn(2).getString())
                                     .value_or(watchlists::Mark::Open),
                                 row.getColumn(3).getString(), row.getColumn(4).getString(),
                                 planIn(row, 5, unread)});
            });
    return watchlists::Tray(std::move(cards));
}

void saveLists(Library& library, Lists before, Lists after)
{
    for (const auto& list : before)
        if (!listIn(after, list->id))
            library.execute("DELETE FROM watchlist WHERE id = ?", list->id);
    // Names may go round among the lists; each is free before it is given anew.
    for (const auto& list : after)
        if (const auto* former = listIn(before, list->id); former && (*former)->name != list->name)
            library.execute("UPDATE watchlist SET name = char(1) || id WHERE id = ?", list->id);
    SQLite::Statement write(library.database(),
                            "INSERT INTO watchlist (id, name, position, folder, screen, columns, "
                            "is_archived) VALUES (?, ?, ?, ?, ?, ?, ?) ON CONFLICT (id) DO UPDATE "
                            "SET name = excluded.name, position = excluded.position, "
                            "folder = excluded.folder, screen = excluded.screen, "
                            "columns = excluded.columns, is_archived = excluded.is_archived");
    for (std::size_t place = 0; place < after.size(); ++place) {
        const Shared<Watchlist>& list = after[place];
        const Shared<Watchlist>* former = listIn(before, list->id);
        const bool isSame = former && *former == list;
        if (isSame && place < before.size() && before[place]->id == list->id)
            continue;
        write.bind(1, list->id);
        write.bind(2, list->name);
        write.bind(3, static_cast<int>(place));
        write.bind(4, list->head.folder);
        write.bind(5, list->head.screen);
        write.bind(6, list->head.columns);
        write.bind(7, list->head.isArchived ? 1 : 0);
        write.exec();
        write.reset();
        if (!isSame)
            writeEntries(library, former ? **former : Watchlist{}, *list);
    }
}

void saveTray(Library& library, const watchlists::Tray& tray)
{
    library.database().exec("DELETE FROM card");
    SQLite::Statement insert(
        library.database(),
        "INSERT INTO card (position, symbol, taken_on, mark, source, reason, plan) "
        "VALUES (?, ?, ?, ?, ?, ?, ?)");
    int position = 0;
    for (const watchlists::Card& card : tray.cards()) {
        insert.bind(1, position++);
        insert.bind(2, card.symbol);
        insert.bind(3, card.takenOn.serial());
        insert.bind(4, std::string(watchlists::markName(card.mark)));
        insert.bind(5, card.source);
        insert.bind(6, card.reason);
        insert.bind(7, tomlOf(card.plan));
        insert.exec();
        insert.reset();
    }
}

} // namespace sieve::library
