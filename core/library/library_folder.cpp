#include "core/library/library_folder.h"

#include "core/base/csv_cell.h"
#include "core/base/toml_table.h"
#include "core/imports/table_file.h"
#include "core/library/library.h"
#include "core/library/pictures.h"
#include "core/library/schema.h"
#include "core/storage/file_aside.h"
#include "core/watchlists/entry.h"

#include <algorithm>
#include <array>
#include <charconv>
#include <fmt/format.h>
#include <fstream>
#include <system_error>

namespace sieve::library {

namespace fs = std::filesystem;

namespace {

using Cells = std::vector<std::string>;

/// Tables of a number and one text, and the folders that they are in.
struct NumberedFolder {
    const char* table;
    const char* folder;
};
constexpr std::array numberedFolders{
    NumberedFolder{"drawing", "drawings"}, NumberedFolder{"verdict", "verdicts"},
    NumberedFolder{"alert", "alerts"}, NumberedFolder{"raised", "told"}};

constexpr const char* readMe =
    "This is a library of Wise Sieve as open text: lists with their entries, notes and plans,\n"
    "screens, drawings, alerts and all else that a person keeps there. CSV files begin with a "
    "line\n"
    "of heads; a cell that a spreadsheet would run stands behind an apostrophe. Wise Sieve reads\n"
    "the folder back.\n";

/// A name as a part of a file's name: it may be changed there, the text in the file counts.
std::string fileName(std::string_view name)
{
    constexpr std::size_t longest = 40;
    std::string plain;
    for (const char c : name) {
        const auto byte = static_cast<unsigned char>(c);
        const bool beginsLetter = byte < 0x80 || byte >= 0xC0;
        if (beginsLetter && plain.size() >= longest)
            break;
        const bool isFine = byte >= 0x80 || std::isalnum(byte) != 0 || c == ' ' || c == '-';
        plain += isFine ? c : '-';
    }
    while (!plain.empty() && plain.back() == ' ')
        plain.pop_back();
    return plain;
}

// Notes as Markdown: a head "## 2025-03-14" a note. A line of a note that looks like one, or that
// begins as such a line is kept from that, stands behind a backslash.

bool looksLikeHead(std::string_view line)
{
    while (line.starts_with('\\'))
        line.remove_prefix(1);
    return line.starts_with("## ");
}

std::string markdownOf(const std::vector<watchlists::Note>& notes)
{
    std::string text;
    for (const watchlists::Note& note : notes) {
        text += "## " + note.on.iso() + "\n";
        for (std::size_t at = 0; at <= note.text.size();) {
            const std::size_t end = std::min(note.text.find('\n', at), note.text.size());
            const std::string_view line = std::string_view(note.text).substr(at, end - at);
            text += looksLikeHead(line) ? "\\" : "";
            text.append(line).append("\n");
            at = end + 1;
        }
    }
    return text;
}

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

class FolderWriter {
public:
    FolderWriter(Library& library, fs::path folder) : library_(library), folder_(std::move(folder))
    {
    }

    void write()
    {
        put("README.txt", readMe);
        put("library.toml",
            fmt::format("version = {}\nnext_number = {}\n", migrations().size(),
                        library_.database().execAndGet("SELECT value FROM next_id").getInt64()));
        writeLists();
        writeCandidates();
        writeScreens();
        writeNamed("drafts", "SELECT name, toml FROM draft ORDER BY name");
        writeNamed("fields", "SELECT name, toml FROM own_field ORDER BY position");
        for (const NumberedFolder& each : numberedFolders) {
            SQLite::Statement rows =
                query(fmt::format("SELECT id, toml FROM {} ORDER BY id", each.table));
            while (rows.executeStep())
                put(fmt::format("{}/{}.toml", each.folder, rows.getColumn(0).getInt64()),
                    rows.getColumn(1).getString());
        }
        writeSettings();
        const fs::path pictures = library_.file().string() + ".pictures";
        if (!library_.file().empty() && fs::exists(pictures))
            fs::copy(pictures, folder_ / "pictures", fs::copy_options::recursive);
        storage::makeAllDurable(folder_);
    }

private:
    SQLite::Statement query(const std::string& sql) { return {library_.database(), sql}; }

    void put(const fs::path& name, std::string_view text)
    {
        const fs::path path = folder_ / name;
        fs::create_directories(path.parent_path());
        std::ofstream file(path, std::ios::binary);
        file.write(text.data(), static_cast<std::streamsize>(text.size()));
        file.close();
        if (!file)
            throw std::system_error(std::make_error_code(std::errc::io_error), path.string());
    }

    static std::string csvRow(const Cells& cells)
    {
        std::string row;
        for (std::size_t i = 0; i < cells.size(); ++i)
            row += (i == 0 ? "" : ",") + csvCell(harmlessCell(cells[i]));
        return row + "\n";
    }

    static std::string dayText(SQLite::Statement& row, int column)
    {
        return Day::fromSerial(row.getColumn(column).getInt()).iso();
    }

    static std::string priceText(SQLite::Statement& row, int column)
    {
        return row.getColumn(column).isNull()
                   ? std::string()
                   : fmt::format("{:.17g}", row.getColumn(column).getDouble());
    }

    void writeLists()
    {
        SQLite::Statement lists = query("SELECT id, name, folder, screen, columns, is_archived "
                                        "FROM watchlist ORDER BY position, id");
        for (int number = 1; lists.executeStep(); ++number) {
            const std::string name = lists.getColumn(1).getString();
            const fs::path folder =
                fs::path("lists") / fmt::format("{:03} {}", number, fileName(name));
            const std::int64_t id = lists.getColumn(0).getInt64();
            put(folder / "list.toml",
                fmt::format("id = {}\nname = {}\nfolder = {}\nscreen = {}\ncolumns = {}\n"
                            "archived = {}\n",
                            id, quotedToml(name), quotedToml(lists.getColumn(2).getString()),
                            quotedToml(lists.getColumn(3).getString()),
                            quotedToml(lists.getColumn(4).getString()),
                            lists.getColumn(5).getInt() != 0));
            writeEntries(folder, id, false);
            writeEntries(folder, id, true);
        }
    }

    void writeEntries(const fs::path& folder, std::int64_t list, bool haveLeft)
    {
        std::string csv = haveLeft ? "number,symbol,added_on,price_then,reason,source,left_on,"
                                     "price_left,reason_left\n"
                                   : "number,symbol,added_on,price_then,reason,source\n";
        SQLite::Statement rows = query(
            fmt::format("SELECT symbol, added_on, price_then, reason, source, plan, page{} FROM {} "
                        "WHERE watchlist = ? ORDER BY position",
                        haveLeft ? ", left_on, price_left, reason_left" : "",
                        haveLeft ? "former_entry" : "entry"));
        rows.bind(1, list);
        for (int number = 1; rows.executeStep(); ++number) {
            Cells cells{std::to_string(number),
                        rows.getColumn(0).getString(),
                        dayText(rows, 1),
                        priceText(rows, 2),
                        rows.getColumn(3).getString(),
                        rows.getColumn(4).getString()};
            if (haveLeft) {
                cells.push_back(dayText(rows, 7));
                cells.push_back(priceText(rows, 8));
                cells.push_back(rows.getColumn(9).getString());
            }
            csv += csvRow(cells);
            const std::string begin = fmt::format("{}{:04} ", haveLeft ? "left " : "", number);
            putIfThere(folder / (begin + "plan.toml"), rows.getColumn(5).getString());
            writePage(folder, begin, rows.getColumn(6).getString());
        }
        put(folder / (haveLeft ? "left.csv" : "entries.csv"), csv);
    }

    void writePage(const fs::path& folder, const std::string& begin, const std::string& toml)
    {
        auto page = watchlists::entryPageFromToml(toml);
        // One that cannot be read, or that another program wrote otherwise, goes along as it is.
        if (!page || toToml(*page) != toml)
            return putIfThere(folder / (begin + "whole page.toml"), toml);
        putIfThere(folder / (begin + "notes.md"), markdownOf(page->notes));
        page->notes.clear();
        putIfThere(folder / (begin + "page.toml"), toToml(*page));
    }

    void putIfThere(const fs::path& name, const std::string& text)
    {
        if (!text.empty())
            put(name, text);
    }

    void writeCandidates()
    {
        std::string csv = "number,symbol,taken_on,mark,source,reason\n";
        SQLite::Statement rows = query("SELECT symbol, taken_on, mark, source, reason, plan "
                                       "FROM card ORDER BY position");
        for (int number = 1; rows.executeStep(); ++number) {
            csv += csvRow({std::to_string(number), rows.getColumn(0).getString(), dayText(rows, 1),
                           rows.getColumn(2).getString(), rows.getColumn(3).getString(),
                           rows.getColumn(4).getString()});
            putIfThere(fmt::format("candidates/{:04} plan.toml", number),
                       rows.getColumn(5).getString());
        }
        put("candidates.csv", csv);
    }

    void writeScreens()
    {
        std::string csv = "id,name\n";
        SQLite::Statement rows = query("SELECT id, name, toml FROM screen ORDER BY id");
        while (rows.executeStep()) {
            csv += csvRow(
                {std::to_string(rows.getColumn(0).getInt64()), rows.getColumn(1).getString()});
            put(fmt::format("screens/{}.toml", rows.getColumn(0).getInt64()),
                rows.getColumn(2).getString());
        }
        put("screens.csv", csv);
        csv = "number,screen,saved_at\n";
        SQLite::Statement versions =
            query("SELECT number, screen, saved_at, toml FROM screen_version ORDER BY number");
        while (versions.executeStep()) {
            csv += csvRow({std::to_string(versions.getColumn(0).getInt64()),
                           versions.getColumn(1).getString(), versions.getColumn(2).getString()});
            put(fmt::format("versions/{}.toml", versions.getColumn(0).getInt64()),
                versions.getColumn(3).getString());
        }
        put("versions.csv", csv);
    }

    void writeNamed(const std::string& folder, const std::string& select)
    {
        std::string csv = "number,name\n";
        SQLite::Statement rows = query(select);
        for (int number = 1; rows.executeStep(); ++number) {
            csv += csvRow({std::to_string(number), rows.getColumn(0).getString()});
            put(fmt::format("{}/{:03}.toml", folder, number), rows.getColumn(1).getString());
        }
        put(folder + ".csv", csv);
    }

    void writeSettings()
    {
        std::string csv = "key,value\n";
        SQLite::Statement rows = query("SELECT key, value FROM setting ORDER BY key");
        while (rows.executeStep()) {
            const std::string key = rows.getColumn(0).getString();
            const std::string value = rows.getColumn(1).getString();
            if (value.find('\n') != std::string::npos && fileName(key) == key)
                put("settings/" + key + ".toml", value);
            else if (value.find('\n') != std::string::npos && isKeyWord(key))
                put("settings/" + key + ".toml", value);
            else
                csv += csvRow({key, value});
        }
        put("settings.csv", csv);
    }

    static bool isKeyWord(const std::string& key)
    {
        return !key.empty() && std::ranges::all_of(key, [](unsigned char c) {
            return std::isalnum(c) != 0 || c == '_';
        });
    }

    Library& library_;
    fs::path folder_;
};

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
        for (const Cells& row : rowsOf("screens.csv", 2)) {
            const std::int64_t id = number(row[0]);
            library_.execute("INSERT INTO screen (id, name, toml) VALUES (?, ?, ?)", id, row[1],
                             get("screens/" + row[0] + ".toml"));
        }
        for (const Cells& row : rowsOf("versions.csv", 3)) {
            const std::int64_t version = number(row[0]);
            library_.execute(
                "INSERT INTO screen_version (number, screen, saved_at, toml) VALUES (?, ?, ?, ?)",
                version, row[1], row[2], get("versions/" + row[0] + ".toml"));
        }
        readNamed("drafts", "INSERT INTO draft (name, toml) VALUES (?, ?)");
        readNamed("fields", "INSERT INTO own_field (name, toml) VALUES (?, ?)");
        for (const NumberedFolder& each : numberedFolders)
            readNumbered(each);
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

    std::vector<Cells> rowsOf(const fs::path& name, std::size_t columns)
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
        if (version != static_cast<std::int64_t>(migrations().size()))
            fail(fmt::format("it is of version {}, this program writes and reads {}", version,
                             migrations().size()));
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
        for (const Cells& row : rowsOf(csv, haveLeft ? 9 : 6)) {
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
        for (const Cells& row : rowsOf("candidates.csv", 6)) {
            file_ = "candidates.csv";
            library_.execute("INSERT INTO card (position, symbol, taken_on, mark, source, reason, "
                             "plan) VALUES (?, ?, ?, ?, ?, ?, ?)",
                             position++, row[1], day(row[2]), row[3], row[4], row[5],
                             getIfThere(fmt::format("candidates/{:04} plan.toml", number(row[0]))));
        }
    }

    void readNamed(const std::string& folder, const char* insert)
    {
        for (const Cells& row : rowsOf(folder + ".csv", 2))
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
        for (const Cells& row : rowsOf("settings.csv", 2))
            library_.execute(insert, row[0], row[1]);
        if (!fs::is_directory(folder_ / "settings"))
            return;
        for (const auto& file : fs::directory_iterator(folder_ / "settings"))
            library_.execute(insert, file.path().stem().string(),
                             get(fs::path("settings") / file.path().filename()));
    }

    Library& library_;
    fs::path folder_;
    fs::path file_; ///< the one that is being read, for what is wrong with it
};

} // namespace

void writeFolder(Library& library, const fs::path& folder)
{
    if (fs::exists(folder) && !fs::is_empty(folder))
        throw std::system_error(std::make_error_code(std::errc::directory_not_empty),
                                folder.string());
    const fs::path part = folder.string() + ".part";
    fs::remove_all(part);
    fs::create_directories(part);
    FolderWriter(library, part).write();
    fs::remove(folder); // an empty one
    fs::rename(part, folder);
    storage::makeDurable(folder.has_parent_path() ? folder.parent_path() : ".");
}

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
