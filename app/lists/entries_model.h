#pragma once

#include "core/base/shared.h"
#include "core/watchlists/stocks.h"
#include "core/watchlists/watchlist.h"

#include <QAbstractTableModel>
#include <vector>

namespace sieve::app {

/// The entries of one list with what became of them, a row each. The reason can be edited in place.
class EntriesModel : public QAbstractTableModel {
    Q_OBJECT
public:
    enum Column { Symbol, Name, Added, PriceThen, Price, Gain, Reason, Source, ColumnCount };

    using QAbstractTableModel::QAbstractTableModel;
    /// `results` is what became of each (watchlists::resultsOf); `market` null while none is open.
    void setEntries(Shared<watchlists::Watchlist> list,
                    std::vector<watchlists::EntryResult> results, market::MarketPtr market);
    const watchlists::Watchlist& list() const { return *list_; }
    const watchlists::Entry& entry(int row) const;
    std::optional<std::size_t> stock(int row) const; ///< empty when the market does not have it
    int rowOf(std::size_t stock) const;              ///< -1 when it is not on the list

    int rowCount(const QModelIndex& parent = {}) const override;
    int columnCount(const QModelIndex& parent = {}) const override;
    QVariant data(const QModelIndex& index, int role = Qt::DisplayRole) const override;
    QVariant headerData(int section, Qt::Orientation orientation,
                        int role = Qt::DisplayRole) const override;
    Qt::ItemFlags flags(const QModelIndex& index) const override;
    bool setData(const QModelIndex& index, const QVariant& value, int role) override;

Q_SIGNALS:
    /// `entry` is as it was before.
    void reasonChanged(const sieve::watchlists::Entry& entry, const QString& reason);

private:
    QVariant shown(std::size_t row, int column) const;
    QVariant figure(std::size_t row, int column) const;
    QString tip(std::size_t row, int column) const;

    Shared<watchlists::Watchlist> list_;
    market::MarketPtr market_;
    std::vector<watchlists::EntryResult> results_;
};

} // namespace sieve::app
