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
    for (int column = 0; column < header->count(); ++column) {
        const QString figure = figureOf(column);
        QRect cell(header->sectionViewportPosition(column) + 5, 1, header->sectionSize(column) - 9,
                   height() - 1);
        if (column == 0 && header->count() > 1 && figureOf(1).isEmpty())
            cell.setWidth(cell.width() + header->sectionSize(1)); // what the foot tells has room
        const auto side = static_cast<Qt::Alignment>(
            table_->model()->headerData(column, Qt::Horizontal, Qt::TextAlignmentRole).toInt());
        if (cell.right() > 0 && cell.left() < width() && !figure.isEmpty())
            painter.drawText(cell, static_cast<int>(side), figure);
    }
}

} // namespace sieve::app
