#pragma once

#include "core/engine/plan.h"
#include "core/language/vocabulary.h"

#include <optional>
#include <span>
#include <string>
#include <string_view>
#include <vector>

namespace sieve::language {

/// What an argument may be.
enum class Accepts {
    Figure,    ///< a number
    Condition, ///< yes/no
    Anything,  ///< any kind
    Whole,     ///< a whole number known before anything runs
    Factor,    ///< a number known before anything runs
    Item,      ///< an item of the statements, by its name
    Measure,   ///< what analysts expect: eps, revenue, dividends_per_share
    Owner,     ///< a kind of owner, such as insiders
    Within,    ///< all, universe, sector, industry, exchange or on_list("…")
    Group,     ///< sector, industry or exchange
    Weight,    ///< equal or cap
    Stocks,    ///< all or traded
    Quoted,    ///< a text in quotes
    Day,       ///< a day such as 2025-03-14
    OtherBars, ///< anything, evaluated on other bars
};

struct Parameter {
    std::string_view name;
    Accepts accepts = Accepts::Figure;
    std::optional<double> initial = std::nullopt; ///< of one that may be left out
    double least = 0;
    double most = 5000;
};

/// A function that the language cannot say of itself and that is no indicator.
struct Function {
    std::string_view name;
    std::string_view help;
    std::span<const Parameter> parameters;
    engine::Op op = engine::Op::Prior;
};

std::span<const Function> functions();
const Function* functionNamed(std::string_view name); ///< null when there is none

/// Whether a name of the language will be a function of patterns, which are not available yet.
bool isPlannedPattern(std::string_view name);

/// The parameters of an indicator of the catalogue, as the language sees them.
std::vector<Parameter> parametersOf(const indicators::Indicator& indicator);

/// A function as a person reads it while typing.
struct Signature {
    std::string name;
    std::string form; ///< "sma(x, n)"
    std::string help;
};

/// Every function there is (indicators, built in, composed), by name.
std::vector<Signature> signatures(const Vocabulary& vocabulary);

/// What resembles `name` most among fields, functions and items: "sma(x, n)", or empty.
std::string nearestName(std::string_view name, const Vocabulary& vocabulary);

} // namespace sieve::language
