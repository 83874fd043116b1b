#pragma once

#include "app/chart/chart_picture.h"
#include "core/dossier/dossier.h"

#include <QStringList>
#include <vector>

namespace sieve::app {

/// One stock of a booklet.
struct StockPage {
    std::size_t stock = 0;
    dossier::Choices choices;
    QStringList words; ///< the person's own: reason, notes, lists
};

/// What is printed.
struct StockPages {
    std::vector<StockPage> pages;
    Day day = Day::fromSerial(0);
    QString title;      ///< of a booklet, on a page of contents; empty: a stock alone, without one
    int sessions = 190; ///< in sight on the chart, the newest
    charts::SetUp setUp;
    Shared<std::vector<Shared<drawings::Drawing>>> drawings;
    std::vector<Shared<watchlists::Watchlist>> lists;
    Shared<std::vector<Shared<watchlists::Verdict>>> verdicts;
};

/// Writes a page a stock as PDF, A4 upright, in light colours: its chart with the plan, figures,
/// score, value, results, plan, checklist and the person's words. Gives back how many pages; 0
/// where the file could not be written, and then a file of that name is as it was.
/// Threads: any; charts and dossiers are made here. Errors: Stopped.
int writeStockPages(const QString& file, const StockPages& pages, engine::Evaluator& evaluator,
                    const language::Names& names, const Progress& progress);

} // namespace sieve::app
