#include "app/parts/figure_table.h"

#include <QAction>
#include <QApplication>
#include <QClipboard>
#include <QHeaderView>
#include <QStyledItemDelegate>
#include <QTableView>
#include <algorithm>

namespace sieve::app {

namespace {

/// Keeps a figure's own colour on a selected row: a fall must not look like a rise there.
class FigureDelegate : public QStyledItemDelegate {
public:
    using QStyledItemDelegate::QStyledItemDelegate;

protected:
    void initStyleOption(QStyleOptionViewItem* option, const QModelIndex& index) const override
    {
        QStyledItemDelegate::initStyleOption(option, index);
        option->palette.setColor(QPalette::HighlightedText, option->palette.color(QPalette::Text));
        option->state &= ~QStyle::State_HasFocus; // the row shows it
    }
};

QString tableText(const QTableView& table)
{
    const QAbstractItemModel& model = *table.model();
    QStringList lines;
    for (int row = -1; row < model.rowCount(); ++row) {
        QStringList cells;
        for (int shown = 0; shown < model.columnCount(); ++shown) {
            const int column = table.horizontalHeader()->logicalIndex(shown);
            const QVariant cell = row < 0 ? model.headerData(column, Qt::Horizontal)
                                          : model.index(row, column).data();
            cells << cell.toString();
        }
        lines << cells.join(QLatin1Char('\t'));
    }
    return lines.join(QLatin1Char('\n'));
}

} // namespace

void prepareTable(QTableView* table)
{
    table->setItemDelegate(new FigureDelegate(table));
    table->setSelectionBehavior(QAbstractItemView::SelectRows);
    table->setSelectionMode(QAbstractItemView::SingleSelection);
    table->setShowGrid(false);
    table->setWordWrap(false);
    table->setHorizontalScrollMode(QAbstractItemView::ScrollPerPixel);
    table->verticalHeader()->hide();
    table->verticalHeader()->setDefaultSectionSize(table->fontMetrics().height() + 11);
    table->horizontalHeader()->setHighlightSections(false);
    table->horizontalHeader()->setMinimumSectionSize(36);
    auto* copy = new QAction(QObject::tr("Copy the table"), table);
    copy->setShortcut(QKeySequence::Copy);
    copy->setShortcutContext(Qt::WidgetShortcut);
    QObject::connect(copy, &QAction::triggered, table,
                     [table] { QApplication::clipboard()->setText(tableText(*table)); });
    table->addAction(copy);
    table->setContextMenuPolicy(Qt::ActionsContextMenu);
}

void fitColumns(QTableView* table)
{
    const int most = table->fontMetrics().horizontalAdvance(QLatin1Char('0')) * 24;
    table->resizeColumnsToContents();
    for (int column = 0; column < table->model()->columnCount(); ++column)
        table->setColumnWidth(column, std::min(table->columnWidth(column) + 6, most));
}

} // namespace sieve::app
