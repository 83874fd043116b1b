#pragma once

// What is known of one stock on a day, as a finished value that a window, a page and a file show:
//   dossier.h     the value, and how it is made
//   parts.h       what a part is; the table of all stands in dossier.cpp: to add one, add a row
//   happenings.h  why a stock moved on a day; what is new about those followed
//   json.h        the value as text
// Nearly every figure is an expression of the language, so that it can be explained, put into a
// column or a screen, and shows nothing that was not known on the day.

#include "core/base/progress.h"
#include "core/base/shared.h"
#include "core/engine/evaluator.h"
#include "core/language/checker.h"
#include "core/valuation/scorecard.h"
#include "core/watchlists/checklist.h"
#include "core/watchlists/watchlist.h"

#include <optional>
#include <span>
#include <string>
#include <string_view>
#include <vector>

namespace sieve::dossier {

/// A figure of a period that was filed more than once.
struct Restated {
    double first = missing; ///< as it was first said, on the footing of today
    Day firstOn = Day::fromSerial(0);
    Day lastOn = Day::fromSerial(0); ///< since when it is what it is
};

/// One figure or text.
struct Cell {
    std::string expression = {}; ///< that gives the value; empty: it is counted from the records
    double value = missing;
    Kind kind = Kind::Number;
    Unit unit = Unit::Plain;         ///< laid out as plain: that of its field or expression
    int decimals = -1;               ///< laid out as -1: as its field or its unit has them
    std::string text = {};           ///< in place of a figure
    std::string note = {};           ///< why it is missing, or what else to know
    bool isInMarketCurrency = false; ///< money of several stocks; else in the stock's own
    std::optional<Restated> restated = std::nullopt;
};

struct Row {
    std::string title;
    std::string group = {}; ///< rows that belong together
    std::string meaning = {};
    std::vector<Cell> cells = {};
    bool isOfFormer = false; ///< tells of the row before it, such as its growth
    std::optional<std::size_t> stock = std::nullopt; ///< that the row is of
};

/// Its title, after that of its group where it has one.
std::string nameOf(const Row& row);

/// How a table is drawn.
enum class Form {
    Figures,   ///< a figure, its percentiles among all and in the industry, the industry's median
    Periods,   ///< periods side by side, the newest last: each row is a small chart
    Values,    ///< what a share is worth: what, times what, the worth, its distance from the price
    Ranges,    ///< a figure in a range of its own and in one of others
    Table,     ///< rows and columns
    Checklist, ///< a question, its answer, the figure behind it or when it was answered
    Events,    ///< what happened: the day, the kind, words, the move, the move in usual ones
};
std::string_view formName(Form form);

struct Table {
    std::string key; ///< "quarters.income"
    std::string title;
    Form form = Form::Table;
    std::vector<std::string> heads = {}; ///< a column; periods by the ISO day of their end
    std::vector<Row> rows = {};
    std::vector<std::string> notes = {}; ///< what is not there, and why
};

struct Part {
    std::string key;                     ///< "results"
    std::string title;                   ///< "Results"
    std::vector<std::string> words = {}; ///< what the tables say, in sentences
    std::vector<Table> tables = {};
};

struct Dossier {
    std::size_t stock = 0;
    Day day = Day::fromSerial(0); ///< asked for
    std::string symbol = {};      ///< that it bore on the day
    std::string name = {};
    std::string currency = {};       ///< of its figures
    std::string marketCurrency = {}; ///< of what is said across stocks
    std::vector<Part> parts = {};

    const Part* part(std::string_view key) const;
};

/// By what growth is told that a price assumes.
struct DiscountModel {
    double years = 10.0;    ///< 1 to 100
    double discount = 0.09; ///< a year
    double lasting = 0.02;  ///< growth a year after those years; below `discount`

    friend bool operator==(const DiscountModel&, const DiscountModel&) = default;
};

/// What a person chose to see.
struct Choices {
    std::vector<std::string> figures = {}; ///< fields or expressions; empty: the standard ones
    bool isPerShare = false;               ///< results, by the shares there were
    DiscountModel model = {};
    valuation::ScoreWeights weights = valuation::equalWeights; ///< of the person's blend
    watchlists::PlanTerms plan = {};
    std::vector<std::string> peers = {}; ///< symbols; empty: the proposed ones
    std::optional<watchlists::Checklist> checklist = std::nullopt;
    std::optional<watchlists::TradePlan> planned = std::nullopt; ///< the person's own

    friend bool operator==(const Choices&, const Choices&) = default;
};

/// Who is looked at, when, and how.
struct Subject {
    engine::Evaluator& evaluator;
    const language::Names& names;
    std::size_t stock = 0;
    Day day = Day::fromSerial(0);
    Choices choices = {};
    std::span<const Shared<watchlists::Watchlist>> lists = {}; ///< the person's
    watchlists::Verdicts verdicts = {};                        ///< likewise
};

/// What a dossier's checklist says, question by question: for a verdict. Empty: it has none.
std::vector<watchlists::Said> saidIn(const Dossier& dossier);

/// The keys of all parts, in their order.
std::vector<std::string> partKeys();

/// The parts asked for, by key and in the order of all; none named: all of them.
/// Missing: figures that are not known; a part of which nothing is known has words that say so.
///          Before the stock's first bar there is no figure at all.
/// Errors:  Stopped. A chosen figure that does not check says so in its note.
/// Requires: keys of parts, a stock of the market; else std::logic_error.
Dossier makeDossier(const Subject& subject, std::span<const std::string> parts = {},
                    const Progress& progress = {});

} // namespace sieve::dossier
