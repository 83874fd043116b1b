#pragma once

#include "core/exports/sheet.h"
#include "core/studies/following.h"

namespace sieve::studies {

/// A row a horizon: cases, how they went, how all went, how sure that is.
exports::Sheet sheetOf(const Following& following);
/// A row a group and horizon.
exports::Sheet groupsSheet(const Following& following, const CaseGroups& groups);
/// A row a case.
exports::Sheet casesSheet(const Following& following, const market::Market& market);

} // namespace sieve::studies
