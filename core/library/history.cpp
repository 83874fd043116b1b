#include "core/library/history.h"

#include "core/library/kept_work.h"
#include "core/library/library.h"

#include <algorithm>
#include <array>
#include <memory>
#include <sqlite3.h>

namespace sieve::library {

namespace {

using Kind = StepMade::Kind;
using Changes = std::string; ///< the bytes of a changeset

/// What an undone step brings back. Versions of screens and what alerts told are no part of it.
constexpr std::array stepTables{"watchlist", "entry", "former_entry", "card",
                                "screen",    "draft", "own_field",    "drawing",
                                "verdict",   "alert", "kept_run",     "setting"};

void require(int answer, SQLite::Database& database)
{
    if (answer != SQLITE_OK)
        throw SQLite::Exception(database.getHandle(), answer);
}

Changes taken(void* bytes, int count)
{
    const std::unique_ptr<void, decltype(&sqlite3_free)> owned(bytes, &sqlite3_free);
    return Changes(static_cast<const char*>(bytes), static_cast<std::size_t>(count));
}

/// Notes what happens to the tables of the work while it is there.
class Recorder {
public:
    explicit Recorder(SQLite::Database& database) : database_(database)
    {
        require(sqlite3session_create(database.getHandle(), "main", &session_), database);
        for (const char* table : stepTables)
            require(sqlite3session_attach(session_, table), database);
    }
    ~Recorder() { sqlite3session_delete(session_); }
    Recorder(const Recorder&) = delete;
    Recorder& operator=(const Recorder&) = delete;

    Changes changes()
    {
        int count = 0;
        void* bytes = nullptr;
        require(sqlite3session_changeset(session_, &count, &bytes), database_);
        return taken(bytes, count);
    }

private:
    SQLite::Database& database_;
    sqlite3_session* session_ = nullptr;
};

/// Two changes, one after the other, as one.
Changes joined(Changes& first, Changes& second, SQLite::Database& database)
{
    sqlite3_changegroup* group = nullptr;
    require(sqlite3changegroup_new(&group), database);
    const std::unique_ptr<sqlite3_changegroup, decltype(&sqlite3changegroup_delete)> owned(
        group, &sqlite3changegroup_delete);
    for (Changes* each : {&first, &second})
        require(sqlite3changegroup_add(group, static_cast<int>(each->size()), each->data()),
                database);
    int count = 0;
    void* bytes = nullptr;
    require(sqlite3changegroup_output(group, &count, &bytes), database);
    return taken(bytes, count);
}

/// Which tables and lists a change is about.
Touched touchedBy(Changes& changes)
{
    Touched touched;
    sqlite3_changeset_iter* at = nullptr;
    if (sqlite3changeset_start(&at, static_cast<int>(changes.size()), changes.data()) != SQLITE_OK)
        return touched;
    while (sqlite3changeset_next(at) == SQLITE_ROW) {
        const char* name = nullptr;
        int columns = 0;
        int kind = 0;
        int isIndirect = 0;
        if (sqlite3changeset_op(at, &name, &columns, &kind, &isIndirect) != SQLITE_OK)
            continue;
        const std::string_view table(name);
        touched.tables.emplace(table);
        sqlite3_value* id = nullptr; // a list's number is the first column of all its tables
        if (table == "watchlist" || table == "entry" || table == "former_entry")
            if ((kind == SQLITE_INSERT ? sqlite3changeset_new(at, 0, &id)
                                       : sqlite3changeset_old(at, 0, &id)) == SQLITE_OK &&
                id)
                touched.lists.insert(sqlite3_value_int64(id));
    }
    sqlite3changeset_finalize(at);
    return touched;
}

/// Gives back whether it could; the database is as it was where it could not.
bool takeBack(const Changes& changes, SQLite::Database& database)
{
    int count = 0;
    void* bytes = nullptr;
    if (sqlite3changeset_invert(static_cast<int>(changes.size()), changes.data(), &count, &bytes) !=
        SQLITE_OK)
        return false;
    Changes inverted = taken(bytes, count);
    const auto refuse = [](void*, int, sqlite3_changeset_iter*) { return SQLITE_CHANGESET_ABORT; };
    return sqlite3changeset_apply(database.getHandle(), static_cast<int>(inverted.size()),
                                  inverted.data(), nullptr, refuse, nullptr) == SQLITE_OK;
}

std::optional<std::pair<std::int64_t, Changes>> newestStep(Library& library)
{
    SQLite::Statement query(library.database(),
                            "SELECT number, changes FROM step ORDER BY number DESC LIMIT 1");
    if (!query.executeStep())
        return std::nullopt;
    const SQLite::Column changes = query.getColumn(1);
    return std::pair(query.getColumn(0).getInt64(),
                     Changes(static_cast<const char*>(changes.getBlob()),
                             static_cast<std::size_t>(changes.getBytes())));
}

void addStep(Library& library, const StepMade& step, const Changes& changes)
{
    if (changes.empty())
        return;
    SQLite::Statement insert(library.database(),
                             "INSERT INTO step (number, what, place, changes) "
                             "VALUES ((SELECT coalesce(max(number), 0) + 1 FROM step), ?, ?, ?)");
    insert.bind(1, step.what);
    insert.bind(2, step.place);
    insert.bind(3, changes.data(), static_cast<int>(changes.size()));
    insert.exec();
}

void removeStep(Library& library, std::int64_t number)
{
    library.execute("DELETE FROM step WHERE number = ?", number);
}

void keepStep(Library& library, const StepMade& step, Changes changes)
{
    if (step.kind == Kind::Undone || step.kind == Kind::Joined) {
        auto newest = newestStep(library);
        if (newest)
            removeStep(library, newest->first);
        if (step.kind == Kind::Undone)
            return;
        if (newest)
            changes = joined(newest->second, changes, library.database());
    }
    addStep(library, step, changes);
}

/// The oldest go, and none without all before it.
void dropOldSteps(Library& library)
{
    library.execute("DELETE FROM step WHERE number <= (SELECT max(number) FROM step) - ?",
                    mostStepsKept);
    library.execute("DELETE FROM step WHERE number <= (SELECT coalesce(max(number), 0) FROM "
                    "(SELECT number, sum(length(changes)) OVER (ORDER BY number DESC) AS bytes "
                    "FROM step) WHERE bytes > ?)",
                    mostStepBytes);
}

/// Whether a thing that cannot be read is left as it is, whatever the work becomes.
bool staysInLibrary(const LoadedWork::Problem& problem)
{
    using What = LoadedWork::Problem::What;
    constexpr std::array staying{What::Screen,  What::Field, What::Drawing,
                                 What::Verdict, What::Alert, What::KeptRun};
    return std::ranges::find(staying, problem.what) != staying.end();
}

} // namespace

void saveSteps(Library& library, const Work& before, const Work& after,
               std::span<const StepMade> steps)
{
    library.inTransaction([&] {
        Recorder recorder(library.database());
        writeWork(library, before, after);
        const Changes changes = recorder.changes();
        if (steps.size() == 1)
            keepStep(library, steps.front(), changes);
        else if (!steps.empty())
            addStep(library, steps.back(), changes);
        dropOldSteps(library);
    });
}

int stepsKept(Library& library)
{
    return library.database().execAndGet("SELECT count(*) FROM step").getInt();
}

std::vector<PastStep> pastSteps(Library& copy, const Work& now, std::size_t most)
{
    struct Row {
        std::string what;
        std::string place;
        Changes changes;
    };
    std::vector<Row> rows;
    {
        SQLite::Statement query(copy.database(), "SELECT what, place, changes FROM step ORDER BY "
                                                 "number DESC LIMIT ?");
        query.bind(1, static_cast<std::int64_t>(most));
        while (query.executeStep()) {
            const SQLite::Column changes = query.getColumn(2);
            rows.push_back({query.getColumn(0).getString(), query.getColumn(1).getString(),
                            Changes(static_cast<const char*>(changes.getBlob()),
                                    static_cast<std::size_t>(changes.getBytes()))});
        }
    }
    copy.database().exec("PRAGMA foreign_keys = OFF"); // each row's change stands by itself
    std::vector<PastStep> steps;
    Work after = now;
    for (Row& row : rows) {
        const Touched touched = touchedBy(row.changes);
        if (!takeBack(row.changes, copy.database()))
            break;
        LoadedWork loaded = loadTouched(copy, after, touched);
        if (!std::ranges::all_of(loaded.problems, staysInLibrary))
            break; // what cannot be read is not brought back
        Work before = std::move(loaded.work);
        steps.push_back({std::move(row.what), std::move(row.place), WorkStep(before, after)});
        after = std::move(before);
    }
    std::ranges::reverse(steps);
    return steps;
}

} // namespace sieve::library
