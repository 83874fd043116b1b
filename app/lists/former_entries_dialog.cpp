#include "app/lists/former_entries_dialog.h"

#include "app/desk/desk.h"
#include "app/desk/open_market.h"
#include "app/look/look.h"
#include "app/parts/figure_table.h"
#include "app/parts/number_text.h"
#include "core/watchlists/stocks.h"

#include <QAbstractTableModel>
#include <QDialogButtonBox>
#include <QHeaderView>
#include <QTableView>
#include <QVBoxLayout>

namespace sieve::app {

namespace {

using watchlists::EntryResult;
using watchlists::FormerEntry;

/// A row each, the last to leave first.
class FormerEntriesModel : public QAbstractTableModel {
public:
    enum Column { Symbol, Since, Until, PriceThen, PriceLeft, Change, Reason, Why, ColumnCount };

    using QAbstractTableModel::QAbstractTableModel;

    /// `results` is what had become of each when it left.
    void setEntries(Shared<watchlists::Watchlist> list, std::vector<EntryResult> results,
                    market::MarketPtr market)
    {
        beginResetModel();
        list_ = std::move(list);
        results_ = std::move(results);
        market_ = std::move(market);
        endResetModel();
    }
    int rowCount(const QModelIndex& parent = {}) const override
    {
        return parent.isValid() ? 0 : static_cast<int>(results_.size());
    }
    int columnCount(const QModelIndex& parent = {}) const override
    {
        return parent.isValid() ? 0 : ColumnCount;
    }
    QVariant data(const QModelIndex& index, int role = Qt::DisplayRole) const override
    {
        const std::size_t place = results_.size() - 1 - static_cast<std::size_t>(index.row());
        const EntryResult& result = results_[place];
        const double figure = figureOf(list_->former[place], result, index.column());
        if (role == Qt::DisplayRole || role == Qt::ToolTipRole)
            return shown(list_->former[place], result, index.column());
        if (role == figureRole && !isMissing(figure))
            return figure;
        if (role == Qt::TextAlignmentRole)
            return alignment(index.column());
        if (role == Qt::ForegroundRole && index.column() == Change && !isMissing(figure))
            return figure < 0.0 ? look().fall : look().rise;
        return {};
    }
    QVariant headerData(int section, Qt::Orientation orientation, int role) const override
    {
        if (orientation != Qt::Horizontal)
            return {};
        if (role == Qt::TextAlignmentRole)
            return alignment(section);
        const QString titles[] = {FormerEntriesDialog::tr("Symbol"),
                                  FormerEntriesDialog::tr("Since"),
                                  FormerEntriesDialog::tr("Left on"),
                                  FormerEntriesDialog::tr("Price then"),
                                  FormerEntriesDialog::tr("Price when it left"),
                                  FormerEntriesDialog::tr("Change"),
                                  FormerEntriesDialog::tr("Reason"),
                                  FormerEntriesDialog::tr("Why it left")};
        return role == Qt::DisplayRole ? QVariant(titles[section]) : QVariant();
    }

private:
    static QVariant alignment(int column)
    {
        const bool isFigure = column >= PriceThen && column <= Change;
        return QVariant::fromValue(Qt::AlignVCenter | (isFigure ? Qt::AlignRight : Qt::AlignLeft));
    }
    static double figureOf(const FormerEntry& former, const EntryResult& result, int column)
    {
        return column == PriceThen
                   ? isMissing(result.priceThen) ? former.entry.priceThen : result.priceThen
               : column == PriceLeft ? former.priceLeft
               : column == Change    ? result.gain
                                     : missing;
    }
    QString shown(const FormerEntry& former, const EntryResult& result, int column) const
    {
        const double figure = figureOf(former, result, column);
        switch (column) {
        case Symbol:
            return text(result.stock ? market_->instrument(*result.stock).symbol
                                     : former.entry.symbol);
        case Since:
            return shortDayText(former.entry.addedOn);
        case Until:
            return shortDayText(former.leftOn);
        case PriceThen:
        case PriceLeft:
            return result.stock ? priceText(figure, *market_, *result.stock)
                                : numberText(figure, Unit::Money, 2);
        case Change:
            return signedText(figure, Unit::Percent, 1);
        case Reason:
            return text(former.entry.reason);
        default:
            return text(former.reasonLeft);
        }
    }

    Shared<watchlists::Watchlist> list_;
    std::vector<EntryResult> results_;
    market::MarketPtr market_;
};

} // namespace

FormerEntriesDialog::FormerEntriesDialog(Desk& desk, const Shared<watchlists::Watchlist>& list,
                                         QWidget* parent)
    : QDialog(parent), asker_(this, Asker::About::Else)
{
    setWindowTitle(tr("Who left “%1”").arg(text(list->name)));
    resize(860, 420);
    auto* table = new QTableView;
    auto* model = new FormerEntriesModel(this);
    table->setModel(model);
    table->setAccessibleName(tr("Former entries"));
    prepareTable(table);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Close);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    auto* layout = new QVBoxLayout(this);
    layout->addWidget(table, 1);
    layout->addWidget(buttons);
    connect(&asker_, &Asker::failed, &desk, &Desk::noticed);
    const auto market = desk.market().isOpen() ? desk.market().evaluator()->marketPtr() : nullptr;
    asker_.ask(
        [list, market](const Progress& progress) {
            std::vector<EntryResult> results;
            for (const FormerEntry& former : list->former) {
                if (progress.stopRequested())
                    throw Stopped{};
                results.push_back(market ? resultOf(former.entry, *market, former.leftOn)
                                         : EntryResult{});
            }
            return results;
        },
        [model, table, list, market](std::vector<EntryResult> results) {
            model->setEntries(list, std::move(results), market);
            table->horizontalHeader()->setStretchLastSection(false); // else its own width is added
            fitColumns(table);
            table->horizontalHeader()->setStretchLastSection(true);
        });
}

} // namespace sieve::app
