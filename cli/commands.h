#pragma once

#include "cli/studies_request.h"
#include "core/base/day.h"
#include "core/base/progress.h"
#include "core/base/result.h"
#include "core/dossier/dossier.h"
#include "core/exports/sheet.h"
#include "core/studies/aftermath.h"

#include <cstdint>
#include <filesystem>
#include <functional>
#include <optional>
#include <stdexcept>
#include <string>
#include <vector>

namespace sieve::cli {

/// What every command answers.
using Answer = exports::Sheet;
using exports::Cell;

inline Cell count(std::size_t number)
{
    return static_cast<double>(number);
}

/// The input was at fault: main tells `what()` on standard error and ends with 1.
class InputFault : public std::runtime_error {
public:
    using std::runtime_error::runtime_error;
    explicit InputFault(const LocatedError& error);
    /// The same for an expression: the text with a mark under the fault, as a compiler shows it.
    InputFault(const LocatedError& error, const std::string& text);
};

/// What every command may be given; each reads what it has a use for.
struct Request {
    std::filesystem::path market;
    std::filesystem::path source;
    std::filesystem::path mapping;
    bool isUpdate = false;
    std::uint64_t seed = 20260930;
    std::string symbol;
    std::vector<std::string> expressions;
    std::string text;
    std::filesystem::path file;
    std::optional<Day> day; ///< the as-of day; the newest session when empty
    std::optional<Day> from;
    std::optional<Day> to;
    std::string show;        ///< which part of the market's state
    std::string group;       ///< a sector or industry; empty: the whole market
    std::string figure;      ///< what groups are ranked by; empty: their change over `span`
    std::size_t span = 21;   ///< sessions
    std::vector<std::string> parts;         ///< of a dossier; empty: all
    bool isPerShare = false;                ///< of a dossier: results by the shares there were
    dossier::DiscountModel model;           ///< of a dossier: by which growth is told
    studies::Terms terms;                   ///< of occurrences
    StudiesRequest studies;
    bool isTable = false;    ///< of occurrences: case by case; of a screen: the matches with its columns instead of its counts
    std::filesystem::path library; ///< empty: the one of the window
    std::string list;              ///< its name; empty: all lists
    std::filesystem::path folder;  ///< of open text
    bool isMoves = false;          ///< of a list: who came and who went
    bool isWrite = false;          ///< of alerts: what they tell is kept in the library
    /// Told beside the answer, such as that it is of an earlier day than the one asked for.
    std::function<void(const std::string&)> tell = [](const std::string&) {};
};

// Datasets and markets. Errors of all: InputFault; std::system_error with the path; Stopped.

Answer demoData(const Request& request);
Answer intake(const Request& request, const Progress& progress);
Answer report(const Request& request);
Answer info(const Request& request, const Progress& progress);

// Expressions over a market.

Answer series(const Request& request);
Answer column(const Request& request);
Answer screen(const Request& request);
Answer daily(const Request& request, const Progress& progress);
Answer explain(const Request& request);
/// With a market: the share of its stocks of which each is known.
Answer fields(const Request& request);

// One stock.

/// All that is known of it, or the parts asked for, as JSON. `expressions`: the figures of its
/// first part.
std::string dossierText(const Request& request, const Progress& progress);
/// What a share is worth, a row a way to tell it.
Answer value(const Request& request, const Progress& progress);

/// What followed each time that a condition began to hold: in sum, of the symbol (if given) and of
/// all stocks, or case by case.
Answer occurrences(const Request& request, const Progress& progress);

// Does it work?

/// Measures of the series of daily returns in `file`, or their curves.
Answer measures(const Request& request);
/// What followed the matches of a condition, screen or file, by horizon, by groups or case by case.
Answer aftermath(const Request& request, const Progress& progress);
/// A rule in `file` as it would have traded: `show` is measures, curve, trades, fills, months or
/// stocks.
Answer portfolio(const Request& request, const Progress& progress);
/// What followed, had two limits of a screen stood elsewhere: a row a cell.
Answer neighbours(const Request& request, const Progress& progress);
/// How screens would have done: in sum, start by start, day by day, or by the market's state.
Answer standings(const Request& request, const Progress& progress);

// A person's library. It is only read, unless alerts are to be written.

/// All lists, or the entries of one as of a day, or who came to it and went.
Answer lists(const Request& request, const Progress& progress);
/// What alerts told; with a market: what they tell of the sessions to which they were not put yet
/// (or after `from`).
Answer alerts(const Request& request, const Progress& progress);
/// Writes the library as a folder of open text (`source` empty), or a new library from one.
Answer libraryAsText(const Request& request);
/// What became of the stocks that were put onto lists or dropped, counted by `show`; `isTable`:
/// case by case.
Answer review(const Request& request, const Progress& progress);
std::vector<std::string> reviewedBy(); ///< what `show` may be

/// What changed between two days, on one page: `show` is one of briefForms(). A mail goes to the
/// address of the library's mail terms, or to `text`; it is empty where there is nothing to tell.
std::string briefText(const Request& request, const Progress& progress);
std::vector<std::string> briefForms();

// The state of the market, by the standard rules or those of a book in `file`.

/// `show`: states, stance, breadth, divergences, stances, groups or mosaic.
Answer conditions(const Request& request, const Progress& progress);
/// What `show` may be.
std::vector<std::string> conditionsShown();

} // namespace sieve::cli
