#include "app/parts/table_foot.h"

#include "app/look/look.h"

#include <QHeaderView>
#include <QPainter>
#include <QScrollBar>
#include <QTableView>

namespace sieve::app {

TableFoot::TableFoot(QTableView* table) : table_(table)
{
    setAccessibleName(tr("Medians"));
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    connect(table->horizontalHeader(), &QHeaderView::sectionResized, this,
            qOverload<>(&QWidget::update));
    connect(table->horizontalHeader(), &QHeaderView::sectionMoved, this,
            qOverload<>(&QWidget::update));
    connect(table->horizontalScrollBar(), &QScrollBar::valueChanged, this,
            qOverload<>(&QWidget::update));
    connect(table->model(), &QAbstractItemModel::modelReset, this, qOverload<>(&QWidget::update));
}

QSize TableFoot::sizeHint() const
{
    return {200, fontMetrics().height() + 8};
}

void TableFoot::paintEvent(QPaintEvent*)
{
    QPainter painter(this);
    painter.setPen(look().rule);
    painter.drawLine(0, 0, width(), 0);
    painter.setPen(look().softInk);
    painter.setFont(fontOf(Weight::Regular, 0.92));
    const QHeaderView* header = table_->horizontalHeader();
    const auto figureOf = [this](int column) {
        return table_->model()->headerData(column, Qt::Horizontal, footRole).toString();
    };
    const auto drawCell = [&](int column, int left, int width) {
        const auto side = static_cast<Qt::Alignment>(
            table_->model()->headerData(column, Qt::Horizontal, Qt::TextAlignmentRole).toInt());
        const QRect cell(left + 5, 1, width - 9, height() - 1);
        painter.drawText(
            cell, static_cast<int>(side),
            painter.fontMetrics().elidedText(figureOf(column), Qt::ElideRight, cell.width()));
    };
    for (int column = 1; column < header->count(); ++column)
        drawCell(column, header->sectionViewportPosition(column), header->sectionSize(column));
    if (header->count() == 0)
        return;
    // The first stays in sight, as that of the table does; what it tells takes an empty neighbour's
    // room while that lies beside it.
    const bool isScrolled = table_->horizontalScrollBar()->value() > 0;
    const bool hasRoom = !isScrolled && header->count() > 1 && figureOf(1).isEmpty();
    const int width = header->sectionSize(0) + (hasRoom ? header->sectionSize(1) : 0);
    if (isScrolled)
        painter.fillRect(QRect(0, 1, width, height() - 1), palette().window());
    drawCell(0, isScrolled ? 0 : header->sectionViewportPosition(0), width);
}

} // namespace sieve::app
