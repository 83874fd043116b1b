#pragma once

#include "core/base/day.h"
#include "core/base/missing.h"

#include <cstddef>
#include <string>
#include <vector>

namespace sieve::library {

class Library;

// How often an idea was tried. It is the program's record, not the person's work: undo leaves it
// alone, and nothing of it is ever removed, for the best of many tries is good by luck alone
// (studies/deflation.h). Errors: SQLite::Exception, such as of a full disk.

/// A question that was answered.
struct Trial {
    std::string idea;     ///< the person's word for what is tried
    std::string kind;     ///< of the study; ideas of two kinds are counted apart
    std::string question; ///< a digest: the same question is one trial
    Day triedOn = Day::fromSerial(0);
    double sharpe = missing; ///< a day, not a year, where the study has one
};

/// Notes a trial, and gives all of its idea and kind, this one among them.
std::vector<Trial> noteTrial(Library& library, const Trial& trial);

} // namespace sieve::library
