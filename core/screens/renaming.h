#pragma once

#include "core/screens/screen.h"

#include <string_view>

namespace sieve::screens {

/// The screen with a field by another name in all its texts: universe, criteria, rank, columns.
Screen withFieldRenamed(Screen screen, std::string_view from, std::string_view to);

/// Whether any of its texts names the field.
bool namesField(const Screen& screen, std::string_view field);

} // namespace sieve::screens
