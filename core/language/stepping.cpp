#include "core/language/stepping.h"

#include "core/language/token.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace sieve::language {

std::optional<std::string> withNumberStepped(std::string_view expression, std::size_t at, int by)
{
    const auto tokens = tokenize(expression);
    if (!tokens)
        return std::nullopt;
    const auto beginOf = [&](const Token& token) {
        return static_cast<std::size_t>(token.text.data() - expression.data());
    };
    const auto distance = [&](const Token& token) {
        const std::size_t begin = beginOf(token);
        const std::size_t end = begin + token.text.size();
        return at < begin ? begin - at : at > end ? at - end : 0;
    };
    const Token* nearest = nullptr;
    for (const Token& token : *tokens)
        if (token.kind == TokenKind::Number && (!nearest || distance(token) < distance(*nearest)))
            nearest = &token;
    if (!nearest)
        return std::nullopt;
    // What follows the digits, such as k or %, stays.
    const std::size_t digits =
        std::min(nearest->text.find_first_not_of("0123456789."), nearest->text.size());
    const std::string number(nearest->text.substr(0, digits));
    const std::size_t point = number.find('.');
    const int decimals =
        point == std::string::npos ? 0 : static_cast<int>(number.size() - point - 1);
    const double step = std::pow(10.0, -decimals);
    const double stepped = std::max(0.0, std::stod(number) + by * step);
    const std::size_t begin = beginOf(*nearest);
    return std::string(expression.substr(0, begin)) + fmt::format("{:.{}f}", stepped, decimals) +
           std::string(expression.substr(begin + digits));
}

} // namespace sieve::language
