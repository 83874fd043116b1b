#include "core/base/csv_cell.h"

namespace sieve {

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
