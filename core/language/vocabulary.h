#pragma once

// One small language (docs/language.md) on its way from text to a checked plan:
//   token.h       characters to tokens        syntax.h      tokens to a tree
//   vocabulary.h  what names mean             checker.h     tree to a plan, with kinds and units
// core/engine makes figures of the plan; explanation.h and coverage.h ask it about a text.
// Whatever can be said in the language is said in it: dictionary/*.toml holds the fields and the
// composed functions; only what cannot be said is C++ (functions.h).

#include "core/base/kind.h"
#include "core/base/result.h"
#include "core/language/syntax.h"

#include <cstddef>
#include <map>
#include <optional>
#include <span>
#include <string>
#include <string_view>
#include <vector>

namespace sieve::language {

enum class Better { None, High, Low };

/// What a cell shows beside its figure.
enum class CellGraphic {
    None,
    Bar,   ///< how far the figure stands among those of all stocks
    Range, ///< where it stands between its own lowest and highest of the last year
    Line,  ///< how it ran over the last months
    Sign,  ///< a rise or a fall
};

std::string_view graphicName(CellGraphic graphic); ///< "none", "bar", … as files write them
std::optional<CellGraphic> graphicNamed(std::string_view name);

/// A field: a name for a formula, with what a person must know to use it.
struct Field {
    std::string name;
    std::string title;
    std::string head; ///< the title over a column, shorter where it must be
    std::string meaning;
    std::string formula; ///< empty for what comes straight from the data
    std::string family;
    Kind kind = Kind::Number;
    Unit unit = Unit::Plain;
    int decimals = 2;
    Better better = Better::None;
    CellGraphic graphic = CellGraphic::None;
    Syntax tree; ///< of the formula
};

/// An entry as the dictionary files write it. Reading it gives the field again.
std::string toToml(const Field& field);

/// A function said in the language, such as change(x, n) = growth(x, prior(x, n)).
struct ComposedFunction {
    std::string name;
    std::string title;
    std::string meaning;
    std::string formula;
    std::vector<std::string> parameters;
    std::vector<std::string> defaults; ///< a formula, or "" where it must be given
    std::vector<Syntax> defaultTrees;
    std::vector<bool> areNames; ///< takes a name (an item, a kind of owner), no value
    std::optional<Unit> unit;   ///< empty: that of the formula
    Syntax tree;
};

/// All fields and composed functions by name.
class Vocabulary {
public:
    /// Those that the program brings. Errors: std::logic_error if one is broken (a test sees to
    /// it).
    static const Vocabulary& builtIn();

    /// Adds the entries of one dictionary file.
    /// Errors: located in `toml`: no TOML, an unknown key, a formula that does not parse, a name
    ///         that is taken.
    Result<std::size_t> add(std::string_view toml);

    /// Adds a field whose formula was parsed before. Requires: a name that is not taken.
    void add(Field field);

    const Field* field(std::string_view name) const;
    const ComposedFunction* function(std::string_view name) const;
    std::span<const Field> fields() const { return fields_; } ///< in the files' order
    std::span<const ComposedFunction> functions() const { return functions_; }

private:
    std::vector<Field> fields_;
    std::vector<ComposedFunction> functions_;
    std::map<std::string, std::size_t, std::less<>> fieldPlaces_;
    std::map<std::string, std::size_t, std::less<>> functionPlaces_;
};

} // namespace sieve::language
