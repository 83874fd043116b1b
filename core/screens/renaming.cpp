#include "core/screens/renaming.h"

#include "core/expressions/own_fields.h"

namespace sieve::screens {

Screen withFieldRenamed(Screen screen, std::string_view from, std::string_view to)
{
    const auto rename = [&](std::string& text) { text = expressions::renamed(text, from, to); };
    rename(screen.universe);
    rename(screen.rankBy);
    for (Criterion& criterion : screen.criteria)
        rename(criterion.text);
    for (std::string& column : screen.columns)
        rename(column);
    CellGraphics cells;
    for (const auto& [column, graphic] : screen.cells)
        cells[expressions::renamed(column, from, to)] = graphic;
    screen.cells = std::move(cells);
    return screen;
}

bool namesField(const Screen& screen, std::string_view field)
{
    return !(withFieldRenamed(screen, field, "another_name_for_it") == screen);
}

} // namespace sieve::screens
