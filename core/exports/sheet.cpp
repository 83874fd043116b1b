#include "core/exports/sheet.h"

#include "core/base/csv_cell.h"
#include "core/base/missing.h"
#include "core/storage/file_aside.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace sieve::exports {

namespace {

std::string figure(double value)
{
    return fmt::format("{:.17g}", value);
}

} // namespace

Cell cellOf(double value, Kind kind, const market::TextTable& texts)
{
    if (isMissing(value))
        return {};
    switch (kind) {
    case Kind::YesNo:
        return value == 1.0;
    case Kind::Text:
        return texts.textOf(value);
    case Kind::Day:
        return Day::fromSerial(static_cast<std::int32_t>(value));
    case Kind::Number:
        break;
    }
    return value;
}

namespace {

/// A line a row, `between` the cells; texts as `textOf` gives them.
template <class TextOf>
std::string linesOf(const Sheet& sheet, std::string_view between, TextOf textOf)
{
    std::string lines;
    for (std::size_t i = 0; i < sheet.columns.size(); ++i)
        lines.append(i == 0 ? "" : between).append(textOf(sheet.columns[i]));
    lines += '\n';
    for (const auto& row : sheet.rows) {
        for (std::size_t i = 0; i < row.size(); ++i) {
            lines += i == 0 ? "" : between;
            if (const auto* value = std::get_if<double>(&row[i]))
                lines += figure(*value);
            else if (const auto* isYes = std::get_if<bool>(&row[i]))
                lines += *isYes ? "yes" : "no";
            else if (const auto* text = std::get_if<std::string>(&row[i]))
                lines += textOf(harmlessCell(*text));
            else if (const auto* day = std::get_if<Day>(&row[i]))
                lines += day->iso();
        }
        lines += '\n';
    }
    return lines;
}

} // namespace

std::string toCsv(const Sheet& sheet)
{
    return linesOf(sheet, ",", [](const std::string& text) { return csvCell(text); });
}

std::string toTabs(const Sheet& sheet)
{
    return linesOf(sheet, "\t", [](std::string text) {
        std::ranges::replace_if(
            text, [](char c) { return c == '\t' || c == '\n' || c == '\r'; }, ' ');
        return text;
    });
}

std::string toJson(const Sheet& sheet)
{
    // Written out by hand but for the texts, so that a figure has the same digits as in CSV.
    const auto text = [](const std::string& each) {
        return nlohmann::json(each).dump(-1, ' ', false, nlohmann::json::error_handler_t::replace);
    };
    std::string json = "[";
    for (std::size_t r = 0; r < sheet.rows.size(); ++r) {
        json += r == 0 ? "\n {" : ",\n {";
        for (std::size_t i = 0; i < sheet.columns.size(); ++i) {
            const Cell& cell = sheet.rows[r][i];
            json += (i == 0 ? "" : ", ") + text(sheet.columns[i]) + ": ";
            if (const auto* value = std::get_if<double>(&cell))
                json += std::isfinite(*value) ? figure(*value) : "null";
            else if (const auto* isYes = std::get_if<bool>(&cell))
                json += *isYes ? "true" : "false";
            else if (const auto* each = std::get_if<std::string>(&cell))
                json += text(*each);
            else if (const auto* day = std::get_if<Day>(&cell))
                json += text(day->iso());
            else
                json += "null";
        }
        json += '}';
    }
    return json + "\n]\n";
}

void writeSheet(const std::filesystem::path& file, const Sheet& sheet)
{
    const std::filesystem::path ending = file.extension();
    if (ending == ".xlsx")
        return writeWorkbook(file, sheet);
    storage::writeWhole(file, ending == ".json"  ? toJson(sheet)
                              : ending == ".tsv" ? toTabs(sheet)
                                                 : toCsv(sheet));
}

} // namespace sieve::exports
