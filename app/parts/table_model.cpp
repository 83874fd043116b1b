#include "app/parts/table_model.h"

#include "app/look/look.h"
#include "app/parts/number_text.h"
#include "app/parts/table_foot.h"

#include <algorithm>

namespace sieve::app {

void TableModel::setTable(std::shared_ptr<const screens::ResultTable> table,
                          market::MarketPtr market)
{
    beginResetModel();
    table_ = std::move(table);
    market_ = std::move(market);
    endResetModel();
}

std::size_t TableModel::instrumentAt(int row) const
{
    return table_->rows.at(static_cast<std::size_t>(row));
}

int TableModel::rowOf(std::size_t instrument) const
{
    const auto found = std::ranges::find(table_->rows, instrument);
    return found == table_->rows.end() ? -1 : static_cast<int>(found - table_->rows.begin());
}

int TableModel::rowCount(const QModelIndex& parent) const
{
    return parent.isValid() ? 0 : static_cast<int>(table_->rows.size());
}

int TableModel::columnCount(const QModelIndex& parent) const
{
    return parent.isValid() ? 0 : static_cast<int>(table_->columns.size());
}

QVariant TableModel::data(const QModelIndex& index, int role) const
{
    if (!checkIndex(index, CheckIndexOption::IndexIsValid))
        return {};
    const auto& column = table_->columns[static_cast<std::size_t>(index.column())];
    const double value = column.figures[static_cast<std::size_t>(index.row())];
    const bool isNumber = column.kind == Kind::Number;
    if (role == Qt::DisplayRole)
        return valueText(value, column.kind, column.unit, column.decimals, market_->texts());
    if (role == Qt::TextAlignmentRole)
        return QVariant::fromValue(Qt::AlignVCenter | (isNumber ? Qt::AlignRight : Qt::AlignLeft));
    if (role == Qt::ForegroundRole && isNumber && column.unit == Unit::Percent && value < 0.0)
        return look().fall;
    if (role == Qt::ForegroundRole && isMissing(value))
        return look().softInk;
    if (role == Qt::FontRole && column.text == "symbol")
        return fontOf(Weight::SemiBold);
    return {};
}

QVariant TableModel::headerData(int section, Qt::Orientation orientation, int role) const
{
    if (orientation != Qt::Horizontal || section >= static_cast<int>(table_->columns.size()))
        return {};
    const auto& column = table_->columns[static_cast<std::size_t>(section)];
    if (role == Qt::DisplayRole)
        return text(column.head);
    if (role == Qt::TextAlignmentRole)
        return QVariant::fromValue(Qt::AlignVCenter |
                                   (column.kind == Kind::Number ? Qt::AlignRight : Qt::AlignLeft));
    if (role == TableFoot::footRole) {
        if (section == 0)
            return tr("median");
        return isMissing(column.median) ? QString()
                                        : numberText(column.median, column.unit, column.decimals);
    }
    if (role == Qt::ToolTipRole) {
        QString tip = text(column.title) + QLatin1Char('\n') +
                      (column.error ? text(sentence(*column.error)) : text(column.meaning));
        if (!isMissing(column.median))
            tip += tr("\nMedian of these: %1")
                       .arg(numberText(column.median, column.unit, column.decimals));
        return tip;
    }
    return {};
}

} // namespace sieve::app
