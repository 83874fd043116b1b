#pragma once

#include "core/drawings/drawing.h"

#include <QIcon>

namespace sieve::app {

struct Palette;

/// A small picture of what a tool draws.
QIcon toolIcon(drawings::Tool tool, const Palette& colours);

} // namespace sieve::app
