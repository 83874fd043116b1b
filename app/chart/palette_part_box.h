#pragma once

#include "core/base/palette_part.h"

#include <QIcon>

class QComboBox;

namespace sieve::app {

/// A stroke in the colour of a part of the palette.
QIcon palettePartIcon(PalettePart part);
/// A box with all of them; each entry's data is its part, as int.
QComboBox* makePalettePartBox();

} // namespace sieve::app
