#pragma once

#include <QMetaType>
#include <vector>

class QAbstractItemDelegate;
class QMimeData;
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

/// Of a model's data: the figure that a cell shows rounded, as a double; none where it shows no
/// figure or there is none.
inline constexpr int figureRole = CellPicture::role + 1;

/// The rows of a table as shown text, and with their raw figures for a sheet: what Ctrl+C puts on
/// the clipboard. The selected rows with the head; all where
/// none is selected.
QMimeData* copyOf(const QTableView& table);

/// Gives a table the manners of all tables of figures: whole rows, no grid, figures keep their
/// colour when selected, Ctrl+C copies head and rows.
void prepareTable(QTableView* table);

/// Paints cells as those tables do, for a list or tree with many texts: each text is laid out once.
QAbstractItemDelegate* figureDelegate(QObject* parent);

/// Fits columns to what they hold, within reason.
void fitColumns(QTableView* table);

} // namespace sieve::app

Q_DECLARE_METATYPE(sieve::app::CellPicture)
