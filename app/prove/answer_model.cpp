#include "app/prove/answer_model.h"

#include "app/parts/figure_table.h"
#include "app/parts/number_text.h"

#include <QHeaderView>
#include <QSortFilterProxyModel>
#include <QTableView>

namespace sieve::app {

namespace {

class AnswerOrder : public QSortFilterProxyModel {
public:
    using QSortFilterProxyModel::QSortFilterProxyModel;

protected:
    bool lessThan(const QModelIndex& left, const QModelIndex& right) const override
    {
        const QVariant a = left.data(figureRole);
        const QVariant b = right.data(figureRole);
        if (a.isValid() != b.isValid()) // what is not known comes last either way
            return a.isValid() == (sortOrder() == Qt::AscendingOrder);
        if (!a.isValid())
            return QString::localeAwareCompare(left.data().toString(), right.data().toString()) < 0;
        return a.toDouble() < b.toDouble();
    }
};

} // namespace

void AnswerModel::show(std::vector<Column> columns, std::size_t rows, CellOf cellOf)
{
    beginResetModel();
    columns_ = std::move(columns);
    rows_ = rows;
    cellOf_ = std::move(cellOf);
    endResetModel();
}

int AnswerModel::rowCount(const QModelIndex& parent) const
{
    return parent.isValid() ? 0 : static_cast<int>(rows_);
}

int AnswerModel::columnCount(const QModelIndex& parent) const
{
    return parent.isValid() ? 0 : static_cast<int>(columns_.size());
}

QVariant AnswerModel::data(const QModelIndex& index, int role) const
{
    if (role != Qt::DisplayRole && role != figureRole && role != Qt::TextAlignmentRole)
        return {};
    const auto column = static_cast<std::size_t>(index.column());
    if (role == Qt::TextAlignmentRole)
        return QVariant(Qt::AlignVCenter |
                        (columns_[column].isFigure ? Qt::AlignRight : Qt::AlignLeft));
    const Cell cell = cellOf_(static_cast<std::size_t>(index.row()), column);
    if (role == Qt::DisplayRole)
        return cell.text;
    return isMissing(cell.figure) ? QVariant() : QVariant(cell.figure);
}

QVariant AnswerModel::headerData(int section, Qt::Orientation orientation, int role) const
{
    if (orientation != Qt::Horizontal || section < 0 ||
        static_cast<std::size_t>(section) >= columns_.size())
        return {};
    const Column& column = columns_[static_cast<std::size_t>(section)];
    switch (role) {
    case Qt::DisplayRole:
        return column.head;
    case Qt::ToolTipRole:
        return column.tip;
    case Qt::TextAlignmentRole:
        return QVariant(Qt::AlignVCenter | (column.isFigure ? Qt::AlignRight : Qt::AlignLeft));
    default:
        return {};
    }
}

AnswerModel::Cell changeCell(double change)
{
    return {signedText(change, Unit::Percent, 1), change};
}

AnswerModel::Cell shareCell(double share, int decimals)
{
    return {numberText(share, Unit::Percent, decimals), share};
}

AnswerModel::Cell figureCell(double figure, int decimals)
{
    return {numberText(figure, Unit::Plain, decimals), figure};
}

AnswerModel::Cell countCell(std::size_t count)
{
    return {countText(count), static_cast<double>(count)};
}

AnswerModel::Cell dayCell(Day day)
{
    return {shortDayText(day), static_cast<double>(day.serial())};
}

QTableView* answerTable(AnswerModel* model, const QString& name)
{
    auto* table = new QTableView;
    auto* order = new AnswerOrder(table);
    order->setSourceModel(model);
    table->setModel(order);
    table->setAccessibleName(name);
    prepareTable(table);
    table->setSortingEnabled(true);
    table->sortByColumn(-1, Qt::AscendingOrder); // as the answer has them
    table->horizontalHeader()->setSortIndicatorClearable(true);
    // Each answer has columns of its own.
    QObject::connect(order, &QAbstractItemModel::modelReset, table, [table] { fitColumns(table); });
    return table;
}

int chosenRow(const QTableView* table)
{
    const QModelIndex current = table->currentIndex();
    const auto* order = qobject_cast<const QSortFilterProxyModel*>(table->model());
    return current.isValid() ? order->mapToSource(current).row() : -1;
}

void chooseRow(QTableView* table, int row)
{
    const auto* order = qobject_cast<const QSortFilterProxyModel*>(table->model());
    table->selectionModel()->setCurrentIndex(
        order->mapFromSource(order->sourceModel()->index(row, 0)),
        QItemSelectionModel::ClearAndSelect | QItemSelectionModel::Rows);
}

std::vector<int> chosenRows(const QTableView* table)
{
    const auto* order = qobject_cast<const QSortFilterProxyModel*>(table->model());
    std::vector<int> rows;
    for (const QModelIndex& each : table->selectionModel()->selectedRows())
        rows.push_back(order->mapToSource(each).row());
    return rows;
}

void alsoChooseRow(QTableView* table, int row)
{
    const auto* order = qobject_cast<const QSortFilterProxyModel*>(table->model());
    table->selectionModel()->setCurrentIndex(
        order->mapFromSource(order->sourceModel()->index(row, 0)),
        QItemSelectionModel::Select | QItemSelectionModel::Rows);
}

} // namespace sieve::app
