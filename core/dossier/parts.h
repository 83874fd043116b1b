#pragma once

#include "core/dossier/dossier.h"

#include <functional>

namespace sieve::dossier {

/// A part: its rows are laid out with their expressions, all expressions are evaluated in one go,
/// then what they say is told.
struct PartRow {
    std::string_view key;
    std::string_view title;
    void (*layOut)(Part& part, const Subject& subject, const Progress& progress);
    void (*tell)(Part& part, const Subject& subject) = nullptr;
};

/// All parts, in the order in which they are shown.
std::span<const PartRow> partRows();

void layOutFigures(Part&, const Subject&, const Progress&);
void tellFigures(Part&, const Subject&);
void layOutScore(Part&, const Subject&, const Progress&);
void layOutValue(Part&, const Subject&, const Progress&);
void tellValue(Part&, const Subject&);
void layOutResults(Part&, const Subject&, const Progress&);
void tellResults(Part&, const Subject&);
void layOutEstimates(Part&, const Subject&, const Progress&);
void tellEstimates(Part&, const Subject&);
void layOutOwners(Part&, const Subject&, const Progress&);
void tellOwners(Part&, const Subject&);
void layOutPeers(Part&, const Subject&, const Progress&);
void layOutPlan(Part&, const Subject&, const Progress&);
void tellPlan(Part&, const Subject&);
void layOutEvents(Part&, const Subject&, const Progress&);
void layOutListing(Part&, const Subject&, const Progress&);
void tellListing(Part&, const Subject&);

/// The title of a field of the dictionary, or the expression itself.
std::string titleOf(const std::string& expression, const Subject& subject);
std::string meaningOf(const std::string& expression, const Subject& subject);

/// Values of expressions on the stock's newest bar by the day; missing where one does not check.
std::vector<double> valuesOf(std::span<const std::string> expressions, const Subject& subject,
                             const Progress& progress);
/// Values of expressions on all of the stock's bars by the day, on the footing of the newest.
std::vector<std::vector<double>> historiesOf(std::span<const std::string> expressions,
                                             const Subject& subject, const Progress& progress);

/// "12.3 % over", "4.0 % under"
std::string overUnder(double share);

} // namespace sieve::dossier
