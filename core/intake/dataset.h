#pragma once

// Brings files into a market, and says of every row that it could not take why:
//   dataset.h        the open dataset, a folder of plain files
//   csv.h            rows and cells        intake_report.h  what was wrong and what was done

#include "core/base/progress.h"
#include "core/base/result.h"
#include "core/intake/intake_report.h"
#include "core/market/market.h"

#include <filesystem>

namespace sieve::intake {

struct Intake {
    market::MarketPtr market;
    IntakeReport report;
};

/// Reads an open dataset: dataset.toml, instruments.csv, bars/daily/*.csv, actions.csv,
/// statements.csv, shares.csv. Only the bars are required; what is missing is not known.
///
/// A bad row is left out, reported, and the rest taken: too few cells, a cell that is no day or
/// figure, a price at or below 0, a high under the low, an open or close outside them, a second bar
/// of a day, a symbol or item that is not known. Bars out of order are put in order. Kept but
/// reported: bars on a weekend, a jump that looks like a split without an action, a file that ends
/// without a line break, bars of a symbol that instruments.csv does not list.
///
/// Errors:  a folder without bars, or with none that could be taken.
///          std::system_error with the path when a file cannot be read; Stopped when told to.
/// Threads: reads bar files in parallel; the market does not depend on it.
Result<Intake> readDataset(const std::filesystem::path& folder, const Progress& progress = {});

} // namespace sieve::intake
