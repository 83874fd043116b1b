#pragma once

#include "core/base/result.h"
#include "core/watchlists/alert.h"

#include <cstdint>
#include <span>
#include <string_view>
#include <vector>

namespace sieve::library {

class Library;

// What alerts told. It is the program's record, not the person's work: undo leaves it alone, and
// nothing of it is ever removed. Errors: SQLite::Exception, such as of a full disk.

struct AlertLog {
    std::vector<watchlists::Raised> raised; ///< in the order in which they were written
    std::vector<LocatedError> problems;     ///< of rows that cannot be read; they stay
};
AlertLog alertLog(Library& library);

/// Writes what is not in the log yet (of the same alert, day, stock and words) and up to which day
/// the alerts were put to the market of that name, in one transaction. Gives back what was written,
/// with its ids.
std::vector<watchlists::Raised> addRaised(Library& library,
                                          std::span<const watchlists::Raised> raised,
                                          std::string_view market, Day checkedTo);
/// Up to which day alerts were put to a market; empty: never.
std::optional<Day> alertsCheckedTo(Library& library, std::string_view market);

/// Notes that the person has seen them. Ids that are not there are passed over.
void setSeen(Library& library, std::span<const std::int64_t> ids);

} // namespace sieve::library
