#pragma once

#include "core/charts/set_up.h"
#include "core/dossier/dossier.h"
#include "core/library/work.h"
#include "core/screens/name_book.h"

#include <QString>
#include <memory>
#include <vector>

namespace sieve::app {

/// What is printed.
struct StockPages {
    std::shared_ptr<engine::Evaluator> evaluator; ///< of the market that the stocks are of
    screens::NameBookPtr book;
    std::vector<std::size_t> stocks;
    Day day = Day::fromSerial(0);
    QString title = {}; ///< of a booklet, on a page of contents; empty: a stock alone, without one
    int sessions = 190; ///< in sight on the chart, the newest
    charts::SetUp setUp = {};
    dossier::Choices choices = {};    ///< of all stocks; see choices.h
    std::optional<std::int64_t> list; ///< that takes what is kept
    library::Work work = {}; ///< drawings, lists, verdicts, and what was said of each stock
};

/// Writes a page a stock as PDF, A4 upright, in light colours: its chart with the plan, figures,
/// score, value, results, plan, checklist and the person's words. Gives back how many pages; 0
/// where the file could not be written, and then a file of that name is as it was.
/// Threads: any; charts and dossiers are made here. Errors: Stopped.
int writeStockPages(const QString& file, const StockPages& pages, const Progress& progress);

} // namespace sieve::app
