#pragma once

#include "core/base/progress.h"
#include "core/intake/intake_report.h"
#include "core/intake/records.h"

#include <filesystem>

namespace sieve::intake {

// The dataset's tables but for the bars and the news: each function reads the one file, plain or
// .gz, and does nothing when it is not there. A row that cannot be taken is left out and reported;
// of two rows that tell the same thing the first is taken; a row of an update goes before what the
// former market knew. docs/dataset.md describes every column and rule.
// Errors: std::system_error with the path; Stopped.

/// dataset.toml, holidays.csv, currency_rates.csv, instruments.csv and renames.csv: who is there
/// and where.
void readListings(const std::filesystem::path& folder, Records& records, IntakeReport& report);

/// actions.csv: splits, dividends, spin-offs. All instruments must be in `records` by now.
void readActions(const std::filesystem::path& folder, Records& records, IntakeReport& report,
                 const Progress& progress);

/// statements.csv, estimates.csv, owners.csv, shares.csv, ratings.csv, calendar.csv,
/// index_members.csv: what else is known of them. Touches nothing of a record but these rows.
void readFacts(const std::filesystem::path& folder, Records& records, IntakeReport& report,
               const Progress& progress);

} // namespace sieve::intake
