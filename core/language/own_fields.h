#pragma once

#include "core/language/vocabulary.h"

#include <optional>
#include <span>
#include <string>
#include <string_view>
#include <vector>

namespace sieve::language {

/// A person's own fields beside those that the program brings. They are always whole: an edit that
/// would leave one of them wrong is refused and changes nothing.
class OwnFields {
public:
    explicit OwnFields(const Vocabulary& base = Vocabulary::builtIn());

    /// The base with the own fields: what screens and columns are checked against.
    const Vocabulary& vocabulary() const { return vocabulary_; }
    std::span<const Field> fields() const { return fields_; } ///< in the order in which they came

    /// Adds a field, or puts it in the place of the own one of that name; its kind and, where
    /// `unit` is plain, its unit are taken from the formula.
    /// Errors: located in the formula: what is wrong with it, a cycle with its path; unlocated: a
    ///         name that is none or that the program's own fields bear; what would no longer check.
    std::optional<LocatedError> put(Field field);
    /// Errors: somebody uses it, and who.
    std::optional<LocatedError> remove(std::string_view name);
    /// Gives a field another name, in all formulas of the own fields too. Texts elsewhere (screens,
    /// columns) are for Renaming.
    /// Errors: no such field; a name that is none or taken.
    std::optional<LocatedError> rename(std::string_view from, std::string_view to);

    /// The fields (own or not) that a formula names, each once, as they come.
    std::vector<std::string> usesOf(std::string_view formula) const;
    /// The own fields that name it.
    std::vector<std::string> usersOf(std::string_view name) const;

    /// All own fields as a dictionary file, and back.
    /// Errors: located in `toml`.
    std::string toToml() const;
    static Result<OwnFields> fromToml(std::string_view toml,
                                      const Vocabulary& base = Vocabulary::builtIn());

    /// Equal when all that a person wrote is, in the same order.
    friend bool operator==(const OwnFields& a, const OwnFields& b)
    {
        return a.fields_.size() == b.fields_.size() && a.toToml() == b.toToml();
    }

private:
    std::optional<LocatedError> replaceAll(std::vector<Field> fields);

    const Vocabulary* base_;
    std::vector<Field> fields_;
    Vocabulary vocabulary_;
};

/// Whether a text may name a field: small letters, digits and underscores, a letter first.
bool isFieldName(std::string_view name);

} // namespace sieve::language
