#pragma once

#include "core/dossier/dossier.h"

#include <span>

namespace sieve::dossier {

/// What is known of one bar's move, as a dossier of one part: its change beside that of its
/// industry, its sector, all stocks and the benchmark, its size against the usual, and what was
/// said up to five days before and after it, as far as it is known by the subject's day.
/// Missing: where the stock did not trade on `day`, words that say so.
/// Errors:  Stopped.
Dossier whyItMoved(const Subject& subject, Day day, const Progress& progress = {});

/// A stock that is followed, and up to which day all of it was seen.
struct FollowedStock {
    std::size_t stock = 0;
    Day seenTo = Day::fromSerial(0);
};

/// What happened to stocks since they were seen, up to the subject's day (whose stock does not
/// count), as a dossier of one part: a table for each of which there is something new.
/// Errors: Stopped.
Dossier digestOf(const Subject& subject, std::span<const FollowedStock> followed,
                 const Progress& progress = {});

} // namespace sieve::dossier
