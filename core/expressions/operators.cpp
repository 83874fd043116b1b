#include "core/expressions/operators.h"

#include <algorithm>
#include <array>

namespace sieve::expressions {

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

Op mirrored(Op comparison)
{
    switch (comparison) {
    case Op::Less:
        return Op::Greater;
    case Op::LessEqual:
        return Op::GreaterEqual;
    case Op::Greater:
        return Op::Less;
    case Op::GreaterEqual:
        return Op::LessEqual;
    default:
        return comparison;
    }
}

} // namespace sieve::expressions
