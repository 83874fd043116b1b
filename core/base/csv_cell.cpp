#include "core/base/csv_cell.h"

namespace sieve {

namespace {

/// Whether a formula begins behind so many apostrophes, or none.
bool beginsFormula(std::string_view text)
{
    const std::size_t first = text.find_first_not_of('\'');
    return first != std::string_view::npos &&
           std::string_view("=+-@\t\r").find(text[first]) != std::string_view::npos;
}

} // namespace

std::string harmlessCell(std::string_view text)
{
    return beginsFormula(text) ? "'" + std::string(text) : std::string(text);
}

std::string_view plainCell(std::string_view cell)
{
    return cell.starts_with('\'') && beginsFormula(cell) ? cell.substr(1) : cell;
}

std::string csvCell(std::string_view text)
{
    if (text.find_first_of("\",\r\n") == std::string_view::npos)
        return std::string(text);
    std::string cell = "\"";
    for (const char c : text) {
        cell += c;
        if (c == '"')
            cell += '"';
    }
    return cell + '"';
}

} // namespace sieve
