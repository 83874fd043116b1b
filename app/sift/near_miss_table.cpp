#include "app/sift/near_miss_table.h"

#include "app/look/look.h"
#include "app/parts/figure_table.h"
#include "app/parts/number_text.h"
#include "app/parts/own_widths.h"
#include "app/parts/remembered.h"

#include <QHeaderView>
#include <algorithm>

namespace sieve::app {

NearMissTable::NearMissTable(QWidget* parent) : QTreeWidget(parent)
{
    setProperty("roomy", true);
    setItemDelegate(figureDelegate(this));
    setAccessibleName(tr("Near misses"));
    setColumnCount(ColumnCount);
    setHeaderLabels(
        {tr("Symbol"), tr("Name"), tr("Kept out by"), tr("Has"), tr("Limit"), tr("Away by")});
    for (const int column : {Figure, Bound, Away})
        headerItem()->setTextAlignment(column, Qt::AlignRight | Qt::AlignVCenter);
    setRootIsDecorated(false);
    setUniformRowHeights(true);
    header()->setStretchLastSection(false);
    header()->setSectionResizeMode(By, QHeaderView::Stretch);
    remember(header(), "sift.near_misses");
    connect(this, &QTreeWidget::currentItemChanged, this, [this](const QTreeWidgetItem* item) {
        if (item)
            Q_EMIT chosen(item->data(Symbol, stockRole).toULongLong());
    });
}

void NearMissTable::show(const SiftedPtr& sifted)
{
    const QSignalBlocker quiet(this);
    clear();
    for (const screens::NearMiss& miss : sifted->run.guidance.nearMisses) {
        const market::Instrument& instrument = sifted->market->instrument(miss.instrument);
        auto* item = new QTreeWidgetItem(this);
        item->setData(Symbol, stockRole, QVariant::fromValue<qulonglong>(miss.instrument));
        item->setText(Symbol, text(instrument.symbol));
        item->setFont(Symbol, fontOf(Weight::SemiBold));
        item->setText(Name, text(instrument.name));
        item->setText(By, text(sifted->screen.criteria[miss.criterion].text));
        item->setText(Figure, numberText(miss.figure, miss.unit, 2));
        item->setText(Bound, numberText(miss.bound, miss.unit, 2));
        item->setText(Away, numberText(miss.distance, miss.unit, 2));
        for (const int column : {Figure, Bound, Away})
            item->setTextAlignment(column, Qt::AlignRight | Qt::AlignVCenter);
    }
    if (isSized_ || topLevelItemCount() == 0)
        return;
    isSized_ = true; // once: to measure all texts with each letter that is typed would be felt
    const WidthFitting fitting(header());
    for (const int column : {Symbol, Name, Figure, Bound, Away})
        fitting.fit(column,
                    std::max(sizeHintForColumn(column), header()->sectionSizeHint(column)) + 8);
}

void NearMissTable::setChosen(std::optional<std::size_t> stock)
{
    const QSignalBlocker quiet(this);
    for (int row = 0; row < topLevelItemCount(); ++row)
        if (stock && topLevelItem(row)->data(Symbol, stockRole).toULongLong() == *stock)
            return setCurrentItem(topLevelItem(row));
    setCurrentItem(nullptr);
}

} // namespace sieve::app
