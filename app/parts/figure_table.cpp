#include "app/parts/figure_table.h"

#include <QAction>
#include <QApplication>
#include <QCache>
#include <QClipboard>
#include <QHeaderView>
#include <QPainter>
#include <QStaticText>
#include <QStyledItemDelegate>
#include <QTableView>
#include <algorithm>

namespace sieve::app {

namespace {

/// A text with its letters laid out, kept: a table shows the same few hundred again and again, and
/// laying them out takes longer than painting them.
const QStaticText& laidOut(const QString& text, const QFont& font)
{
    static QCache<std::pair<QString, QString>, QStaticText> kept(4000);
    const std::pair key(text, font.key());
    if (const QStaticText* known = kept.object(key))
        return *known;
    auto* made = new QStaticText(text);
    made->setTextFormat(Qt::PlainText);
    made->setPerformanceHint(QStaticText::AggressiveCaching);
    made->prepare({}, font);
    kept.insert(key, made);
    return *made;
}

/// Paints texts alone, each laid out once. Keeps a figure's own colour on a selected row: a fall
/// must not look like a rise there.
class FigureDelegate : public QStyledItemDelegate {
public:
    using QStyledItemDelegate::QStyledItemDelegate;

    void paint(QPainter* painter, const QStyleOptionViewItem& given,
               const QModelIndex& index) const override
    {
        QStyleOptionViewItem option = given;
        initStyleOption(&option, index);
        if (option.state & QStyle::State_Selected)
            painter->fillRect(option.rect, option.palette.highlight());
        const QStyle* style = option.widget->style();
        const int margin = style->pixelMetric(QStyle::PM_FocusFrameHMargin, &option) + 1;
        const QRect area = option.rect.adjusted(margin, 0, -margin, 0);
        painter->setFont(option.font);
        painter->setPen(option.palette.color(QPalette::Text));
        const QStaticText* text = &laidOut(option.text, option.font);
        if (text->size().width() > area.width())
            text =
                &laidOut(option.fontMetrics.elidedText(option.text, Qt::ElideRight, area.width()),
                         option.font);
        const double left = option.displayAlignment & Qt::AlignRight
                                ? area.right() + 1 - text->size().width()
                                : area.left();
        painter->drawStaticText(
            QPointF(left, area.top() + (area.height() - text->size().height()) / 2.0), *text);
    }

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
