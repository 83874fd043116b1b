#pragma once

// Brings files into a market, and says of every row that it could not take why:
//   take_in.h       a source into a market's folder: all, or an update
//   source.h        what a folder holds       price_layout.h  how its figures are written
//   source_intake.h one source into a file    kept_files.h    the files of updates
//   tables.h        who is listed, what is known of them
//   news.h          Atom feeds                filings.h       bulk files of a regulator
//   bar_file.h      rows of prices            bar_rules.h     what bars must keep
//   csv.h, rows.h   cells of files            intake_report.h what was wrong and what was done
// Files are read a piece at a time and in parallel; what a market holds does not depend on it.

#include "core/base/progress.h"
#include "core/base/result.h"
#include "core/intake/intake_report.h"
#include "core/intake/price_layout.h"
#include "core/market/market.h"

#include <filesystem>
#include <optional>
#include <string>

namespace sieve::intake {

struct TakeIn {
    std::filesystem::path source;            ///< a dataset, a folder of prices or one such file
    std::filesystem::path market;            ///< the market's own folder; made when it is not there
    std::optional<PriceLayout> mapping = {}; ///< how prices are read; recognised when empty
    bool isUpdate = false;                   ///< adds to the market what the source has anew
};

/// Reads a source and writes the market beside the former one, which then gives way; on every error
/// it stays as it was, and can be used on. An update adds rows, instruments, renames and
/// delistings, and its rows go before those of the same day or period that were known; it leaves
/// the same bytes as an intake of all at once. Its files are kept in the market's folder, and
/// nothing more is needed of where they lay. A source that the market already begins with is read
/// again, and the market's updates are added to it again; any other one begins a new market.
///
/// Errors:  no prices there, or none that could be taken; an update of which nothing could be
///          taken, or of a market that is not there; another intake of the same market at work.
///          std::system_error with the path when a file cannot be read or written; Stopped.
/// Threads: works in parallel inside.
Result<IntakeReport> takeIn(const TakeIn& request, const Progress& progress = {});

struct Intake {
    market::MarketPtr market;
    IntakeReport report;
    std::string identity; ///< of its file (storage::identityOf)
    std::string standing; ///< why the market is as it was though its source is not; else empty
};

/// Opens the market that was made from a source; makes it, or makes it again with its updates, when
/// it is not there, not whole, of another version, or when the source's files have changed since.
/// It is never made from less than it had by itself: when a source is gone, has fewer files or
/// bars, or cannot be read, the market stands as it was, and `standing` says why.
Result<Intake> openSource(const std::filesystem::path& source, const std::filesystem::path& market,
                          const Progress& progress = {});

/// Opens the market of a folder, and makes it again from its sources when it is not whole. A market
/// file that was written since it was last looked through is held to all of its checksums first.
Result<Intake> openFolder(const std::filesystem::path& market, const Progress& progress = {});

/// Makes the market of a folder again from its sources, also one that can be opened.
/// Errors: a source is not there, damaged or holds less than it did; the market stays as it is.
Result<IntakeReport> makeAgain(const std::filesystem::path& market, const Progress& progress = {});

/// The report of the newest intake.
Result<IntakeReport> reportOf(const std::filesystem::path& market);

} // namespace sieve::intake
