#include "app/parts/frozen_column.h"

#include <QEvent>
#include <QHeaderView>
#include <QScrollBar>

namespace sieve::app {

FrozenColumn::FrozenColumn(QTableView* table) : QTableView(table), table_(table)
{
    setModel(table->model());
    setSelectionModel(table->selectionModel());
    setSelectionBehavior(table->selectionBehavior());
    setSelectionMode(table->selectionMode());
    setItemDelegate(table->itemDelegate());
    setProperty("frozen", true);
    setShowGrid(false);
    setFrameShape(QFrame::NoFrame);
    setFocusPolicy(Qt::NoFocus);
    setVerticalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    verticalHeader()->hide();
    verticalHeader()->setDefaultSectionSize(table->verticalHeader()->defaultSectionSize());
    horizontalHeader()->setHighlightSections(false);
    horizontalHeader()->setSectionsClickable(true);
    hide();
    connect(horizontalHeader(), &QHeaderView::sectionClicked, table->horizontalHeader(),
            &QHeaderView::sectionClicked);
    connect(table->verticalScrollBar(), &QScrollBar::valueChanged, verticalScrollBar(),
            &QScrollBar::setValue);
    connect(verticalScrollBar(), &QScrollBar::valueChanged, table->verticalScrollBar(),
            &QScrollBar::setValue);
    connect(table->horizontalScrollBar(), &QScrollBar::valueChanged, this, &FrozenColumn::arrange);
    connect(table->horizontalHeader(), &QHeaderView::sectionResized, this, &FrozenColumn::arrange);
    connect(table->model(), &QAbstractItemModel::modelReset, this, &FrozenColumn::arrange);
    connect(this, &QTableView::activated, table, &QTableView::activated);
    table->installEventFilter(this);
}

bool FrozenColumn::eventFilter(QObject* watched, QEvent* event)
{
    if (event->type() == QEvent::Resize)
        arrange();
    return QTableView::eventFilter(watched, event);
}

void FrozenColumn::arrange()
{
    const bool isAway = table_->horizontalScrollBar()->value() > 0 && model()->columnCount() > 1;
    setVisible(isAway);
    if (!isAway)
        return;
    for (int column = 0; column < model()->columnCount(); ++column)
        setColumnHidden(column, column != 0);
    setColumnWidth(0, table_->columnWidth(0));
    horizontalHeader()->setFixedHeight(table_->horizontalHeader()->height());
    setGeometry(table_->frameWidth(), table_->frameWidth(), table_->columnWidth(0),
                table_->viewport()->height() + table_->horizontalHeader()->height());
    verticalScrollBar()->setValue(table_->verticalScrollBar()->value());
}

} // namespace sieve::app
