#include "core/language/number.h"

#include "core/language/token.h"

#include <array>
#include <charconv>
#include <cmath>

namespace sieve::language {

namespace {

struct Ending {
    std::string_view mark;
    double factor;
};

constexpr std::array<Ending, 4> endings{{{"", 1.0}, {"k", 1e3}, {"M", 1e6}, {"B", 1e9}}};

} // namespace

Result<NumberLiteral> parseNumber(std::string_view text)
{
    double value = 0.0;
    const auto [end, fault] =
        std::from_chars(text.data(), text.data() + text.size(), value, std::chars_format::fixed);
    if (fault != std::errc() || !std::isfinite(value)) // from_chars also reads "nan" and "inf"
        return LocatedError{rangeOf(text, text), "not a number", "write 1.5, 2M or 15%"};
    const std::string_view ending = text.substr(static_cast<std::size_t>(end - text.data()));
    if (ending == "%")
        return NumberLiteral{value / 100.0, Unit::Percent};
    for (const auto& [mark, factor] : endings)
        if (ending == mark && std::isfinite(value * factor))
            return NumberLiteral{value * factor, Unit::Plain};
    return LocatedError{rangeOf(text, ending), "unknown ending of a number", "use k, M, B or %"};
}

} // namespace sieve::language
