#include "app/lists/former_entries_dialog.h"

#include "app/look/look.h"
#include "app/parts/figure_table.h"
#include "app/parts/number_text.h"
#include "core/watchlists/stocks.h"

#include <QDialogButtonBox>
#include <QHeaderView>
#include <QTableWidget>
#include <QVBoxLayout>

namespace sieve::app {

FormerEntriesDialog::FormerEntriesDialog(const watchlists::Watchlist& list,
                                         const market::MarketPtr& market, QWidget* parent)
    : QDialog(parent)
{
    enum Column { Symbol, Since, Until, PriceThen, PriceLeft, Change, Reason, Why, ColumnCount };
    setWindowTitle(tr("Who left “%1”").arg(text(list.name)));
    resize(860, 420);
    auto* table = new QTableWidget(static_cast<int>(list.former.size()), ColumnCount);
    table->setAccessibleName(tr("Former entries"));
    table->setHorizontalHeaderLabels({tr("Symbol"), tr("Since"), tr("Left on"), tr("Price then"),
                                      tr("Price when it left"), tr("Change"), tr("Reason"),
                                      tr("Why it left")});
    prepareTable(table);
    table->horizontalHeader()->setDefaultAlignment(Qt::AlignLeft | Qt::AlignVCenter);
    table->setEditTriggers(QAbstractItemView::NoEditTriggers);
    int row = 0;
    for (auto former = list.former.rbegin(); former != list.former.rend(); ++former, ++row) {
        const watchlists::Entry& entry = former->entry;
        const auto stock = market ? stockOf(entry, *market) : std::nullopt;
        const watchlists::EntryResult then =
            market ? resultOf(entry, *market, former->leftOn) : watchlists::EntryResult{};
        const QString cells[] = {
            text(stock ? market->instrument(*stock).symbol : entry.symbol),
            shortDayText(entry.addedOn),
            shortDayText(former->leftOn),
            numberText(isMissing(then.priceThen) ? entry.priceThen : then.priceThen, Unit::Money,
                       2),
            numberText(former->priceLeft, Unit::Money, 2),
            signedText(then.gain, Unit::Percent, 1),
            text(entry.reason),
            text(former->reasonLeft)};
        for (int column = 0; column < ColumnCount; ++column) {
            auto* item = new QTableWidgetItem(cells[column]);
            if (column >= PriceThen && column <= Change)
                item->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
            if (column == Change && !isMissing(then.gain))
                item->setForeground(then.gain < 0.0 ? look().fall : look().rise);
            item->setToolTip(cells[column]);
            table->setItem(row, column, item);
        }
    }
    for (int column = PriceThen; column <= Change; ++column)
        table->horizontalHeaderItem(column)->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
    fitColumns(table);
    table->horizontalHeader()->setStretchLastSection(true);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Close);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    auto* layout = new QVBoxLayout(this);
    layout->addWidget(table, 1);
    layout->addWidget(buttons);
}

} // namespace sieve::app
