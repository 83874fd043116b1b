#include "cli/answer.h"

#include "core/base/csv_cell.h"
#include "core/base/day.h"
#include "core/base/missing.h"

#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace sieve::cli {

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
        return texts.text(static_cast<std::uint32_t>(value));
    case Kind::Day:
        return Day::fromSerial(static_cast<std::int32_t>(value)).iso();
    case Kind::Number:
        break;
    }
    return value;
}

std::string toCsv(const Answer& answer)
{
    std::string csv;
    for (std::size_t i = 0; i < answer.columns.size(); ++i)
        csv += (i == 0 ? "" : ",") + csvCell(answer.columns[i]);
    csv += '\n';
    for (const auto& row : answer.rows) {
        for (std::size_t i = 0; i < row.size(); ++i) {
            csv += i == 0 ? "" : ",";
            if (const auto* value = std::get_if<double>(&row[i]))
                csv += figure(*value);
            else if (const auto* isYes = std::get_if<bool>(&row[i]))
                csv += *isYes ? "yes" : "no";
            else if (const auto* text = std::get_if<std::string>(&row[i]))
                csv += csvCell(*text);
        }
        csv += '\n';
    }
    return csv;
}

std::string toJson(const Answer& answer)
{
    // Written out by hand but for the texts, so that a figure has the same digits as in CSV.
    const auto text = [](const std::string& each) {
        return nlohmann::json(each).dump(-1, ' ', false, nlohmann::json::error_handler_t::replace);
    };
    std::string json = "[";
    for (std::size_t r = 0; r < answer.rows.size(); ++r) {
        json += r == 0 ? "\n {" : ",\n {";
        for (std::size_t i = 0; i < answer.columns.size(); ++i) {
            const Cell& cell = answer.rows[r][i];
            json += (i == 0 ? "" : ", ") + text(answer.columns[i]) + ": ";
            if (const auto* value = std::get_if<double>(&cell))
                json += std::isfinite(*value) ? figure(*value) : "null";
            else if (const auto* isYes = std::get_if<bool>(&cell))
                json += *isYes ? "true" : "false";
            else if (const auto* each = std::get_if<std::string>(&cell))
                json += text(*each);
            else
                json += "null";
        }
        json += '}';
    }
    return json + "\n]\n";
}

} // namespace sieve::cli
