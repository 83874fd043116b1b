#pragma once

#include "core/expressions/plan.h"

#include <string_view>

namespace sieve::expressions {

/// A field that comes straight from the data. Its title, meaning, kind and unit stand in the
/// dictionary, as those of every field do.
struct LeafField {
    std::string_view name;
    Op op = Op::Constant;
    market::BarField barField = market::BarField::Close;
    market::TextField textField = market::TextField::Symbol;
};

const LeafField* leafFieldNamed(std::string_view name); ///< null when there is none

} // namespace sieve::expressions
