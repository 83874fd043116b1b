#pragma once

#include "core/screens/table.h"
#include "core/watchlists/list_told.h"
#include "core/watchlists/market_call.h"

#include <QAbstractTableModel>
#include <QSortFilterProxyModel>
#include <memory>
#include <optional>
#include <vector>

namespace sieve::app {

/// What Lists shows of one list.
struct ShownList {
    watchlists::ListTold told;
    std::optional<watchlists::MarketCall> call;
    screens::ResultTable figures; ///< of the chosen columns: a row an entry that the market has
    market::MarketPtr market;     ///< null while none is open
};

/// The entries of one list with what became of them, a row each, in the list's order. Reason,
/// category, tags and the day of review can be edited in place.
class EntriesModel : public QAbstractTableModel {
    Q_OBJECT
public:
    enum Column {
        Sign,
        Symbol,
        Plan,
        State,
        Gain,
        Reason,
        Since,
        NextReport,
        Review,
        Category,
        Source,
        Tags,
        Verdict,
        Held,
        Days,
        PriceThen,
        Price,
        Highest,
        Lowest,
        Name,
        OwnColumns ///< the chosen ones follow
    };

    using QAbstractTableModel::QAbstractTableModel;
    void setShown(std::shared_ptr<const ShownList> shown);
    const ShownList& shown() const { return *shown_; }
    const std::shared_ptr<const ShownList>& shownNow() const { return shown_; }
    const watchlists::Watchlist& list() const { return shown_->told.list; }
    const watchlists::Entry& entry(int row) const;
    const watchlists::EntryTold& told(int row) const;
    std::optional<std::size_t> stock(int row) const; ///< empty when the market does not have it
    int rowOf(std::size_t stock) const;              ///< -1 when it is not on the list

    int rowCount(const QModelIndex& parent = {}) const override;
    int columnCount(const QModelIndex& parent = {}) const override;
    QVariant data(const QModelIndex& index, int role = Qt::DisplayRole) const override;
    QVariant headerData(int section, Qt::Orientation orientation,
                        int role = Qt::DisplayRole) const override;
    Qt::ItemFlags flags(const QModelIndex& index) const override;
    bool setData(const QModelIndex& index, const QVariant& value, int role) override;

    /// Rows leave as their symbols, a line each, and within the program as entries of their list.
    QStringList mimeTypes() const override;
    QMimeData* mimeData(const QModelIndexList& indexes) const override;
    Qt::DropActions supportedDragActions() const override
    {
        return Qt::CopyAction | Qt::MoveAction;
    }

    /// By what rows are put in order: a figure, or a text in lower case.
    QVariant sortKey(const QModelIndex& index) const;

Q_SIGNALS:
    /// The person typed another text into a cell. `entry` is as it was before.
    void typed(const sieve::watchlists::Entry& entry, int column, const QString& typed);

private:
    QString shownText(std::size_t row, int column) const;
    double figure(std::size_t row, int column) const;
    QString tip(std::size_t row, int column) const;
    QVariant colour(std::size_t row, int column) const;
    bool isFigure(int column) const;
    QString priceOf(std::size_t row, double price) const;
    /// The row of the chosen figures; empty for a stock that the market does not have.
    std::optional<std::size_t> figureRow(std::size_t row) const;

    std::shared_ptr<const ShownList> shown_ = std::make_shared<const ShownList>();
    std::vector<std::optional<std::size_t>> figureRows_;
};

/// The rows in another order than the list's: missing ones stand last both ways.
class EntriesOrder : public QSortFilterProxyModel {
public:
    using QSortFilterProxyModel::QSortFilterProxyModel;

protected:
    bool lessThan(const QModelIndex& a, const QModelIndex& b) const override;
};

/// Entries that are dragged within the program: the list's number and their rows.
inline constexpr const char* entriesMimeType = "application/x-wise-sieve-entries";
struct DraggedEntries {
    std::int64_t list = 0;
    std::vector<watchlists::Entry> entries;
};
/// Empty where it carries none.
std::optional<DraggedEntries> entriesIn(const QMimeData& data);

} // namespace sieve::app
