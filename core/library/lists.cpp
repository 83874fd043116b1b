#include "core/library/lists.h"

#include "core/library/library.h"

#include <algorithm>

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
                                            const UnreadPlan& unread)
{
    const std::string toml = row.getColumn(at).getString();
    if (toml.empty())
        return std::nullopt;
    const auto plan = watchlists::tradePlanFromToml(toml);
    if (!plan) {
        unread(plan.error(), toml);
        return std::nullopt;
    }
    return *plan;
}

std::string tomlOf(const std::optional<watchlists::TradePlan>& plan)
{
    return plan ? toToml(*plan) : std::string();
}

Entry entryIn(SQLite::Statement& row, const UnreadPlan& unread)
{
    return {row.getColumn(0).getString(),
            Day::fromSerial(row.getColumn(1).getInt()),
            priceIn(row, 2),
            row.getColumn(3).getString(),
            row.getColumn(4).getString(),
            planIn(row, 5, unread)};
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
}

/// All lists' entries by one statement, which is ordered by list: `add(list, row)` for each.
template <class Add> void eachRow(Library& library, const char* select, Add add)
{
    SQLite::Statement query(library.database(), select);
    while (query.executeStep())
        add(query);
}

void writeEntries(Library& library, const Watchlist& list)
{
    for (const char* clear :
         {"DELETE FROM entry WHERE watchlist = ?", "DELETE FROM former_entry WHERE watchlist = ?"})
        library.execute(clear, list.id);
    constexpr const char* insertEntry =
        "INSERT INTO entry (watchlist, position, symbol, added_on, price_then, reason, source, "
        "plan) VALUES (?, ?, ?, ?, ?, ?, ?, ?)";
    constexpr const char* insertFormer =
        "INSERT INTO former_entry (watchlist, position, symbol, added_on, price_then, reason, "
        "source, plan, left_on, price_left, reason_left) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)";
    int position = 0;
    SQLite::Statement insert(library.database(), insertEntry);
    for (const Entry& entry : list.entries) {
        bindEntry(insert, list.id, position++, entry);
        insert.exec();
        insert.reset();
    }
    position = 0;
    SQLite::Statement remember(library.database(), insertFormer);
    for (const FormerEntry& former : list.former) {
        bindEntry(remember, list.id, position++, former.entry);
        remember.bind(9, former.leftOn.serial());
        bindPrice(remember, 10, former.priceLeft);
        remember.bind(11, former.reasonLeft);
        remember.exec();
        remember.reset();
    }
}

const Shared<Watchlist>* listIn(Lists lists, std::int64_t id)
{
    const auto place =
        std::ranges::find_if(lists, [id](const auto& list) { return list->id == id; });
    return place == lists.end() ? nullptr : &*place;
}

} // namespace

std::vector<Shared<Watchlist>> loadLists(Library& library, const UnreadPlan& unread)
{
    std::vector<Watchlist> lists;
    eachRow(library, "SELECT id, name FROM watchlist ORDER BY position, id", [&](auto& row) {
        lists.push_back({row.getColumn(0).getInt64(), row.getColumn(1).getString(), {}, {}});
    });
    std::map<std::int64_t, Watchlist*> byId;
    for (Watchlist& list : lists)
        byId[list.id] = &list;
    eachRow(library,
            "SELECT symbol, added_on, price_then, reason, source, plan, watchlist FROM entry "
            "ORDER BY watchlist, position",
            [&](auto& row) {
                byId.at(row.getColumn(6).getInt64())->entries.push_back(entryIn(row, unread));
            });
    eachRow(library,
            "SELECT symbol, added_on, price_then, reason, source, plan, watchlist, left_on, "
            "price_left, reason_left FROM former_entry ORDER BY watchlist, position",
            [&](auto& row) {
                byId.at(row.getColumn(6).getInt64())
                    ->former.push_back({entryIn(row, unread),
                                        Day::fromSerial(row.getColumn(7).getInt()), priceIn(row, 8),
                                        row.getColumn(9).getString()});
            });
    return {std::make_move_iterator(lists.begin()), std::make_move_iterator(lists.end())};
}

watchlists::Tray loadTray(Library& library, const UnreadPlan& unread)
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
                            "INSERT INTO watchlist (id, name, position) VALUES (?, ?, ?) ON "
                            "CONFLICT (id) DO UPDATE SET name = excluded.name, "
                            "position = excluded.position");
    for (std::size_t place = 0; place < after.size(); ++place) {
        const Shared<Watchlist>& list = after[place];
        const Shared<Watchlist>* former = listIn(before, list->id);
        const bool isSame = former && *former == list;
        if (isSame && place < before.size() && before[place]->id == list->id)
            continue;
        write.bind(1, list->id);
        write.bind(2, list->name);
        write.bind(3, static_cast<int>(place));
        write.exec();
        write.reset();
        if (!isSame)
            writeEntries(library, *list);
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
