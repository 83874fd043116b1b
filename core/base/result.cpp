#include "core/base/result.h"

#include <cctype>
#include <fmt/format.h>

namespace sieve {

std::string sentence(const LocatedError& error)
{
    std::string remedy = error.remedy;
    if (!remedy.empty())
        remedy[0] = static_cast<char>(std::toupper(static_cast<unsigned char>(remedy[0])));
    const char* stop = remedy.empty() || remedy.back() == '?' ? "" : ".";
    return fmt::format("Line {}, column {}: {}. {}{}", error.where.line, error.where.column,
                       error.problem, remedy, stop);
}

} // namespace sieve
