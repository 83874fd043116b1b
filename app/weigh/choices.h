#pragma once

#include "core/dossier/dossier.h"
#include "core/library/work.h"

#include <cstdint>
#include <optional>

namespace sieve::app {

/// What is chosen to see of one stock: `general`, with the peers that were chosen for it by hand,
/// and its plan in the prices of the day.
/// `list`: the one that takes what is kept, whose entry may have the plan; empty: there is none.
/// Threads: any. It goes through the stocks in hand and on that list.
dossier::Choices choicesOf(dossier::Choices general, const library::Work& work,
                           const market::Market& market, std::size_t stock, Day day,
                           std::optional<std::int64_t> list);

} // namespace sieve::app
