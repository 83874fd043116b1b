#include "core/screens/cell_graphics.h"

#include <fmt/format.h>

namespace sieve::screens {

std::string cellsToml(const CellGraphics& cells)
{
    std::vector<std::string> all;
    for (const auto& [column, graphic] : cells)
        all.push_back(
            fmt::format("{} = \"{}\"", quotedToml(column), language::graphicName(graphic)));
    return all.empty() ? std::string() : fmt::format("cells = {{ {} }}\n", fmt::join(all, ", "));
}

CellGraphics readCells(const toml::table& table)
{
    CellGraphics cells;
    const toml::node* node = table.get("cells");
    if (node && !node->is_table())
        failAt(node->source(), "'cells' is no table", "write cells = { \"close\" = \"bar\" }");
    if (!node)
        return cells;
    for (const auto& [column, each] : *node->as_table()) {
        const auto name = each.value_exact<std::string>();
        const auto graphic = name ? language::graphicNamed(*name) : std::nullopt;
        if (!graphic)
            failAt(each.source(), "no such graphic of a cell",
                   "write one of none, bar, range, line, sign");
        cells[std::string(column.str())] = *graphic;
    }
    return cells;
}

} // namespace sieve::screens
