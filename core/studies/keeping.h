#pragma once

#include "core/studies/cautions.h"
#include "core/studies/kept_run.h"
#include "core/studies/study_files.h"

namespace sieve::studies {

// What is kept of an answer: kind, question, day, figures, cautions, sentence, curve and digest.
// The name is that of the screen, or what it asks; the rest is the caller's.
KeptRun keptOf(const Following& following);
KeptRun keptOf(const Standings& standings, const StandingsTerms& terms, Day day);
KeptRun keptOf(const Portfolio& portfolio, Day day);

/// Works the answer out anew, of this market as known on the run's day, and gives back what would
/// be kept now: equal digests are equal bits. Name, notes and id are the run's. Errors: those of
/// the question. Stopped.
Result<KeptRun> askedAgain(const KeptRun& run, const language::Names& names,
                           const market::MarketPtr& market, const Progress& progress = {});

} // namespace sieve::studies
