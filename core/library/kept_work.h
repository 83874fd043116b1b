#pragma once

#include "core/base/result.h"
#include "core/library/work.h"

#include <filesystem>
#include <functional>
#include <set>
#include <string>
#include <vector>

namespace sieve::library {

class Library;

/// The person's work as the library holds it.
struct LoadedWork {
    /// A thing that could not be read. Screens, fields, drawings, verdicts and kept answers stay in
    /// the library as they are; of the others the text is kept as a file, and the program's own
    /// stands in their place.
    struct Problem {
        enum class What {
            ScreenInHand,
            Screen,
            Field,
            Drawing,
            Verdict,
            KeptRun,
            Plan,
            EntryPage,
            ColumnSets,
            ChartSetUps,
            Weighing,
            Checklists,
            TradingTerms,
            MailTerms,
            Alert,
            MarketBook
        };
        What what = What::Screen;
        LocatedError error;
        std::filesystem::path keptAs = {}; ///< empty when it stays in the library
    };
    Work work;
    std::vector<Problem> problems;
};

/// Errors: SQLite::Exception; std::system_error where an unreadable text cannot be kept.
LoadedWork loadWork(Library& library);

/// What of a library's tables differs from what was known of it.
struct Touched {
    std::set<std::string, std::less<>> tables;
    std::set<std::int64_t> lists; ///< whose entries or former ones do
};
/// The work as the library holds it, where all but what was touched is known. A list that is not
/// known counts as touched.
LoadedWork loadTouched(Library& library, const Work& known, const Touched& touched);

/// Brings the library from one work to another inside the caller's transaction.
void writeWork(Library& library, const Work& before, const Work& after);

/// The same, in one transaction: all of it is on the disk when
/// the call returns, or nothing.
/// Requires: `before` is what the library holds.
/// Errors: SQLite::Exception, such as of a full disk.
void saveWork(Library& library, const Work& before, const Work& after);

} // namespace sieve::library
