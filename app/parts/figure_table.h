#pragma once

#include <QMetaType>
#include <vector>

class QAbstractItemDelegate;
class QObject;
class QTableView;

namespace sieve::app {

/// What a cell shows beside its figure; places run from 0 (left) to 1.
struct CellPicture {
    enum class What { Bar, Range, Line, Sign };

    What what = What::Bar;
    double from = 0; ///< of a bar: where nothing would stand
    double to = 0;   ///< of a bar: its end; of a range: the mark; of a sign: below 0 a fall
    std::vector<double> line = {}; ///< oldest first

    static constexpr int role = 0x0100 + 41; ///< Qt::UserRole and on; of the model's data
};

/// Gives a table the manners of all tables of figures: whole rows, no grid, figures keep their
/// colour when selected, Ctrl+C copies head and rows as text that a spreadsheet takes.
void prepareTable(QTableView* table);

/// Paints cells as those tables do, for a list or tree with many texts: each text is laid out once.
QAbstractItemDelegate* figureDelegate(QObject* parent);

/// Fits columns to what they hold, within reason.
void fitColumns(QTableView* table);

} // namespace sieve::app

Q_DECLARE_METATYPE(sieve::app::CellPicture)
