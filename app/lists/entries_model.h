#pragma once

#include "core/market/market.h"
#include "core/watchlists/gain.h"
#include "core/watchlists/watchlist.h"

#include <QAbstractTableModel>
#include <vector>

namespace sieve::app {

/// The entries of one list with their standings, a row each. The reason can be edited in place.
class EntriesModel : public QAbstractTableModel {
    Q_OBJECT
public:
    enum Column { Symbol, Name, Added, PriceThen, Price, Gain, Reason, Source, ColumnCount };

    using QAbstractTableModel::QAbstractTableModel;
    /// One name and standing an entry; names are empty while no market is open.
    void setEntries(watchlists::Watchlist list, std::vector<std::string> names,
                    std::vector<watchlists::EntryResult> standings);
    const watchlists::Entry& entry(int row) const;
    int rowOf(const std::string& symbol) const; ///< -1 when it is not on the list

    int rowCount(const QModelIndex& parent = {}) const override;
    int columnCount(const QModelIndex& parent = {}) const override;
    QVariant data(const QModelIndex& index, int role = Qt::DisplayRole) const override;
    QVariant headerData(int section, Qt::Orientation orientation,
                        int role = Qt::DisplayRole) const override;
    Qt::ItemFlags flags(const QModelIndex& index) const override;
    bool setData(const QModelIndex& index, const QVariant& value, int role) override;

Q_SIGNALS:
    void reasonChanged(const QString& symbol, const QString& reason);

private:
    watchlists::Watchlist list_;
    std::vector<std::string> names_;
    std::vector<watchlists::EntryResult> standings_;
};

} // namespace sieve::app
