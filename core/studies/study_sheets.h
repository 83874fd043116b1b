#pragma once

#include "core/exports/sheet.h"
#include "core/studies/following.h"
#include "core/studies/neighbours.h"
#include "core/studies/portfolio.h"
#include "core/studies/standings.h"

namespace sieve::studies {

/// A row a horizon: cases, how they went, how all went, how sure that is.
exports::Sheet sheetOf(const Following& following);
/// A row a group and horizon.
exports::Sheet groupsSheet(const Following& following, const CaseGroups& groups);
/// A row a case.
exports::Sheet casesSheet(const Following& following, const market::Market& market);

/// A row a cell.
exports::Sheet sheetOf(const Neighbours& neighbours);

/// A row a year that was tested with the limits that were best before it.
exports::Sheet walkSheet(const Neighbours& neighbours);

/// A row a screen, the largest mean gain first; those with a fault last, with its words.
exports::Sheet sheetOf(const Standings& standings);
/// A row a screen and start.
exports::Sheet startsSheet(const Standings& standings);
/// A row a start: how the screens of each side did together (healthOf), beside the benchmark.
exports::Sheet healthSheet(const Standings& standings);
/// A row a session: the curve of each screen and of the benchmark.
exports::Sheet curvesSheet(const Standings& standings);
/// A row a screen: its mean gain over the starts that bear each name.
exports::Sheet gainsBySheet(const Standings& standings, std::span<const std::size_t> places,
                            std::span<const std::string> names);
/// Name and value: measures of a portfolio and of its benchmark, trades, honesty.
exports::Sheet sheetOf(const Portfolio& portfolio, const PortfolioTold& told);
/// The measures before a day and from it on.
exports::Sheet sheetOf(const SplitMeasures& split);
/// A row a session.
exports::Sheet curveSheet(const Portfolio& portfolio);
/// A row each.
exports::Sheet tradesSheet(const Portfolio& portfolio, const market::Market& market);
exports::Sheet fillsSheet(const Portfolio& portfolio, const market::Market& market);
exports::Sheet monthsSheet(const PortfolioTold& told);
/// A row a year, for people: the year, the benchmark and each month in percent, as texts.
exports::Sheet yearsSheet(const PortfolioTold& told);
exports::Sheet contributionsSheet(const PortfolioTold& told, const market::Market& market, Day day);
/// Adds a row a stock that a screen bought on a start: screen, start, symbol, weight, gain.
void addPicks(exports::Sheet& sheet, const std::string& screen, Day start,
              std::span<const StandingPick> picks, const market::Market& market);

} // namespace sieve::studies
