#pragma once

#include "core/screens/screen.h"

#include <cstddef>
#include <optional>
#include <span>
#include <string>
#include <string_view>
#include <vector>

namespace sieve::screens {

/// A stack of criteria as one condition of the language, a criterion a line, as it is edited as
/// text:
///
///     # Only what rises over months
///     close > sma(close, 150)
///     and strength_126 >= 60
///     # off: and rsi(close, 14) <= 65
///
/// Comments stand above what they are about; a criterion that is off is a comment, so that the text
/// as it stands is the condition that counts. One with an `and` or `or` of its own is in
/// parentheses.
std::string criteriaToText(std::span<const Criterion> criteria);

/// The stack that a text says.
struct CriteriaRead {
    std::vector<Criterion> criteria;
    std::vector<std::size_t> offsets; ///< a criterion: where it begins in the text, in bytes
};

/// Reads it again. A criterion of the same words as one of `former` keeps that one's remarks.
/// Errors: the first mistake of grammar, located in the text; names and kinds are not looked at.
Result<CriteriaRead> criteriaFromText(std::string_view text,
                                      std::span<const Criterion> former = {});

} // namespace sieve::screens
