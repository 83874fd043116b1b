#pragma once

#include "core/language/checker.h"
#include "core/screens/screen.h"

#include <QString>

namespace sieve::app {

/// All words by which a screen may be found.
QString wordsOf(const screens::Screen& screen);
/// The group in which a ready screen stands.
QString purposeOf(const screens::Screen& screen);
/// A screen's parts in the order of the routine; what no longer checks is told below it.
QString screenAsHtml(const screens::Screen& screen, const language::Names& names);

} // namespace sieve::app
