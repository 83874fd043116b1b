#pragma once

#include "tests/app/window_bench.h"

#include <QDir>

// Pictures of the window: those of the documentation (screenshots.cpp), and many more for the eyes
// of who changes it.

namespace sieve::test {

/// Saves the window as it stands, without what it told just now.
/// Errors: std::runtime_error where the file cannot be written.
void take(const WindowBench& bench, const QDir& folder, const char* name);

// chart_pictures.cpp; each on the whole demo market
void takeChart(const QDir& folder);
void takeMinutes(const QDir& folder);
void takeDossier(const QDir& folder);
void takeWeighing(const QDir& folder);
void takeLists(const QDir& folder);
void takeBrief(const QDir& folder);
void takeProve(const QDir& folder);
void fillLists(const WindowBench& bench); ///< with entries in all states; shows the first list
void takeWalls(const QDir& folder);
void takeDrawings(const QDir& folder);
void takeWeighDrawings(const QDir& folder); ///< of the documentation; so is the next
void takeProved(const QDir& folder);
void takeWeighWall(const QDir& folder);

} // namespace sieve::test
