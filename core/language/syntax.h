#pragma once

#include "core/base/kind.h"
#include "core/base/result.h"

#include <string>
#include <string_view>
#include <vector>

namespace sieve::language {

enum class Form {
    Number,     ///< `number`, `unit`
    Text,       ///< `text`
    Day,        ///< `number` is the serial
    Name,       ///< `text`
    Call,       ///< `text`, children are the arguments, `names` their names or ""
    Negate,     ///< one child
    Not,        ///< one child
    Arithmetic, ///< two children, `text` is + - * / ^
    Comparison, ///< two or more children, `names` the operators between them
    In,         ///< the first child is looked for among the others; `text` is "in" or "not in"
    And,        ///< two or more children
    Or,         ///< two or more children
};

/// What was written, as a tree. It knows nothing of fields, kinds or units.
struct Syntax {
    Form form = Form::Number;
    SourceRange where;
    std::string text;
    double number = 0.0;
    Unit unit = Unit::Plain;
    std::vector<Syntax> children;
    std::vector<std::string> names;
};

/// How deep parentheses, calls and signs may nest.
inline constexpr int deepestNesting = 200;

/// Reads an expression, binding from loose to tight: or, and, not, comparisons and `in`, + and -,
/// * and /, the sign, ^ (which groups to the right).
/// Errors: the first mistake, located, with a remedy; nesting beyond `deepestNesting`; too long.
Result<Syntax> parse(std::string_view text);

} // namespace sieve::language
