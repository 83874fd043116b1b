#include "core/base/toml_table.h"
#include "core/imports/table_file.h"
#include "core/library/folder_form.h"
#include "core/library/library.h"
#include "core/library/library_folder.h"
#include "core/library/pictures.h"
#include "core/library/schema.h"
#include "core/storage/file_aside.h"
#include "core/watchlists/entry.h"

#include <algorithm>
#include <charconv>
#include <fmt/format.h>

namespace sieve::library {

namespace {

namespace fs = std::filesystem;
using FolderCells = std::vector<std::string>;

/// Empty: a text that does not begin with the head of a note, or a head without a day.
std::optional<std::vector<watchlists::Note>> notesIn(std::string_view text)
{
    std::vector<watchlists::Note> notes;
    bool isFirstLine = false;
    while (!text.empty()) {
        const std::size_t end = std::min(text.find('\n'), text.size());
        std::string_view line = text.substr(0, end);
        text.remove_prefix(std::min(end + 1, text.size()));
        if (line.starts_with("## ")) {
            const auto on = Day::parse(line.substr(3));
            if (!on)
                return std::nullopt;
            notes.push_back({*on, {}});
            isFirstLine = true;
            continue;
        }
        if (notes.empty())
            return std::nullopt;
        if (looksLikeHead(line))
            line.remove_prefix(1);
        if (!std::exchange(isFirstLine, false))
            notes.back().text += '\n';
        notes.back().text += line;
    }
    return notes;
}

/// What is wrong with a folder; caught by readFolder() alone.
struct FolderFault {
    LocatedError error;
};

class FolderReader {
public:
    FolderReader(Library& library, fs::path folder) : library_(library), folder_(std::move(folder))
    {
    }

    void read()
    {
        readHead();
        readLists();
        readCandidates();
        for (const FolderCells& row : rowsOf("screens.csv", 2)) {
            const std::int64_t id = number(row[0]);
            library_.execute("INSERT INTO screen (id, name, toml) VALUES (?, ?, ?)", id, row[1],
                             get("screens/" + row[0] + ".toml"));
        }
        for (const FolderCells& row : rowsOf("versions.csv", 3)) {
            const std::int64_t version = number(row[0]);
            library_.execute(
                "INSERT INTO screen_version (number, screen, saved_at, toml) VALUES (?, ?, ?, ?)",
                version, row[1], row[2], get("versions/" + row[0] + ".toml"));
        }
        readNamed("drafts", "INSERT INTO draft (name, toml) VALUES (?, ?)");
        readNamed("fields", "INSERT INTO own_field (name, toml) VALUES (?, ?)");
        for (const NumberedFolder& each : numberedFolders)
            readNumbered(each);
        readTrials();
        readSettings();
        addPictures(library_.file(), folder_ / "pictures");
    }

private:
    [[noreturn]] void fail(const std::string& problem, std::size_t line = 1) const
    {
        throw FolderFault{{{line, 1, 0, 0, 0},
                           fmt::format("{}: {}", file_.string(), problem),
                           "take the folder as it was written"}};
    }

    std::string get(const fs::path& name)
    {
        file_ = name;
        if (!fs::is_regular_file(folder_ / name))
            fail("this file is missing");
        return storage::readWhole(folder_ / name);
    }

    std::string getIfThere(const fs::path& name)
    {
        return fs::exists(folder_ / name) ? get(name) : std::string();
    }

    std::vector<FolderCells> rowsOf(const fs::path& name, std::size_t columns)
    {
        const std::string text = get(name);
        auto table = imports::tableOfText(text);
        if (!table)
            fail(table.error().problem, table.error().where.line);
        if (table->isCut)
            fail("this file has more rows than can be read");
        for (std::size_t row = 0; row < table->rows.size(); ++row)
            if (table->rows[row].size() != columns)
                fail(fmt::format("this row has {} cells in place of {}", table->rows[row].size(),
                                 columns),
                     table->lines[row]);
        if (table->rows.empty())
            fail("the heads are missing");
        table->rows.erase(table->rows.begin());
        return std::move(table->rows);
    }

    std::int64_t number(std::string_view text) const
    {
        std::int64_t value = 0;
        const auto [end, error] = std::from_chars(text.data(), text.data() + text.size(), value);
        if (error != std::errc() || end != text.data() + text.size())
            fail(fmt::format("“{}” is no number", text));
        return value;
    }

    int day(const std::string& text) const
    {
        const auto day = Day::parse(text);
        if (!day)
            fail(fmt::format("“{}” is no day such as 2025-03-14", text));
        return day->serial();
    }

    void bindPrice(SQLite::Statement& statement, int at, const std::string& text) const
    {
        if (text.empty())
            return statement.bind(at);
        char* end = nullptr;
        const double price = std::strtod(text.c_str(), &end);
        if (*end != '\0')
            fail(fmt::format("“{}” is no price", text));
        statement.bind(at, price);
    }

    template <class Read> auto tomlOf(const fs::path& name, Read read)
    {
        auto value = readToml(get(name), "take the folder as it was written", read);
        if (!value)
            fail(value.error().problem, value.error().where.line);
        return *std::move(value);
    }

    void readHead()
    {
        const auto [version, next] = tomlOf("library.toml", [](const toml::table& file) {
            return std::pair(valueOr<std::int64_t>(file, "version", 0),
                             valueOr<std::int64_t>(file, "next_number", 1));
        });
        const auto newest = static_cast<std::int64_t>(migrations().size());
        if (version < oldestFolderVersion || version > newest)
            fail(fmt::format("it is of version {}, this program reads {} to {}", version,
                             oldestFolderVersion, newest));
        version_ = version;
        library_.execute("UPDATE next_id SET value = ?", next);
    }

    void readLists()
    {
        std::vector<std::string> names;
        if (fs::is_directory(folder_ / "lists"))
            for (const auto& each : fs::directory_iterator(folder_ / "lists"))
                if (each.is_directory())
                    names.push_back(each.path().filename().string());
        std::ranges::sort(names);
        for (std::size_t place = 0; place < names.size(); ++place) {
            const fs::path folder = fs::path("lists") / names[place];
            const std::int64_t id = tomlOf(folder / "list.toml", [&](const toml::table& file) {
                const auto text = [&file](const char* key) {
                    return valueOr<std::string>(file, key, {});
                };
                const auto number = valueOr<std::int64_t>(file, "id", 0);
                library_.execute("INSERT INTO watchlist (id, name, position, folder, screen, "
                                 "columns, is_archived) VALUES (?, ?, ?, ?, ?, ?, ?)",
                                 number, text("name"), static_cast<std::int64_t>(place),
                                 text("folder"), text("screen"), text("columns"),
                                 valueOr<bool>(file, "archived", false) ? 1 : 0);
                return number;
            });
            readEntries(folder, id, false);
            readEntries(folder, id, true);
        }
    }

    void readEntries(const fs::path& folder, std::int64_t list, bool haveLeft)
    {
        const fs::path csv = folder / (haveLeft ? "left.csv" : "entries.csv");
        SQLite::Statement insert(
            library_.database(),
            haveLeft ? "INSERT INTO former_entry (watchlist, position, symbol, added_on, "
                       "price_then, reason, source, plan, page, left_on, price_left, reason_left) "
                       "VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)"
                     : "INSERT INTO entry (watchlist, position, symbol, added_on, price_then, "
                       "reason, source, plan, page) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)");
        int position = 0;
        for (const FolderCells& row : rowsOf(csv, haveLeft ? 9 : 6)) {
            file_ = csv;
            insert.bind(1, list);
            insert.bind(2, position++);
            insert.bind(3, row[1]);
            insert.bind(4, day(row[2]));
            bindPrice(insert, 5, row[3]);
            insert.bind(6, row[4]);
            insert.bind(7, row[5]);
            if (haveLeft) {
                insert.bind(10, day(row[6]));
                bindPrice(insert, 11, row[7]);
                insert.bind(12, row[8]);
            }
            const std::string begin =
                fmt::format("{}{:04} ", haveLeft ? "left " : "", number(row[0]));
            insert.bind(8, getIfThere(folder / (begin + "plan.toml")));
            insert.bind(9, pageText(folder, begin));
            insert.exec();
            insert.reset();
        }
    }

    std::string pageText(const fs::path& folder, const std::string& begin)
    {
        if (const fs::path whole = folder / (begin + "whole page.toml");
            fs::exists(folder_ / whole))
            return get(whole);
        const std::string notes = getIfThere(folder / (begin + "notes.md"));
        const fs::path name = folder / (begin + "page.toml");
        const std::string text = getIfThere(name);
        auto page = watchlists::entryPageFromToml(text);
        if (!page)
            fail(page.error().problem, page.error().where.line);
        auto read = notesIn(notes);
        if (!read) {
            file_ = folder / (begin + "notes.md");
            fail("each note begins with a line such as ## 2025-03-14");
        }
        page->notes = *std::move(read);
        return toToml(*page);
    }

    void readCandidates()
    {
        int position = 0;
        for (const FolderCells& row : rowsOf("candidates.csv", 6)) {
            file_ = "candidates.csv";
            library_.execute("INSERT INTO card (position, symbol, taken_on, mark, source, reason, "
                             "plan) VALUES (?, ?, ?, ?, ?, ?, ?)",
                             position++, row[1], day(row[2]), row[3], row[4], row[5],
                             getIfThere(fmt::format("candidates/{:04} plan.toml", number(row[0]))));
        }
    }

    void readTrials()
    {
        SQLite::Statement insert(library_.database(), "INSERT INTO trial (idea, kind, question, "
                                                      "tried_on, sharpe) VALUES (?, ?, ?, ?, ?)");
        if (version_ < versionWithTrials)
            return;
        for (const FolderCells& row : rowsOf("trials.csv", 5)) {
            file_ = "trials.csv";
            insert.bind(1, row[0]);
            insert.bind(2, row[1]);
            insert.bind(3, row[2]);
            insert.bind(4, day(row[3]));
            bindPrice(insert, 5, row[4]);
            insert.exec();
            insert.reset();
        }
    }

    void readNamed(const std::string& folder, const char* insert)
    {
        for (const FolderCells& row : rowsOf(folder + ".csv", 2))
            library_.execute(insert, row[1],
                             get(fmt::format("{}/{:03}.toml", folder, number(row[0]))));
    }

    void readNumbered(const NumberedFolder& each)
    {
        const fs::path folder = folder_ / each.folder;
        if (!fs::is_directory(folder))
            return;
        const std::string insert =
            fmt::format("INSERT INTO {} (id, toml) VALUES (?, ?)", each.table);
        for (const auto& file : fs::directory_iterator(folder)) {
            file_ = fs::path(each.folder) / file.path().filename();
            library_.execute(insert.c_str(), number(file.path().stem().string()), get(file_));
        }
    }

    void readSettings()
    {
        library_.database().exec("DELETE FROM setting");
        const char* insert = "INSERT INTO setting (key, value) VALUES (?, ?)";
        for (const FolderCells& row : rowsOf("settings.csv", 2))
            library_.execute(insert, row[0], row[1]);
        if (!fs::is_directory(folder_ / "settings"))
            return;
        for (const auto& file : fs::directory_iterator(folder_ / "settings"))
            library_.execute(insert, file.path().stem().string(),
                             get(fs::path("settings") / file.path().filename()));
    }

    Library& library_;
    fs::path folder_;
    std::int64_t version_ = 0;
    fs::path file_; ///< the one that is being read, for what is wrong with it
};

} // namespace

std::optional<LocatedError> readFolder(Library& library, const fs::path& folder)
{
    try {
        library.inTransaction([&] { FolderReader(library, folder).read(); });
    } catch (const FolderFault& fault) {
        return fault.error;
    }
    return std::nullopt;
}

} // namespace sieve::library
