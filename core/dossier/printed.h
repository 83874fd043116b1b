#pragma once

#include "core/dossier/dossier.h"

namespace sieve::dossier {

/// What of a dossier goes onto one printed page: figures, score, the values at usual multiples and
/// what growth is assumed, results by year, the person's plan (else the stops), the checklist.
/// Notes that explain how something is drawn stay.
Dossier printedOf(const Dossier& dossier);

} // namespace sieve::dossier
