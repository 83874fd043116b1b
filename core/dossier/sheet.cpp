#include "core/dossier/sheet.h"

namespace sieve::dossier {

exports::Sheet sheetOf(const Table& table, const market::TextTable& texts)
{
    exports::Sheet sheet;
    sheet.columns.push_back(table.title);
    for (const std::string& head : table.heads)
        sheet.columns.push_back(head);
    for (const Row& row : table.rows) {
        auto& cells = sheet.rows.emplace_back();
        cells.emplace_back(nameOf(row));
        for (const Cell& cell : row.cells)
            cells.push_back(cell.text.empty() ? exports::cellOf(cell.value, cell.kind, texts)
                                              : exports::Cell(cell.text));
        cells.resize(sheet.columns.size());
    }
    return sheet;
}

} // namespace sieve::dossier
