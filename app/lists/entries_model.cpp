#include "app/lists/entries_model.h"

#include "app/look/look.h"
#include "app/parts/figure_table.h"
#include "app/parts/number_text.h"

#include <algorithm>
#include <cmath>

namespace sieve::app {

void EntriesModel::setEntries(Shared<watchlists::Watchlist> list,
                              std::vector<watchlists::EntryResult> results,
                              market::MarketPtr market)
{
    beginResetModel();
    list_ = std::move(list);
    results_ = std::move(results);
    market_ = std::move(market);
    endResetModel();
}

const watchlists::Entry& EntriesModel::entry(int row) const
{
    return list_->entries.at(static_cast<std::size_t>(row));
}

std::optional<std::size_t> EntriesModel::stock(int row) const
{
    return results_.at(static_cast<std::size_t>(row)).stock;
}

int EntriesModel::rowOf(std::size_t stock) const
{
    const auto found =
        std::ranges::find(results_, std::optional(stock), &watchlists::EntryResult::stock);
    return found == results_.end() ? -1 : static_cast<int>(found - results_.begin());
}

int EntriesModel::rowCount(const QModelIndex& parent) const
{
    return parent.isValid() ? 0 : static_cast<int>(list_->entries.size());
}

int EntriesModel::columnCount(const QModelIndex& parent) const
{
    return parent.isValid() ? 0 : ColumnCount;
}

QVariant EntriesModel::data(const QModelIndex& index, int role) const
{
    if (!checkIndex(index, CheckIndexOption::IndexIsValid))
        return {};
    const auto row = static_cast<std::size_t>(index.row());
    if (role == Qt::EditRole && index.column() == Reason)
        return text(list_->entries[row].reason);
    if (role == Qt::TextAlignmentRole) {
        const bool isFigure = index.column() >= PriceThen && index.column() <= Gain;
        return QVariant::fromValue(Qt::AlignVCenter | (isFigure ? Qt::AlignRight : Qt::AlignLeft));
    }
    if (role == Qt::FontRole && index.column() == Symbol)
        return fontOf(Weight::SemiBold);
    if (role == Qt::ForegroundRole && index.column() == Gain && !isMissing(results_[row].gain))
        return results_[row].gain < 0.0 ? look().fall : look().rise;
    if (role == figureRole)
        return figure(row, index.column());
    if (role == Qt::ToolTipRole)
        return tip(row, index.column());
    return role == Qt::DisplayRole ? shown(row, index.column()) : QVariant();
}

QVariant EntriesModel::figure(std::size_t row, int column) const
{
    const watchlists::EntryResult& result = results_[row];
    const double value =
        column == PriceThen
            ? isMissing(result.priceThen) ? list_->entries[row].priceThen : result.priceThen
        : column == Price ? result.price
        : column == Gain  ? result.gain
                          : missing;
    return isMissing(value) ? QVariant() : QVariant(value);
}

QVariant EntriesModel::shown(std::size_t row, int column) const
{
    const watchlists::Entry& entry = list_->entries[row];
    const watchlists::EntryResult& result = results_[row];
    const market::Instrument* stock = result.stock ? &market_->instrument(*result.stock) : nullptr;
    const auto price = [&](double figure) {
        return stock ? priceText(figure, *market_, *result.stock)
                     : numberText(figure, Unit::Money, 2);
    };
    switch (column) {
    case Symbol:
        return text(stock ? stock->symbol : entry.symbol);
    case Name:
        return !market_            ? QString()
               : !stock            ? tr("not in this market")
               : result.isDelisted ? tr("%1 (delisted)").arg(text(stock->name))
                                   : text(stock->name);
    case Added:
        return shortDayText(entry.addedOn);
    case PriceThen: // beside the close it must stand on the same footing
        return price(isMissing(result.priceThen) ? entry.priceThen : result.priceThen);
    case Price:
        return price(result.price);
    case Gain:
        return signedText(result.gain, Unit::Percent, 1);
    case Reason:
        return text(entry.reason);
    case Source:
        return entry.source.empty() ? tr("by hand") : text(entry.source);
    default:
        return {};
    }
}

QString EntriesModel::tip(std::size_t row, int column) const
{
    const watchlists::Entry& entry = list_->entries[row];
    const watchlists::EntryResult& result = results_[row];
    const bool isMoved =
        !isMissing(result.priceThen) && std::abs(result.priceThen / entry.priceThen - 1.0) > 1e-9;
    if (column == PriceThen && isMoved)
        return tr("It traded at %1 then; splits since are taken out.")
            .arg(priceText(entry.priceThen, *market_, *result.stock));
    if (column == Symbol && result.stock &&
        market_->instrument(*result.stock).symbol != entry.symbol)
        return tr("It was called %1 when it was added.").arg(text(entry.symbol));
    return shown(row, column).toString();
}

QVariant EntriesModel::headerData(int section, Qt::Orientation orientation, int role) const
{
    if (orientation != Qt::Horizontal)
        return {};
    if (role == Qt::TextAlignmentRole)
        return QVariant::fromValue(
            Qt::AlignVCenter |
            (section >= PriceThen && section <= Gain ? Qt::AlignRight : Qt::AlignLeft));
    if (role != Qt::DisplayRole)
        return {};
    const QString titles[] = {tr("Symbol"), tr("Name"), tr("Since"),  tr("Price then"),
                              tr("Close"),  tr("Gain"), tr("Reason"), tr("Source")};
    return titles[section];
}

Qt::ItemFlags EntriesModel::flags(const QModelIndex& index) const
{
    const Qt::ItemFlags plain = QAbstractTableModel::flags(index);
    return index.column() == Reason ? plain | Qt::ItemIsEditable : plain;
}

bool EntriesModel::setData(const QModelIndex& index, const QVariant& value, int role)
{
    if (role != Qt::EditRole || index.column() != Reason)
        return false;
    const auto row = static_cast<std::size_t>(index.row());
    const watchlists::Entry before = list_->entries[row];
    const QString reason = value.toString().trimmed();
    list_.edit().entries[row].reason = utf8(reason);
    Q_EMIT dataChanged(index, index);
    Q_EMIT reasonChanged(before, reason);
    return true;
}

} // namespace sieve::app
