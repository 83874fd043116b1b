#pragma once

#include "core/language/renaming.h"
#include "core/screens/screen.h"

#include <string_view>

namespace sieve::screens {

/// The screen with the new name in all its texts: universe, criteria, rank, columns. What it is
/// called itself stays.
Screen withRenamed(Screen screen, const language::Renaming& renaming);

/// Whether any of its texts names that field, screen or list.
bool names(const Screen& screen, language::Renaming::What what, std::string_view name);

} // namespace sieve::screens
