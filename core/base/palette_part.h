#pragma once

#include "core/base/words.h"

namespace sieve {

/// A colour by its part in the palette, so that whatever bears it fits both palettes.
enum class PalettePart { Mark, Caution, Fall, Rise, Soft, Ink };

inline constexpr Words<PalettePart, 6> paletteParts{{{{PalettePart::Mark, "mark"},
                                                      {PalettePart::Caution, "caution"},
                                                      {PalettePart::Fall, "fall"},
                                                      {PalettePart::Rise, "rise"},
                                                      {PalettePart::Soft, "soft"},
                                                      {PalettePart::Ink, "ink"}}}};

} // namespace sieve
