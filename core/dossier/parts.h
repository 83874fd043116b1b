#pragma once

#include "core/dossier/dossier.h"

namespace sieve::dossier {

/// A part of the table in dossier.cpp: its rows are laid out with their expressions, all
/// expressions are evaluated in one go, then what they say is told.
struct PartRow {
    std::string_view key;
    std::string_view title;
    void (*layOut)(Part& part, const Subject& subject, const Progress& progress);
    void (*tell)(Part& part, const Subject& subject) = nullptr;
};

void layOutVerdict(Part&, const Subject&, const Progress&);
void tellVerdict(Part&, const Subject&);
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

/// Whom a dossier is of and as of which day, without a part yet.
Dossier emptyDossier(const Subject& subject);

/// Gives every cell that has an expression its value, kind, unit and decimals, as of the subject's
/// day.
void evaluate(std::vector<Part>& parts, const Subject& subject, const Progress& progress);

/// The title of a field of the dictionary, or the expression itself.
std::string titleOf(const std::string& expression, const Subject& subject);
std::string meaningOf(const std::string& expression, const Subject& subject);

/// Values of expressions on the stock's bars by the day, on the footing of the newest; of all of
/// them, or of the newest so many.
std::vector<std::vector<double>> historiesOf(std::span<const std::string> expressions,
                                             const Subject& subject, const Progress& progress,
                                             std::optional<std::size_t> newest = std::nullopt);

/// A day as a cell.
Cell dayCell(Day day);
bool isUnknown(const Row& row); ///< whether none of its figures is known
/// Takes out the rows of which nothing is known, each with those that tell of it.
void dropUnknown(Table& table);
/// Likewise of all tables of a part, and the tables of which nothing is left.
void dropUnknown(Part& part);

} // namespace sieve::dossier
