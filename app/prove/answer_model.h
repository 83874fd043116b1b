#pragma once

#include "core/base/day.h"
#include "core/base/missing.h"

#include <QAbstractTableModel>
#include <functional>
#include <vector>

class QTableView;

namespace sieve::app {

/// The rows of an answer as a table: each cell as text, with the figure that it is sorted by.
class AnswerModel : public QAbstractTableModel {
    Q_OBJECT
public:
    struct Column {
        QString head;
        QString tip = {};
        bool isFigure = true;
    };
    struct Cell {
        QString text;
        double figure = missing; ///< for sorting and sheets; missing: the text alone
    };
    using CellOf = std::function<Cell(std::size_t row, std::size_t column)>;

    using QAbstractTableModel::QAbstractTableModel;
    void show(std::vector<Column> columns, std::size_t rows, CellOf cellOf);

    int rowCount(const QModelIndex& parent = {}) const override;
    int columnCount(const QModelIndex& parent = {}) const override;
    QVariant data(const QModelIndex& index, int role) const override;
    QVariant headerData(int section, Qt::Orientation orientation, int role) const override;

private:
    std::vector<Column> columns_;
    std::size_t rows_ = 0;
    CellOf cellOf_;
};

// Cells of studies: what is not known is a dash and comes last.
AnswerModel::Cell changeCell(double change);               ///< "+1.2 %"
AnswerModel::Cell shareCell(double share, int decimals);   ///< "57 %"
AnswerModel::Cell figureCell(double figure, int decimals); ///< "12.5"
AnswerModel::Cell countCell(std::size_t count);            ///< "11,516"
AnswerModel::Cell dayCell(Day day);

/// A table of such a model, sorted by a click on a head, what is not known last.
QTableView* answerTable(AnswerModel* model, const QString& name);
/// The model's row that is chosen; -1 where none is.
int chosenRow(const QTableView* table);
/// The model's rows that are chosen, as the table has them.
std::vector<int> chosenRows(const QTableView* table);
/// Chooses a row of the model.
void chooseRow(QTableView* table, int row);
/// Chooses one beside those that are chosen.
void alsoChooseRow(QTableView* table, int row);

} // namespace sieve::app
