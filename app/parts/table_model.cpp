#include "app/parts/table_model.h"

#include "app/look/look.h"
#include "app/parts/figure_table.h"
#include "app/parts/number_text.h"
#include "app/parts/table_foot.h"

#include <QMimeData>
#include <algorithm>

namespace sieve::app {

void TableModel::setTable(std::shared_ptr<const screens::ResultTable> table,
                          market::MarketPtr market)
{
    beginResetModel();
    table_ = std::move(table);
    market_ = std::move(market);
    lines_.clear();
    endResetModel();
}

void TableModel::addLines(const std::string& column, std::span<const std::size_t> instruments,
                          std::vector<std::vector<double>> lines)
{
    for (std::size_t i = 0; i < instruments.size(); ++i)
        lines_[column][instruments[i]] = std::move(lines[i]);
    if (rowCount() > 0)
        Q_EMIT dataChanged(index(0, 0), index(rowCount() - 1, columnCount() - 1),
                           {CellPicture::role});
}

std::vector<std::size_t> TableModel::withoutLine(const std::string& column, int firstRow,
                                                 int lastRow) const
{
    const auto known = lines_.find(column);
    std::vector<std::size_t> absent;
    for (int row = std::max(firstRow, 0); row <= lastRow && row < rowCount(); ++row)
        if (known == lines_.end() || !known->second.contains(instrumentAt(row)))
            absent.push_back(instrumentAt(row));
    return absent;
}

QMimeData* TableModel::mimeData(const QModelIndexList& indexes) const
{
    std::vector<int> rows; // each is there with all of its cells
    for (const QModelIndex& each : indexes)
        rows.push_back(each.row());
    std::ranges::sort(rows);
    rows.erase(std::unique(rows.begin(), rows.end()), rows.end());
    QStringList symbols;
    for (const int row : rows)
        symbols << text(market_->instrument(instrumentAt(row)).symbol);
    auto* data = new QMimeData;
    data->setText(symbols.join(QLatin1Char('\n')));
    return data;
}

Qt::ItemFlags TableModel::flags(const QModelIndex& index) const
{
    return QAbstractTableModel::flags(index) | Qt::ItemIsDragEnabled;
}

/// What stands beside a figure that is known.
QVariant TableModel::picture(const screens::TableColumn& column, std::size_t row) const
{
    using language::CellGraphic;
    const double value = column.figures[row];
    if (column.graphic == CellGraphic::None || isMissing(value))
        return {};
    switch (column.graphic) {
    case CellGraphic::Bar: {
        const double compared = column.compared()[row];
        if (!(column.spread.high > column.spread.low) || isMissing(compared))
            return {};
        const bool hasZero = column.spread.low < 0.0 && !column.spread.isLogarithmic;
        const double zero = hasZero ? column.spread.placeOf(0.0) : 0.0;
        return QVariant::fromValue(
            CellPicture{CellPicture::What::Bar, std::clamp(zero, 0.0, 1.0),
                        std::clamp(column.spread.placeOf(compared), 0.0, 1.0)});
    }
    case CellGraphic::Range: {
        const double width = column.highs[row] - column.lows[row];
        if (!(width > 0.0))
            return {};
        return QVariant::fromValue(
            CellPicture{CellPicture::What::Range, 0.0,
                        std::clamp((value - column.lows[row]) / width, 0.0, 1.0)});
    }
    case CellGraphic::Line: {
        const auto known = lines_.find(column.text);
        if (known == lines_.end())
            return {};
        const auto line = known->second.find(table_->rows[row]);
        if (line == known->second.end())
            return {};
        return QVariant::fromValue(CellPicture{CellPicture::What::Line, 0.0, 0.0, line->second});
    }
    default:
        return value == 0.0 ? QVariant()
                            : QVariant::fromValue(CellPicture{CellPicture::What::Sign, 0.0, value});
    }
}

std::string TableModel::otherCurrency(const screens::TableColumn& column, std::size_t row) const
{
    return column.inMarket.empty() ? std::string() : table_->otherCurrencies[row];
}

QVariant TableModel::toolTip(const screens::TableColumn& column, std::size_t row,
                             std::size_t idle) const
{
    if (idle > 0)
        return tr("Its newest bar is %1 sessions old: it has not traded since. After %2 sessions "
                  "without trade a stock leaves the screens.")
            .arg(idle)
            .arg(market::idleSessions);
    const std::string currency = otherCurrency(column, row);
    if (currency.empty() || isMissing(column.figures[row]))
        return {};
    return exchangedText(column.figures[row], column.inMarket[row], column.decimals, currency,
                         table_->currency);
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
    const auto row = static_cast<std::size_t>(index.row());
    const std::size_t idle =
        column.text == "symbol" && row < table_->idle.size() ? table_->idle[row] : 0;
    if (role == Qt::DisplayRole || role == Qt::EditRole) { // EditRole: the value alone
        const std::string currency = otherCurrency(column, row);
        if (!currency.empty() && role == Qt::DisplayRole)
            return otherMoneyText(value, column.decimals, currency);
        const QString shown =
            valueText(value, column.kind, column.unit, column.decimals, market_->texts());
        return idle == 0 || role == Qt::EditRole ? shown
                                                 : tr("%1 (%2 d)").arg(shown, countText(idle));
    }
    if (role == Qt::ToolTipRole)
        return toolTip(column, row, idle);
    if (role == figureRole && isNumber && !isMissing(value))
        return value;
    if (role == CellPicture::role)
        return picture(column, static_cast<std::size_t>(index.row()));
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
            return table_->rows.empty() ? tr("nothing passes")
                                        : tr("median of %1").arg(countText(table_->rows.size()));
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
