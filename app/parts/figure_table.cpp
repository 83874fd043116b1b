#include "app/parts/figure_table.h"

#include "app/look/look.h"
#include "app/parts/actions.h"
#include "app/parts/mini_line.h"
#include "app/parts/own_widths.h"

#include <QAction>
#include <QApplication>
#include <QCache>
#include <QClipboard>
#include <QHeaderView>
#include <QMimeData>
#include <QPainter>
#include <QStaticText>
#include <QStyledItemDelegate>
#include <QTableView>
#include <algorithm>
#include <vector>

namespace sieve::app {

namespace {

/// A text with its letters laid out, kept: a table shows the same few hundred again and again, and
/// laying them out takes longer than painting them.
const QStaticText& laidOut(const QString& text, const QFont& font)
{
    static QCache<std::pair<QString, QString>, QStaticText> kept(4000);
    static QFont last; // its key is a text that would be put together for each cell
    static QString lastKey;
    if (lastKey.isEmpty() || !font.isCopyOf(last)) {
        last = font;
        lastKey = font.key();
    }
    const std::pair key(text, lastKey);
    if (const QStaticText* known = kept.object(key))
        return *known;
    auto* made = new QStaticText(text);
    made->setTextFormat(Qt::PlainText);
    made->setPerformanceHint(QStaticText::AggressiveCaching);
    made->prepare({}, font);
    kept.insert(key, made);
    return *made;
}

/// A rail under the figure: a bar on it, or a mark.
void paintRail(QPainter* painter, const QRect& cell, const CellPicture& picture)
{
    const QRectF rail(cell.left() + 5, cell.bottom() - 3.5, cell.width() - 10, 2.5);
    const auto at = [&](double place) { return rail.left() + place * rail.width(); };
    painter->fillRect(rail, look().rule);
    if (picture.what == CellPicture::What::Range)
        return painter->fillRect(QRectF(at(picture.to) - 2, rail.top() - 1.5, 4, rail.height() + 3),
                                 look().mark);
    const double left = std::min(picture.from, picture.to);
    const double right = std::max(picture.from, picture.to);
    painter->fillRect(QRectF(at(left), rail.top(), at(right) - at(left), rail.height()),
                      picture.to < picture.from ? look().fall : look().mark);
}

/// Upwards on a rise, downwards on a fall.
void paintSign(QPainter* painter, const QRect& cell, bool isFall)
{
    constexpr double half = 3.5;
    const QPointF centre(cell.left() + 9, cell.center().y() + 0.5);
    const double tip = isFall ? half : -half;
    painter->save();
    painter->setRenderHint(QPainter::Antialiasing);
    painter->setPen(Qt::NoPen);
    painter->setBrush(isFall ? look().fall : look().rise);
    painter->drawPolygon(QPolygonF{QPointF(centre.x() - half, centre.y() - tip),
                                   QPointF(centre.x() + half, centre.y() - tip),
                                   QPointF(centre.x(), centre.y() + tip)});
    painter->restore();
}

void paintPicture(QPainter* painter, const QRect& cell, const CellPicture& picture)
{
    switch (picture.what) {
    case CellPicture::What::Sign:
        return paintSign(painter, cell, picture.to < 0.0);
    case CellPicture::What::Line:
        return paintMiniLine(*painter,
                             QRectF(cell.left() + 5, cell.top() + 5, 56, cell.height() - 10),
                             picture.line, look().mark);
    case CellPicture::What::Bar:
    case CellPicture::What::Range:
        return paintRail(painter, cell, picture);
    }
}

/// Paints texts alone, each laid out once. Keeps a figure's own colour on a selected row: a fall
/// must not look like a rise there.
class FigureDelegate : public QStyledItemDelegate {
    static constexpr int margin = 6; // that of a head's words in window.qss

public:
    using QStyledItemDelegate::QStyledItemDelegate;

    void paint(QPainter* painter, const QStyleOptionViewItem& given,
               const QModelIndex& index) const override
    {
        QStyleOptionViewItem option = given;
        initStyleOption(&option, index);
        if (option.state & QStyle::State_Selected)
            painter->fillRect(option.rect, option.palette.highlight());
        const QRect area = option.rect.adjusted(margin, 0, -margin, 0);
        if (const QVariant picture = index.data(CellPicture::role); picture.isValid())
            paintPicture(painter, option.rect, picture.value<CellPicture>());
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
};

/// The rows to copy: those that are selected, or all of them.
std::vector<int> rowsToCopy(const QTableView& table)
{
    std::vector<int> rows;
    for (const QModelIndex& index : table.selectionModel()->selectedRows())
        rows.push_back(index.row());
    std::ranges::sort(rows);
    if (rows.empty())
        for (int row = 0; row < table.model()->rowCount(); ++row)
            rows.push_back(row);
    return rows;
}

/// A cell's figure as a sheet reads it, or its text.
QString rawText(const QModelIndex& index)
{
    const QVariant figure = index.data(figureRole);
    if (figure.isValid())
        return QString::number(figure.toDouble(), 'g', 15);
    const QVariant alone = index.data(Qt::EditRole); // without what the cell adds to be read
    return (alone.isValid() ? alone : index.data()).toString();
}

} // namespace

QAbstractItemDelegate* figureDelegate(QObject* parent)
{
    return new FigureDelegate(parent);
}

QMimeData* copyOf(const QTableView& table)
{
    const QAbstractItemModel& model = *table.model();
    QStringList shown;
    QStringList raw;
    QString html = QStringLiteral("<table>");
    std::vector<int> columns; // as they stand
    for (int place = 0; place < model.columnCount(); ++place)
        if (const int column = table.horizontalHeader()->logicalIndex(place);
            !table.isColumnHidden(column))
            columns.push_back(column);
    // One cell: what is shown, its figure as it is, and both for a sheet or a mail.
    QStringList texts;
    QStringList figures;
    const auto endRow = [&] {
        shown << texts.join(u'\t');
        raw << figures.join(u'\t');
        texts.clear();
        figures.clear();
        html += QLatin1String("</tr>");
    };
    html += QLatin1String("<tr>");
    for (const int column : columns) {
        const QString head = model.headerData(column, Qt::Horizontal).toString();
        texts << head;
        figures << head;
        html += QLatin1String("<th>") + head.toHtmlEscaped() + QLatin1String("</th>");
    }
    endRow();
    for (const int row : rowsToCopy(table)) {
        html += QLatin1String("<tr>");
        for (const int column : columns) {
            const QModelIndex at = model.index(row, column);
            texts << at.data().toString();
            figures << rawText(at);
            html += at.data(figureRole).isValid() ? QLatin1String("<td align=\"right\" sdval=\"") +
                                                        figures.back() + QLatin1String("\">")
                                                  : QLatin1String("<td>");
            html += texts.back().toHtmlEscaped() + QLatin1String("</td>");
        }
        endRow();
    }
    auto* copied = new QMimeData;
    copied->setText(shown.join(u'\n'));
    copied->setHtml(html + QStringLiteral("</table>"));
    copied->setData(QStringLiteral("text/tab-separated-values"), raw.join(u'\n').toUtf8());
    return copied;
}

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
    // Beside the last column the head is as under it.
    table->horizontalHeader()->viewport()->setBackgroundRole(QPalette::Window);
    makeAction(table, ActionId::CopyTable,
               [table] { QApplication::clipboard()->setMimeData(copyOf(*table)); });
    table->setContextMenuPolicy(Qt::ActionsContextMenu);
}

void fitColumns(QTableView* table)
{
    const int most = table->fontMetrics().horizontalAdvance(QLatin1Char('0')) * 24;
    const WidthFitting fitting(table->horizontalHeader());
    table->resizeColumnsToContents();
    for (int column = 0; column < table->model()->columnCount(); ++column)
        fitting.fit(column, std::min(table->columnWidth(column) + 10, most));
}

} // namespace sieve::app
