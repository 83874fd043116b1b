#pragma once

#include "core/language/explanation.h"
#include "core/screens/distribution.h"
#include "core/screens/name_book.h"

#include <cstddef>
#include <optional>
#include <string>

namespace sieve::screens {

/// What an own field would be if it were kept as it stands.
struct FieldTrial {
    std::optional<LocatedError> error; ///< then the rest is empty
    Kind kind = Kind::Number;
    Unit unit = Unit::Plain;                    ///< stated, or of the formula
    std::size_t stocks = 0;                     ///< listed on the day, indexes left out
    std::size_t known = 0;                      ///< of which it is known
    Distribution spread;                        ///< of a number
    double median = missing;                    ///< of a number
    std::optional<language::Explanation> parts; ///< for the stock that was asked about
};

/// Tries a field that is to be called `field.name`, in the place of the own one called `former`
/// (empty: a new one), on all stocks of a day, with every part's value for one of them.
/// Errors: Stopped.
FieldTrial tryField(const language::Field& field, const std::string& former, const NameBook& book,
                    engine::Evaluator& evaluator, std::optional<std::size_t> stock, Day day,
                    const Progress& progress = {});

} // namespace sieve::screens
