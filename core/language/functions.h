#pragma once

#include "core/engine/operators/operator.h"
#include "core/language/vocabulary.h"

#include <span>
#include <string>
#include <string_view>
#include <vector>

namespace sieve::language {

using engine::Accepts;
using engine::Operator;
using engine::Parameter;

/// The operator that is called by that name; null when there is none. `passes` is among them: it
/// stands for the screen that it names.
const Operator* functionNamed(std::string_view name);

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
