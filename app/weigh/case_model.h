#pragma once

#include "core/market/market.h"
#include "core/studies/aftermath.h"

#include <QAbstractTableModel>
#include <QStyledItemDelegate>
#include <optional>
#include <vector>

namespace sieve::app {

/// Cases of a condition, a row each, the newest first, with a small picture of the way.
class CaseModel : public QAbstractTableModel {
    Q_OBJECT
public:
    using QAbstractTableModel::QAbstractTableModel;

    static constexpr int before = 20; ///< bars of a picture, before the purchase
    static constexpr int after = 60;  ///< and from it on

    /// A case with the way of its price.
    struct Shown {
        studies::Aftermath of;
        std::vector<double> way; ///< closes against the price at which it was bought
    };
    /// The newest cases, of one stock or of all. Threads: any.
    static std::vector<Shown> newestOf(const std::vector<studies::Aftermath>& cases,
                                       std::optional<std::size_t> stock,
                                       const market::Market& market, Day day);

    void show(std::vector<Shown> cases, const studies::Terms& terms, market::MarketPtr market);
    const Shown& caseAt(int row) const { return cases_[static_cast<std::size_t>(row)]; }
    static int pictureColumn() { return 2; }

    int rowCount(const QModelIndex& parent = {}) const override;
    int columnCount(const QModelIndex& parent = {}) const override;
    QVariant data(const QModelIndex& index, int role = Qt::DisplayRole) const override;
    QVariant headerData(int section, Qt::Orientation orientation,
                        int role = Qt::DisplayRole) const override;

private:
    std::vector<Shown> cases_;
    studies::Terms terms_;
    market::MarketPtr market_;
};

/// Draws the way of a case: closes against the price at which it was bought.
class CasePainter : public QStyledItemDelegate {
    Q_OBJECT
public:
    using QStyledItemDelegate::QStyledItemDelegate;
    void paint(QPainter* painter, const QStyleOptionViewItem& option,
               const QModelIndex& index) const override;
};

} // namespace sieve::app
