#pragma once

#include "core/engine/plan.h"
#include "core/language/vocabulary.h"

#include <functional>
#include <memory>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace sieve::language {

/// An expression that means something: where its value stands in the plan, and what it is.
struct Checked {
    engine::NodeId node = 0;
    Kind kind = Kind::Number;
    Unit unit = Unit::Plain;
    std::vector<LocatedError> warnings; ///< it runs, but likely not as meant
};

/// A screen as a condition, for passes("…").
struct ScreenCondition {
    std::string universe; ///< empty: every stock
    std::vector<std::string> criteria;
};

/// A checklist, for checklist("…").
struct ChecklistMeaning {
    std::vector<std::string> rules;                                     ///< conditions
    std::vector<std::shared_ptr<const engine::PersonsAnswers>> answers; ///< to the other questions
};

/// What names may refer to beside functions and statement items.
struct Names {
    const Vocabulary& vocabulary;
    std::optional<engine::NodeId> universe =
        std::nullopt; ///< the condition behind `within = universe`
    /// The person's screens, lists, checklists and drawings by name; nothing when there is none of
    /// that name.
    std::function<std::optional<ScreenCondition>(std::string_view)> screen = {};
    std::function<std::shared_ptr<const engine::ListMembers>(std::string_view)> list = {};
    /// The screen that keeps a list; nothing for a list that the person keeps, or that is not
    /// there.
    std::function<std::optional<std::string>(std::string_view)> listScreen = {};
    std::function<std::optional<ChecklistMeaning>(std::string_view)> checklist = {};
    std::function<std::shared_ptr<const drawings::Named>(std::string_view)> drawing = {};
};

/// Reads an expression, checks kinds, units and arguments, and adds its parts to the plan.
/// Errors: the first mistake, located in `text`, with the nearest right thing.
Result<Checked> check(std::string_view text, const Names& names, engine::Plan& plan);

/// The same, for an expression that must be yes or no.
Result<Checked> checkCondition(std::string_view text, const Names& names, engine::Plan& plan);

/// The most parts that a plan may grow to; expressions beyond are refused.
inline constexpr std::size_t mostParts = 100'000;

} // namespace sieve::language
