#pragma once

// What a person looks for, and what a day has to offer:
//   screen.h  universe, criteria and rank, as text      run.h     who passes, and what each costs
//   limits.h  the bounds that a criterion sets          answers.h what was evaluated for all that
//   distribution.h how a field is spread                guidance.h near misses, costs, next steps
//   starter.h the screens that the program brings       table.h   columns of figures, sorted
//   comparison.h what two of them differ in
//   screen_files.h screens as files of TOML               renaming.h a field by another name
//   field_trial.h  what an own field would be             column_sets.h columns under a name

#include "core/base/result.h"
#include "core/language/vocabulary.h"

#include <map>
#include <string>
#include <string_view>
#include <vector>

namespace sieve::screens {

struct Criterion {
    std::string text; ///< a condition of the language
    bool isOn = true;
    std::string comment = {};
    std::string remarks = {}; ///< comment lines of the file that belong to it, without their #

    friend bool operator==(const Criterion&, const Criterion&) = default;
};

/// What columns show beside their figures, by the column's text, where that is not what their field
/// says.
using CellGraphics = std::map<std::string, language::CellGraphic>;

/// For which side of the market a screen looks for candidates.
enum class ScreenSide { Long, Short };

/// Everything is text of the language, so a screen can be kept before it is right.
struct Screen {
    std::string name;
    std::string folder = {}; ///< where it stands among the person's own, parts divided by /
    std::string purpose;     ///< one sentence
    ScreenSide side = ScreenSide::Long;
    std::vector<std::string> tags = {};
    std::string notes = {};    ///< as long as the person likes
    std::string remarks = {};  ///< comment lines of the file above its criteria, without their #
    std::string universe = {}; ///< a condition; empty: every stock
    std::vector<Criterion> criteria = {};
    std::string rankBy = {};               ///< a figure, the largest first; empty: by symbol
    int keep = 0;                          ///< the best so many; 0: all
    std::vector<std::string> columns = {}; ///< fields or expressions
    CellGraphics cells = {};

    friend bool operator==(const Screen&, const Screen&) = default;
};

/// The screen as TOML, the form of the starter library and of files. Reading it gives the screen
/// again.
std::string toToml(const Screen& screen);
/// Reads it, comments included. A key that this version does not know is an error, so that nothing
/// of a newer version is lost unseen.
/// Errors: located: no TOML, no name, a key of another type or unknown, a criterion without text.
Result<Screen> screenFromToml(std::string_view toml);

/// A folder's path without empty parts and without spaces around its parts.
std::string tidyFolder(std::string_view folder);

} // namespace sieve::screens
