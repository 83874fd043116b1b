#pragma once

#include "core/screens/screen.h"

#include <vector>

namespace sieve::screens {

/// The screens that the program brings, by name. A person's own are copies of them or new.
const std::vector<Screen>& starterScreens();

} // namespace sieve::screens
