#pragma once

#include "core/charts/chart.h"
#include "core/drawings/drawing.h"

#include <QString>
#include <vector>

namespace sieve::app {

/// What a wall's pages show.
struct WallPages {
    std::vector<std::size_t> stocks;
    Day day = Day::fromSerial(0);
    QString title;      ///< at the head of each page
    int side = 2;       ///< charts of a row, and rows of a page
    int sessions = 126; ///< in sight, the newest
    charts::SetUp setUp;
    Shared<std::vector<Shared<drawings::Drawing>>> drawings;
    std::vector<Shared<watchlists::Watchlist>> lists;
    std::vector<charts::MarkedDay> marked = {};
};

/// Writes them as PDF, A4 across, in light colours. Gives back how many pages; 0 where the file
/// could not be written, and then a file of that name is as it was.
/// Threads: any; the charts are made here. Errors: Stopped.
int writePages(const QString& file, const WallPages& pages, engine::Evaluator& evaluator,
               const language::Names& names, const Progress& progress);

} // namespace sieve::app
