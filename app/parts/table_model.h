#pragma once

#include "core/market/market.h"
#include "core/screens/table.h"

#include <QAbstractTableModel>
#include <map>
#include <memory>
#include <span>
#include <string>
#include <vector>

namespace sieve::app {

/// Shows one finished table of the core: a row a stock, a column a field.
class TableModel : public QAbstractTableModel {
    Q_OBJECT
public:
    using QAbstractTableModel::QAbstractTableModel;
    void setTable(std::shared_ptr<const screens::ResultTable> table, market::MarketPtr market);
    std::size_t instrumentAt(int row) const;
    int rowOf(std::size_t instrument) const; ///< -1 when it has no row
    /// Of a column that shows lines: some instruments' figures, oldest first.
    void addLines(const std::string& column, std::span<const std::size_t> instruments,
                  std::vector<std::vector<double>> lines);
    /// Of some rows, those whose line nobody has given yet.
    std::vector<std::size_t> withoutLine(const std::string& column, int firstRow,
                                         int lastRow) const;
    const screens::ResultTable& table() const { return *table_; }

    /// Rows leave as their symbols, a line each.
    QMimeData* mimeData(const QModelIndexList& indexes) const override;
    Qt::ItemFlags flags(const QModelIndex& index) const override;

    int rowCount(const QModelIndex& parent = {}) const override;
    int columnCount(const QModelIndex& parent = {}) const override;
    QVariant data(const QModelIndex& index, int role = Qt::DisplayRole) const override;
    QVariant headerData(int section, Qt::Orientation orientation,
                        int role = Qt::DisplayRole) const override;

private:
    /// The currency of a cell that is money in another than the market's; else empty.
    std::string otherCurrency(const screens::TableColumn& column, std::size_t row) const;
    QVariant toolTip(const screens::TableColumn& column, std::size_t row, std::size_t idle) const;
    QVariant picture(const screens::TableColumn& column, std::size_t row) const;

    std::shared_ptr<const screens::ResultTable> table_ =
        std::make_shared<const screens::ResultTable>();
    market::MarketPtr market_;
    std::map<std::string, std::map<std::size_t, std::vector<double>>> lines_;
};

} // namespace sieve::app
