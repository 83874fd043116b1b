#pragma once

#include "core/library/work_step.h"

#include <span>
#include <string>
#include <vector>

namespace sieve::library {

class Library;

// The newest steps of the person's work, kept so that they can be taken back in a later session.
// Each is the change of the tables that saving it made (a changeset of SQLite's session extension),
// from the state that the step before left.

inline constexpr int mostStepsKept = 100;
inline constexpr std::int64_t mostStepBytes = 32'000'000; ///< of all together

/// What was done to the work between two savings.
struct StepMade {
    enum class Kind { New, Joined, Undone, Redone };
    Kind kind = Kind::New;
    std::string what;  ///< as the person reads it
    std::string place; ///< the key of the place in which it was made
};

/// saveWork(), and keeps the steps of which the change consists: one is added, joined to the newest
/// or taken away, in the same transaction. Several at once, as after a full disk, become one step.
/// Requires, errors: those of saveWork().
void saveSteps(Library& library, const Work& before, const Work& after,
               std::span<const StepMade> steps);

/// A step of a former session.
struct PastStep {
    std::string what;
    std::string place;
    WorkStep step;
};

/// How many steps are kept.
int stepsKept(Library& library);

/// The newest steps, the oldest first: the last one leads to `now`. Those from before one that
/// cannot be read are left out.
/// Requires: a copy of the library (Library::copyOf) that holds `now`; it is worn out by this.
std::vector<PastStep> pastSteps(Library& copy, const Work& now, std::size_t most);

} // namespace sieve::library
