#pragma once

#include "core/language/token.h"

#include <string>
#include <string_view>
#include <vector>

namespace sieve::language {

/// A field, a screen, a list or a checklist that bears another name, for all texts that name it.
struct Renaming {
    enum class What { Field, Screen, List, Checklist };
    What what = What::Field;
    std::string from;
    std::string to;

    /// An expression with the new name: a field's wherever it stands for the field (calls and names
    /// of arguments are none), a screen's in passes("…"), a list's in on_list("…"), a checklist's
    /// in checklist("…"). What cannot be read as an expression comes back as it is; so does one in
    /// which the new name cannot stand, since it holds a quote.
    std::string in(std::string_view expression) const;
};

/// The tokens of an expression that stand for fields; none of a text that is no expression.
std::vector<Token> fieldTokens(std::string_view expression);

} // namespace sieve::language
