#pragma once

#include "core/briefing/brief.h"
#include "core/exports/mail_file.h"

#include <chrono>
#include <optional>

namespace sieve::briefing {

/// The mail of the sessions after `since` up to `day`, as the person's mail terms want it (whether
/// it is wanted on that evening is asked of watchlists::isWanted): all that alerts told, the brief,
/// and the stocks of both in the chosen set of columns.
/// Empty: there is nothing to tell.
/// Requires: as makeBrief(); an address in the terms. Errors: std::invalid_argument for an address
///           with a fault; Stopped.
std::optional<exports::Mail> eveningMail(const BriefQuestion& question,
                                         engine::Evaluator& evaluator, const language::Names& names,
                                         Day since, Day day, std::chrono::sys_seconds at,
                                         const Progress& progress = {});

} // namespace sieve::briefing
