#pragma once

#include "core/watchlists/tray.h"

#include <string>
#include <vector>

namespace sieve::watchlists {

/// How often a reason was given, by what was decided.
struct ReasonCount {
    std::string reason; ///< empty: none was given
    std::size_t kept = 0;
    std::size_t dropped = 0;
    std::size_t later = 0;

    std::size_t all() const { return kept + dropped + later; }
    friend bool operator==(const ReasonCount&, const ReasonCount&) = default;
};

/// The reasons of what is decided, the most frequent first, then by alphabet; without a reason
/// last.
std::vector<ReasonCount> reasonsOf(const Tray& tray);

/// Those set aside are undecided again. Gives back how many.
std::size_t takeLaterAgain(Tray& tray);

} // namespace sieve::watchlists
