#include "core/language/signs.h"

#include <algorithm>
#include <array>

namespace sieve::language {

using engine::Op;

Op comparisonNamed(std::string_view name)
{
    constexpr std::array<std::pair<std::string_view, Op>, 6> names{{{"<", Op::Less},
                                                                    {"<=", Op::LessEqual},
                                                                    {">", Op::Greater},
                                                                    {">=", Op::GreaterEqual},
                                                                    {"==", Op::Equal},
                                                                    {"!=", Op::NotEqual}}};
    return std::ranges::find(names, name, [](const auto& each) { return each.first; })->second;
}

Op arithmeticNamed(std::string_view name)
{
    switch (name[0]) {
    case '+':
        return Op::Add;
    case '-':
        return Op::Subtract;
    case '*':
        return Op::Multiply;
    case '/':
        return Op::Divide;
    default:
        return Op::Power;
    }
}

} // namespace sieve::language
