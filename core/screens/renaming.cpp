#include "core/screens/renaming.h"

namespace sieve::screens {

Screen withRenamed(Screen screen, const language::Renaming& renaming)
{
    const auto rename = [&](std::string& text) { text = renaming.in(text); };
    rename(screen.universe);
    rename(screen.rankBy);
    for (Criterion& criterion : screen.criteria)
        rename(criterion.text);
    for (std::string& column : screen.columns)
        rename(column);
    CellGraphics cells;
    for (const auto& [column, graphic] : screen.cells)
        cells[renaming.in(column)] = graphic;
    screen.cells = std::move(cells);
    return screen;
}

bool names(const Screen& screen, language::Renaming::What what, std::string_view name)
{
    return !(withRenamed(screen, {what, std::string(name), "another_name_for_it"}) == screen);
}

} // namespace sieve::screens
