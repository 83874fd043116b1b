#include "app/prove/neighbour_picture.h"

#include "app/look/look.h"
#include "app/parts/number_text.h"

#include <QMouseEvent>
#include <QPainter>
#include <algorithm>
#include <cmath>

namespace sieve::app {

namespace {

constexpr std::size_t fewCases = 30; ///< a cell with fewer is drawn smaller

QString boundText(double bound, Unit unit)
{
    return unit == Unit::Percent ? QString::number(100.0 * bound, 'g', 3) + QStringLiteral(" %")
                                 : QString::number(bound, 'g', 4);
}

} // namespace

NeighbourPicture::NeighbourPicture(QWidget* parent) : QWidget(parent)
{
    setMouseTracking(true);
    setAccessibleName(tr("Neighbours of the limits"));
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Expanding);
}

void NeighbourPicture::show(std::shared_ptr<const studies::Neighbours> neighbours)
{
    neighbours_ = std::move(neighbours);
    pointed_.reset();
    if (neighbours_)
        setAccessibleDescription(reading({neighbours_->ownDown, neighbours_->ownAcross}));
    update();
}

QRectF NeighbourPicture::field() const
{
    const double line = fontMetrics().height();
    return QRectF(rect()).adjusted(64.0, line + 8.0, -12.0, -2.0 * line - 8.0);
}

QRectF NeighbourPicture::cellAt(std::size_t down, std::size_t across) const
{
    const QRectF area = field();
    const double wide =
        area.width() / static_cast<double>(neighbours_->question.across.bounds.size());
    const double high =
        area.height() / static_cast<double>(neighbours_->question.down.bounds.size());
    // Small bounds stand below, as on a scale.
    const auto row = static_cast<double>(neighbours_->question.down.bounds.size() - 1 - down);
    return {area.left() + static_cast<double>(across) * wide, area.top() + row * high, wide, high};
}

void NeighbourPicture::paintCells(QPainter& painter) const
{
    const auto& question = neighbours_->question;
    double most = 0.001;
    for (const auto& cell : neighbours_->cells)
        if (!isMissing(cell.excess) && cell.cases >= fewCases)
            most = std::max(most, std::fabs(cell.excess));
    for (std::size_t down = 0; down < question.down.bounds.size(); ++down)
        for (std::size_t across = 0; across < question.across.bounds.size(); ++across) {
            const auto& cell = neighbours_->at(down, across);
            QRectF place = cellAt(down, across).adjusted(0.5, 0.5, -0.5, -0.5);
            if (isMissing(cell.excess))
                continue;
            if (cell.cases < fewCases)
                place.adjust(0.3 * place.width(), 0.3 * place.height(), -0.3 * place.width(),
                             -0.3 * place.height());
            const double strength = std::min(1.0, std::fabs(cell.excess) / most);
            painter.fillRect(place, look().wash(cell.excess >= 0.0 ? look().rise : look().fall,
                                                0.08 + 0.82 * strength));
            if (cell.excess < 0.0 && place.height() > 8.0) // not by colour alone
                painter.fillRect(
                    QRectF(place.center().x() - 3.0, place.center().y() - 0.5, 6.0, 1.0),
                    look().ink);
        }
    painter.setPen(QPen(look().ink, 2.0));
    painter.drawRect(cellAt(neighbours_->ownDown, neighbours_->ownAcross));
    if (pointed_) {
        painter.setPen(QPen(look().mark, 1.5));
        painter.drawRect(cellAt(pointed_->down, pointed_->across));
    }
}

void NeighbourPicture::paintBounds(QPainter& painter) const
{
    const auto& question = neighbours_->question;
    const QRectF area = field();
    const double line = fontMetrics().height();
    painter.setPen(look().softInk);
    double free = 0.0;
    for (std::size_t across = 0; across < question.across.bounds.size(); ++across) {
        const QString name = boundText(question.across.bounds[across], neighbours_->acrossUnit);
        const double wide = painter.fontMetrics().horizontalAdvance(name);
        const double x = cellAt(0, across).center().x();
        if (x - wide / 2.0 < free)
            continue;
        painter.drawText(QRectF(x - wide, area.bottom() + 2.0, 2.0 * wide, line), Qt::AlignCenter,
                         name);
        free = x + wide / 2.0 + 10.0;
    }
    double below = area.bottom() + line;
    for (std::size_t down = 0; down < question.down.bounds.size(); ++down) {
        const double y = cellAt(down, 0).center().y();
        if (y + line / 2.0 > below)
            continue;
        painter.drawText(QRectF(0.0, y - line / 2.0, 58.0, line), Qt::AlignRight | Qt::AlignVCenter,
                         boundText(question.down.bounds[down], neighbours_->downUnit));
        below = y - line / 2.0 - 4.0;
    }
    painter.setPen(look().ink);
    painter.drawText(QRectF(area.left(), area.bottom() + line + 2.0, area.width(), line),
                     Qt::AlignCenter,
                     tr("across: limit of %1; upwards: limit of %2")
                         .arg(text(neighbours_->across), text(neighbours_->down)));
}

QString NeighbourPicture::reading(const Place& place) const
{
    const auto& cell = neighbours_->at(place.down, place.across);
    const QString limits =
        tr("%1 at %2, %3 at %4")
            .arg(text(neighbours_->across),
                 boundText(neighbours_->question.across.bounds[place.across],
                           neighbours_->acrossUnit),
                 text(neighbours_->down),
                 boundText(neighbours_->question.down.bounds[place.down], neighbours_->downUnit));
    if (cell.cases == 0)
        return tr("%1: no case").arg(limits);
    return tr("%1: %2 cases, %3; difference to all %4")
        .arg(limits, countText(cell.cases), signedText(cell.mean, Unit::Percent, 1),
             signedText(cell.excess, Unit::Percent, 1));
}

void NeighbourPicture::paintEvent(QPaintEvent*)
{
    QPainter painter(this);
    painter.fillRect(rect(), look().sheet);
    if (!neighbours_)
        return;
    painter.setFont(fontOf(Weight::Regular, 0.92));
    paintCells(painter);
    paintBounds(painter);
    painter.setPen(look().ink);
    const Place own{neighbours_->ownDown, neighbours_->ownAcross};
    painter.drawText(QRectF(8.0, 2.0, width() - 16.0, fontMetrics().height() + 2.0),
                     Qt::AlignLeft | Qt::AlignVCenter,
                     painter.fontMetrics().elidedText(
                         pointed_ ? reading(*pointed_) : tr("As it stands: %1").arg(reading(own)),
                         Qt::ElideRight, width() - 16));
}

void NeighbourPicture::mouseMoveEvent(QMouseEvent* event)
{
    pointed_.reset();
    if (neighbours_)
        for (std::size_t down = 0; down < neighbours_->question.down.bounds.size(); ++down)
            for (std::size_t across = 0; across < neighbours_->question.across.bounds.size();
                 ++across)
                if (cellAt(down, across).contains(event->position()))
                    pointed_ = Place{down, across};
    update();
}

void NeighbourPicture::leaveEvent(QEvent*)
{
    pointed_.reset();
    update();
}

} // namespace sieve::app
