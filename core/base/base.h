#pragma once

// What every other folder stands on:
//   day.h      a calendar day              minute.h   a minute of it, anywhere on earth
//   missing.h  the figure not known        pack.h     values as bytes and back
//   kind.h     kinds and units of values   result.h   located errors of a person's input
//   require.h  promises between functions  progress.h how far, and stop
//   csv_cell.h a text as a cell of CSV   lower_case.h a text in small letters
// Its names live in `sieve` itself, so that every folder's namespace sees them.

#include "core/base/day.h"
#include "core/base/kind.h"
#include "core/base/minute.h"
#include "core/base/missing.h"
#include "core/base/progress.h"
#include "core/base/require.h"
#include "core/base/result.h"
