#pragma once

#include "core/engine/evaluator.h"
#include "core/screens/distribution.h"
#include "core/screens/name_book.h"
#include "core/screens/screen.h"

#include <optional>
#include <span>
#include <string>
#include <string_view>
#include <vector>

namespace sieve::screens {

/// Something that a person may want as a criterion.
struct Offer {
    enum class What {
        Condition, ///< what was typed, which is a condition as it stands
        Phrase,    ///< a ready one: "turned up today"
        Field,
        Function, ///< to go on typing with
        Screen,
        List,
        Checklist,
    };
    What what = What::Phrase;
    std::string title;
    std::string text; ///< the condition; of a field its name, of a function its form
    std::string meaning;
    std::string family; ///< of a field
};

/// What answers to some words among all that the person may ask for, the best first, at most so
/// many. Every word must be found in the title, the text, the meaning or the family, where a long
/// one may have a letter or two wrong; beginnings weigh more than middles, titles more than
/// meanings, and what was used lately (`recent`, texts, the newest first) a little more than the
/// rest. Without words: what was used lately, then the phrases.
std::vector<Offer> offersFor(std::string_view words, const NameBook& book,
                             std::span<const std::string> recent = {}, std::size_t most = 40);

/// How a field stands today among the stocks that a screen lets pass.
struct FieldToday {
    Kind kind = Kind::Number;
    Unit unit = Unit::Plain;
    std::size_t stocks = 0; ///< that pass
    std::size_t known = 0;  ///< of which it is known
    Distribution spread;    ///< of a number
    double median = missing;
    /// A criterion to begin with: of a number, that the better three tenths pass (the larger where
    /// neither is better), at a round bound; a text's most frequent one; a yes; a day of the last
    /// month. Empty where nothing is known.
    std::string criterion;
};

/// Errors: nothing for a text that does not check. Stopped.
std::optional<FieldToday> fieldToday(const std::string& field, const Screen& screen,
                                     const language::Names& names, engine::Evaluator& evaluator,
                                     Day day, const Progress& progress = {});

} // namespace sieve::screens
