#pragma once

#include "core/engine/plan.h"

#include <string_view>

namespace sieve::language {

/// A field that comes straight from the data. Its title, meaning, kind and unit stand in the
/// dictionary, as those of every field do.
struct LeafField {
    std::string_view name;
    engine::Op op = engine::Op::Constant;
    market::BarField barField = market::BarField::Close;
    market::TextField textField = market::TextField::Symbol;
};

const LeafField* leafFieldNamed(std::string_view name); ///< null when there is none

} // namespace sieve::language
