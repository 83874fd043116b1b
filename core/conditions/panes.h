#pragma once

#include "core/conditions/line.h"

#include <string>
#include <vector>

namespace sieve::conditions {

/// A figure of the language over a line's history, such as a breadth series.
struct Pane {
    std::string text;  ///< the expression
    std::string title; ///< of the field that it names; else the expression
    std::string meaning = {};
    Unit unit = Unit::Plain;
    int decimals = 0;
    std::vector<double> values = {};                  ///< a bar of the line
    std::optional<LocatedError> error = std::nullopt; ///< then there are none
};

/// Several figures over the whole history of a line. What counts stocks counts the line's shares.
/// Errors: Stopped. A text that does not check gives its error.
std::vector<Pane> readPanes(engine::Evaluator& evaluator, const language::Names& names,
                            const Line& line, std::span<const std::string> texts,
                            const Progress& progress = {});

/// Where the value of a bar stands among those of the `bars` bars up to it, itself included: 0 at
/// their least, 1 at their most, by rank; missing where it is missing or has fewer than 20 others.
double placeInRange(std::span<const double> values, std::size_t bar, std::size_t bars);
inline constexpr std::size_t tenYears = 2520; ///< sessions

} // namespace sieve::conditions
