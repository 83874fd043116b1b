#pragma once

#include "core/language/vocabulary.h"

#include <string>

namespace sieve::language {

/// docs/fields.md: every field by family, with what it means, how it is computed and where it may
/// be used. Made by tools/make-reference; a test holds the page to it.
std::string fieldReference(const Vocabulary& vocabulary);

/// docs/functions.md: every function, with its parameters.
std::string functionReference(const Vocabulary& vocabulary);

/// Where a field may stand: "criterion, column, rank, chart", a text only in the first two.
std::string usesOf(const Field& field);

} // namespace sieve::language
