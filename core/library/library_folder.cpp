#include "core/library/library_folder.h"

#include "core/base/csv_cell.h"
#include "core/base/toml_table.h"
#include "core/imports/table_file.h"
#include "core/library/folder_form.h"
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
        writeTrials();
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

    void writeTrials()
    {
        std::string csv = "idea,kind,question,tried_on,sharpe\n";
        SQLite::Statement rows = query("SELECT idea, kind, question, tried_on, sharpe FROM trial "
                                       "ORDER BY idea, kind, question");
        while (rows.executeStep())
            csv += csvRow({rows.getColumn(0).getString(), rows.getColumn(1).getString(),
                           rows.getColumn(2).getString(), dayText(rows, 3), priceText(rows, 4)});
        put("trials.csv", csv);
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
            if (value.find('\n') != std::string::npos && isKeyWord(key))
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

} // namespace sieve::library
