#pragma once

#include "core/market/market.h"
#include "core/screens/table.h"

#include <QAbstractTableModel>
#include <memory>

namespace sieve::app {

/// Shows one finished table of the core: a row a stock, a column a field.
class TableModel : public QAbstractTableModel {
    Q_OBJECT
public:
    using QAbstractTableModel::QAbstractTableModel;
    void setTable(std::shared_ptr<const screens::ResultTable> table, market::MarketPtr market);
    std::size_t instrumentAt(int row) const;
    int rowOf(std::size_t instrument) const; ///< -1 when it has no row

    int rowCount(const QModelIndex& parent = {}) const override;
    int columnCount(const QModelIndex& parent = {}) const override;
    QVariant data(const QModelIndex& index, int role = Qt::DisplayRole) const override;
    QVariant headerData(int section, Qt::Orientation orientation,
                        int role = Qt::DisplayRole) const override;

private:
    std::shared_ptr<const screens::ResultTable> table_ =
        std::make_shared<const screens::ResultTable>();
    market::MarketPtr market_;
};

} // namespace sieve::app
