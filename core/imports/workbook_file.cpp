#include "core/base/day.h"
#include "core/imports/table_file.h"

#include <algorithm>
#include <charconv>
#include <cmath>
#include <fmt/format.h>
#include <memory>
#include <optional>
#include <pugixml.hpp>
#include <zip.h>

// A workbook is a zip of XML files. Only what a table needs of it is read.

namespace sieve::imports {

namespace {

/// What cannot be read of a workbook; caught by tableOfWorkbook() alone.
struct WorkbookFault {
    std::string problem;
};

class Archive {
public:
    explicit Archive(std::string_view bytes)
    {
        zip_error_t error;
        zip_error_init(&error);
        zip_source_t* source = zip_source_buffer_create(bytes.data(), bytes.size(), 0, &error);
        if (source)
            zip_ = zip_open_from_source(source, ZIP_RDONLY, &error);
        if (source && !zip_)
            zip_source_free(source);
        zip_error_fini(&error);
        if (!zip_)
            throw WorkbookFault{"this is no whole workbook"};
    }
    ~Archive() { zip_discard(zip_); }
    Archive(const Archive&) = delete;
    Archive& operator=(const Archive&) = delete;

    /// Empty where there is no such part. All parts together are bounded, whatever they say of
    /// their size.
    std::optional<std::string> part(const std::string& name)
    {
        zip_file_t* file = zip_fopen(zip_, name.c_str(), 0);
        if (!file)
            return std::nullopt;
        const std::unique_ptr<zip_file_t, decltype(&zip_fclose)> closed(file, &zip_fclose);
        std::string text;
        char buffer[65536];
        zip_int64_t read = 0;
        while ((read = zip_fread(file, buffer, sizeof buffer)) > 0) {
            text.append(buffer, static_cast<std::size_t>(read));
            unpacked_ += static_cast<std::size_t>(read);
            if (unpacked_ > mostBytes)
                throw WorkbookFault{"this workbook holds more than 64 MB"};
        }
        if (read < 0)
            throw WorkbookFault{fmt::format("its part {} is damaged", name)};
        return text;
    }

private:
    zip_t* zip_ = nullptr;
    std::size_t unpacked_ = 0;
};

/// Names without the prefix that a writer may give them.
std::string_view plainName(const pugi::xml_node& node)
{
    const std::string_view name = node.name();
    const std::size_t colon = name.find(':');
    return colon == name.npos ? name : name.substr(colon + 1);
}

pugi::xml_node childNamed(const pugi::xml_node& node, std::string_view name)
{
    for (const pugi::xml_node& child : node.children())
        if (plainName(child) == name)
            return child;
    return {};
}

std::string_view attributeNamed(const pugi::xml_node& node, std::string_view name)
{
    for (const pugi::xml_attribute& attribute : node.attributes()) {
        const std::string_view full = attribute.name();
        if (full == name || (full.size() > name.size() && full.ends_with(name) &&
                             full[full.size() - name.size() - 1] == ':'))
            return attribute.value();
    }
    return {};
}

pugi::xml_document parsed(const std::string& text, const std::string& name)
{
    pugi::xml_document document;
    if (!document.load_buffer(text.data(), text.size(),
                              pugi::parse_default | pugi::parse_ws_pcdata))
        throw WorkbookFault{fmt::format("its part {} is no XML", name)};
    return document;
}

std::optional<double> numberIn(std::string_view text)
{
    double number = 0.0;
    const auto [end, error] = std::from_chars(text.data(), text.data() + text.size(), number);
    return error == std::errc() && end == text.data() + text.size() && std::isfinite(number)
               ? std::optional(number)
               : std::nullopt;
}

/// All the text of an item, which may be cut into runs of different type; not how it is spoken.
void addText(const pugi::xml_node& node, std::string& text)
{
    for (const pugi::xml_node& child : node.children()) {
        const std::string_view name = plainName(child);
        if (name == "t")
            text += child.text().get();
        else if (name == "r")
            addText(child, text);
    }
}

/// Whether a format shows a number as a day.
bool isDayFormat(int id, std::string_view code)
{
    if ((id >= 14 && id <= 17) || id == 22)
        return true;
    bool isQuoted = false;
    bool isInBrackets = false;
    bool hasDay = false;
    bool hasYear = false;
    for (const char c : code) {
        isQuoted = c == '"' ? !isQuoted : isQuoted;
        isInBrackets = c == '[' || (isInBrackets && c != ']');
        if (isQuoted || isInBrackets)
            continue;
        hasDay = hasDay || c == 'd' || c == 'D';
        hasYear = hasYear || c == 'y' || c == 'Y';
    }
    return hasDay || hasYear;
}

class Workbook {
public:
    explicit Workbook(std::string_view bytes) : archive_(bytes) {}

    Table read()
    {
        const std::string sheet = firstSheet();
        readTexts();
        readFormats();
        const auto text = archive_.part(sheet);
        if (!text)
            throw WorkbookFault{"it holds no sheet"};
        const pugi::xml_document document = parsed(*text, sheet);
        Table table;
        std::size_t line = 0;
        for (const pugi::xml_node& row :
             childNamed(childNamed(document, "worksheet"), "sheetData").children()) {
            if (plainName(row) != "row")
                continue;
            const auto number = numberIn(attributeNamed(row, "r"));
            line = number && *number >= 1.0 && *number < 1e7 ? static_cast<std::size_t>(*number)
                                                             : line + 1;
            std::vector<std::string> cells = cellsOf(row);
            if (std::ranges::all_of(cells, [](const std::string& cell) { return cell.empty(); }))
                continue;
            if (table.rows.size() == mostRows) {
                table.isCut = true;
                break;
            }
            table.rows.push_back(std::move(cells));
            table.lines.push_back(line);
        }
        return table;
    }

private:
    /// The part in which the first sheet stands.
    std::string firstSheet()
    {
        const std::string book = "xl/workbook.xml";
        const std::string links = "xl/_rels/workbook.xml.rels";
        const auto bookText = archive_.part(book);
        const auto linkText = archive_.part(links);
        if (!bookText || !linkText)
            throw WorkbookFault{"this is a zip, but no workbook"};
        const pugi::xml_document document = parsed(*bookText, book);
        const pugi::xml_node root = childNamed(document, "workbook");
        const std::string_view since = attributeNamed(childNamed(root, "workbookPr"), "date1904");
        isSince1904_ = since == "1" || since == "true";
        const pugi::xml_node sheet = childNamed(childNamed(root, "sheets"), "sheet");
        const std::string_view id = attributeNamed(sheet, "id");
        const pugi::xml_document linked = parsed(*linkText, links);
        for (const pugi::xml_node& link : childNamed(linked, "Relationships").children())
            if (attributeNamed(link, "Id") == id) {
                const std::string target(attributeNamed(link, "Target"));
                return target.starts_with('/') ? target.substr(1) : "xl/" + target;
            }
        throw WorkbookFault{"it holds no sheet"};
    }

    void readTexts()
    {
        const std::string name = "xl/sharedStrings.xml";
        const auto text = archive_.part(name);
        if (!text)
            return;
        const pugi::xml_document document = parsed(*text, name);
        for (const pugi::xml_node& item : childNamed(document, "sst").children())
            if (plainName(item) == "si")
                addText(item, texts_.emplace_back());
    }

    void readFormats()
    {
        const std::string name = "xl/styles.xml";
        const auto text = archive_.part(name);
        if (!text)
            return;
        const pugi::xml_document document = parsed(*text, name);
        const pugi::xml_node root = childNamed(document, "styleSheet");
        const auto codeOf = [&](std::string_view id) -> std::string_view {
            for (const pugi::xml_node& format : childNamed(root, "numFmts").children())
                if (attributeNamed(format, "numFmtId") == id)
                    return attributeNamed(format, "formatCode");
            return {};
        };
        for (const pugi::xml_node& cell : childNamed(root, "cellXfs").children()) {
            const std::string_view id = attributeNamed(cell, "numFmtId");
            areDays_.push_back(
                isDayFormat(static_cast<int>(numberIn(id).value_or(0.0)), codeOf(id)));
        }
    }

    std::vector<std::string> cellsOf(const pugi::xml_node& row) const
    {
        std::vector<std::string> cells;
        std::size_t column = 0;
        for (const pugi::xml_node& cell : row.children()) {
            if (plainName(cell) != "c")
                continue;
            column = columnOf(attributeNamed(cell, "r")).value_or(column);
            if (column >= mostColumns)
                break;
            cells.resize(std::max(cells.size(), column + 1));
            cells[column++] = textOf(cell);
        }
        return cells;
    }

    /// Of "AB12": 27.
    static std::optional<std::size_t> columnOf(std::string_view place)
    {
        std::size_t column = 0;
        for (const char c : place) {
            if (c < 'A' || c > 'Z')
                break;
            column = column * 26 + static_cast<std::size_t>(c - 'A') + 1;
            if (column > mostColumns)
                return mostColumns;
        }
        return column == 0 ? std::nullopt : std::optional(column - 1);
    }

    std::string textOf(const pugi::xml_node& cell) const
    {
        const std::string_view type = attributeNamed(cell, "t");
        if (type == "inlineStr") {
            std::string text;
            addText(childNamed(cell, "is"), text);
            return text;
        }
        const std::string value = childNamed(cell, "v").text().get();
        const auto number = numberIn(value);
        if (type == "s") {
            const bool isThere =
                number && *number >= 0.0 && *number < static_cast<double>(texts_.size());
            if (!isThere)
                throw WorkbookFault{fmt::format("its text {} is not there", value)};
            return texts_[static_cast<std::size_t>(*number)];
        }
        if (type == "b")
            return value == "1" ? "yes" : "no";
        if (type == "str" || type == "d")
            return value;
        if (type == "e" || !number)
            return {};
        const auto style = numberIn(attributeNamed(cell, "s")).value_or(0.0);
        const bool isDay = style >= 0.0 && style < static_cast<double>(areDays_.size()) &&
                           areDays_[static_cast<std::size_t>(style)];
        return isDay ? dayText(*number) : value;
    }

    /// Days are counted from the last of 1899, or from the first of 1904.
    std::string dayText(double number) const
    {
        constexpr int from1899 = -25569; // 1899-12-30, which is right from March 1900 on
        constexpr int from1904 = -24107; // 1904-01-01
        constexpr double most = 2'958'466.0;
        if (number < 0.0 || number > most)
            return {};
        return Day::fromSerial((isSince1904_ ? from1904 : from1899) + static_cast<int>(number))
            .iso();
    }

    Archive archive_;
    std::vector<std::string> texts_;
    std::vector<bool> areDays_; ///< a cell format
    bool isSince1904_ = false;
};

} // namespace

Result<Table> tableOfWorkbook(std::string_view bytes)
{
    try {
        return Workbook(bytes).read();
    } catch (const WorkbookFault& fault) {
        return LocatedError{
            {1, 1, 0, 0, 0}, fault.problem, "save it anew as a workbook, or as CSV"};
    }
}

} // namespace sieve::imports
