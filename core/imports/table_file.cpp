#include "core/imports/table_file.h"

#include "core/base/csv_cell.h"
#include "core/intake/csv.h"
#include "core/storage/file_aside.h"

#include <algorithm>
#include <fmt/format.h>
#include <nlohmann/json.hpp>
#include <system_error>

namespace sieve::imports {

namespace {

LocatedError faultOf(std::size_t line, std::string problem, std::string remedy)
{
    return {{static_cast<std::uint32_t>(line), 1, 0, 0, 0}, std::move(problem), std::move(remedy)};
}

/// What parts the cells of a text: the one of these that its first line has most of.
char separatorOf(std::string_view text)
{
    const std::string_view line = text.substr(0, text.find('\n'));
    char separator = ',';
    std::ptrdiff_t most = std::ranges::count(line, separator);
    for (const char each : {'\t', ';'})
        if (const auto count = std::ranges::count(line, each); count > most) {
            separator = each;
            most = count;
        }
    return separator;
}

bool isEmptyRow(const std::vector<std::string>& row)
{
    return std::ranges::all_of(row, [](const std::string& cell) { return cell.empty(); });
}

} // namespace

Result<Table> tableOfText(std::string_view text)
{
    intake::CsvReader reader(text, separatorOf(text));
    Table table;
    while (reader.next()) {
        if (reader.isTooLong())
            return faultOf(reader.line(), "this row is longer than a row can be",
                           "look for a quote that is not closed");
        if (table.rows.size() == mostRows) {
            table.isCut = true;
            break;
        }
        std::vector<std::string> row;
        for (const std::string_view cell : reader.cells())
            if (row.size() < mostColumns)
                row.emplace_back(plainCell(cell));
        if (isEmptyRow(row))
            continue;
        table.rows.push_back(std::move(row));
        table.lines.push_back(reader.line());
    }
    if (reader.endsInsideQuotes())
        return faultOf(table.lines.empty() ? 1 : table.lines.back(),
                       "the text ends inside quotes that begin in this row", "close the quotes");
    return table;
}

Result<Table> tableOfJson(std::string_view text)
{
    using Json = nlohmann::ordered_json;
    Json all;
    try {
        all = Json::parse(text);
    } catch (const Json::parse_error& error) {
        const auto upTo = text.substr(0, std::min<std::size_t>(error.byte, text.size()));
        return faultOf(1 + static_cast<std::size_t>(std::ranges::count(upTo, '\n')),
                       "this is no JSON", "write an array of objects: [{\"symbol\": \"VRRA\"}]");
    }
    const auto noArray =
        faultOf(1, "this JSON is no array of objects", "write [{\"symbol\": \"VRRA\"}]");
    if (!all.is_array())
        return noArray;
    Table table;
    std::vector<std::string> keys;
    for (const Json& object : all) {
        if (!object.is_object())
            return noArray;
        for (const auto& [key, value] : object.items())
            if (std::ranges::find(keys, key) == keys.end() && keys.size() < mostColumns)
                keys.push_back(key);
    }
    table.rows.push_back(keys);
    table.lines.push_back(1);
    for (const Json& object : all) {
        if (table.rows.size() > mostRows) {
            table.isCut = true;
            break;
        }
        std::vector<std::string> row;
        for (const std::string& key : keys) {
            const auto value = object.find(key);
            if (value == object.end() || value->is_null())
                row.emplace_back();
            else if (value->is_string())
                row.push_back(value->get<std::string>());
            else
                row.push_back(value->dump());
        }
        table.rows.push_back(std::move(row));
        table.lines.push_back(table.rows.size() - 1); // the number of the object
    }
    return table;
}

Result<Table> readTable(const std::filesystem::path& file)
{
    std::error_code fault;
    const auto size = std::filesystem::file_size(file, fault);
    if (fault)
        return faultOf(1, fmt::format("{} cannot be read: {}", file.string(), fault.message()),
                       "choose a file");
    if (size > mostBytes)
        return faultOf(1, "this file is larger than 64 MB", "lists are smaller: choose another");
    std::string bytes;
    try {
        bytes = storage::readWhole(file);
    } catch (const std::system_error& error) {
        return faultOf(1, error.what(), "choose another file");
    }
    if (bytes.starts_with("PK"))
        return tableOfWorkbook(bytes);
    const std::size_t first = bytes.find_first_not_of(" \t\r\n\xEF\xBB\xBF");
    if (first != std::string::npos && bytes[first] == '[')
        return tableOfJson(std::string_view(bytes).substr(first));
    return tableOfText(bytes);
}

} // namespace sieve::imports
