#include "app/lists/entries_model.h"

#include "app/look/look.h"
#include "app/parts/number_text.h"

#include <algorithm>

namespace sieve::app {

void EntriesModel::setEntries(watchlists::Watchlist list, std::vector<std::string> names,
                              std::vector<watchlists::EntryResult> standings)
{
    beginResetModel();
    list_ = std::move(list);
    names_ = std::move(names);
    standings_ = std::move(standings);
    endResetModel();
}

const watchlists::Entry& EntriesModel::entry(int row) const
{
    return list_.entries.at(static_cast<std::size_t>(row));
}

int EntriesModel::rowOf(const std::string& symbol) const
{
    const auto found = std::ranges::find(list_.entries, symbol, &watchlists::Entry::symbol);
    return found == list_.entries.end() ? -1 : static_cast<int>(found - list_.entries.begin());
}

int EntriesModel::rowCount(const QModelIndex& parent) const
{
    return parent.isValid() ? 0 : static_cast<int>(list_.entries.size());
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
    const watchlists::Entry& entry = list_.entries[row];
    const watchlists::EntryResult& standing = standings_[row];
    if (role == Qt::EditRole && index.column() == Reason)
        return text(entry.reason);
    if (role == Qt::TextAlignmentRole) {
        const bool isFigure = index.column() >= PriceThen && index.column() <= Gain;
        return QVariant::fromValue(Qt::AlignVCenter | (isFigure ? Qt::AlignRight : Qt::AlignLeft));
    }
    if (role == Qt::FontRole && index.column() == Symbol)
        return fontOf(Weight::SemiBold);
    if (role == Qt::ForegroundRole && index.column() == Gain)
        return standing.gain < 0.0 ? look().fall : look().rise;
    if (role != Qt::DisplayRole && role != Qt::ToolTipRole)
        return {};
    switch (index.column()) {
    case Symbol:
        return text(entry.symbol);
    case Name:
        return !standing.isKnown     ? tr("not in this market")
               : standing.isDelisted ? tr("%1 (delisted)").arg(text(names_[row]))
                                     : text(names_[row]);
    case Added:
        return shortDayText(entry.addedOn);
    case PriceThen:
        return numberText(entry.priceThen, Unit::Money, 2);
    case Price:
        return numberText(standing.price, Unit::Money, 2);
    case Gain:
        return signedText(standing.gain, Unit::Percent, 1);
    case Reason:
        return text(entry.reason);
    case Source:
        return entry.source.empty() ? tr("by hand") : text(entry.source);
    default:
        return {};
    }
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
    list_.entries[row].reason = utf8(value.toString().trimmed());
    Q_EMIT dataChanged(index, index);
    Q_EMIT reasonChanged(text(list_.entries[row].symbol), text(list_.entries[row].reason));
    return true;
}

} // namespace sieve::app
