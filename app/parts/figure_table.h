#pragma once

class QTableView;

namespace sieve::app {

/// Gives a table the manners of all tables of figures: whole rows, no grid, figures keep their
/// colour when selected, Ctrl+C copies head and rows as text that a spreadsheet takes.
void prepareTable(QTableView* table);

/// Fits columns to what they hold, within reason.
void fitColumns(QTableView* table);

} // namespace sieve::app
