#pragma once

#include <span>

namespace sieve::library {

/// The SQL of every migration, oldest first: migration i brings a library from version i to i + 1.
/// All of the tables stand here. A migration is never edited once released; a new one goes to the
/// end.
std::span<const char* const> migrations();

} // namespace sieve::library
