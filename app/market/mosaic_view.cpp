#include "app/market/mosaic_view.h"

#include "app/desk/desk.h"
#include "app/desk/focus.h"
#include "app/desk/open_market.h"
#include "app/desk/workbench.h"
#include "app/look/look.h"
#include "app/parts/number_text.h"
#include "core/watchlists/stocks.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QLabel>
#include <QPainter>
#include <QSpinBox>
#include <QToolTip>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

namespace sieve::app {

namespace {

constexpr double columnHeadHeight = 18.0;
constexpr double legendHeight = 20.0;
constexpr double leastCell = 4.0; ///< pixels; lower cells lie together
constexpr int sectorRole = Qt::UserRole;
constexpr int listRole = Qt::UserRole + 1;

} // namespace

MosaicPicture::MosaicPicture(QWidget* parent) : QWidget(parent)
{
    setMouseTracking(true);
    setFocusPolicy(Qt::StrongFocus);
    setMinimumSize(200, 120);
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Expanding);
    setAccessibleName(tr("Mosaic of the market"));
}

void MosaicPicture::show(std::shared_ptr<const conditions::Mosaic> mosaic)
{
    mosaic_ = std::move(mosaic);
    full_ = conditions::fullChange(*mosaic_);
    current_.reset();
    arrange();
    QStringList said;
    for (const conditions::MosaicColumn& column : mosaic_->columns)
        said << tr("%1 %2").arg(text(column.name), signedText(column.change, Unit::Percent, 1));
    setAccessibleDescription(said.join(QStringLiteral("; ")));
    update();
}

QRectF MosaicPicture::field() const
{
    return QRectF(rect()).adjusted(0.0, columnHeadHeight, 0.0, -legendHeight);
}

void MosaicPicture::arrange()
{
    cells_ = layOut(*mosaic_, leastCell / std::max(field().height(), 1.0));
}

QRectF MosaicPicture::areaOf(const conditions::MosaicCell& cell) const
{
    const QRectF all = field();
    return {all.left() + cell.x * all.width(), all.top() + cell.y * all.height(),
            cell.width * all.width(), cell.height * all.height()};
}

/// From the fall over the sheet to the rise; the sheet itself where nothing changed.
QColor MosaicPicture::colourOf(double change) const
{
    const double strength = conditions::colourStrength(change, full_);
    return look().wash(change < 0.0 ? look().fall : look().rise, 0.06 + 0.66 * strength);
}

void MosaicPicture::paintEvent(QPaintEvent*)
{
    QPainter painter(this);
    if (mosaic_->columns.empty()) {
        painter.setPen(look().softInk);
        painter.drawText(rect(), Qt::AlignCenter,
                         tr("No shares with a sector were listed on this day."));
        return;
    }
    for (std::size_t cell = 0; cell < cells_.size(); ++cell)
        paintCell(painter, cell);
    paintHeads(painter);
    paintLegend(painter);
    if (current_ && *current_ < cells_.size()) {
        painter.setPen(QPen(look().ink, 2.0));
        painter.setBrush(Qt::NoBrush);
        painter.drawRect(areaOf(cells_[*current_]).adjusted(1, 1, -1, -1));
    }
}

void MosaicPicture::paintCell(QPainter& painter, std::size_t at) const
{
    const conditions::MosaicCell& cell = cells_[at];
    const QRectF area = areaOf(cell).adjusted(0.5, 0.5, -0.5, -0.5);
    const conditions::MosaicColumn& column = mosaic_->columns[cell.column];
    if (!cell.part) {
        painter.fillRect(area, look().wash(look().rule, 0.5));
    } else if (isMissing(column.parts[*cell.part].change)) {
        painter.fillRect(area, look().sheet);
        painter.fillRect(area, QBrush(look().wash(look().softInk, 0.4), Qt::BDiagPattern));
    } else {
        painter.fillRect(area, colourOf(column.parts[*cell.part].change));
    }
    const QFont font = fontOf(Weight::Medium, 0.86);
    const QFontMetricsF metrics(font);
    if (area.height() < metrics.height() - 1.0 || area.width() < 30.0)
        return;
    painter.setFont(font);
    painter.setPen(look().ink);
    const QRectF room = area.adjusted(4, 0, -4, 0);
    const QString name =
        cell.part ? text(column.parts[*cell.part].name) : tr("%1 smaller").arg(cell.together);
    const QString change =
        cell.part ? signedText(column.parts[*cell.part].change, Unit::Percent, 1) : QString();
    const bool isHigh = area.height() > 2.2 * metrics.height();
    const QString first = metrics.elidedText(name, Qt::ElideRight, room.width());
    if (isHigh && metrics.horizontalAdvance(change) < room.width()) {
        painter.drawText(room, Qt::AlignLeft | Qt::AlignVCenter, first + u'\n' + change);
        return;
    }
    painter.drawText(room, Qt::AlignLeft | Qt::AlignVCenter, first);
    if (metrics.horizontalAdvance(name) + metrics.horizontalAdvance(change) + 8.0 < room.width())
        painter.drawText(room, Qt::AlignRight | Qt::AlignVCenter, change);
}

void MosaicPicture::paintHeads(QPainter& painter) const
{
    painter.setFont(fontOf(Weight::Medium, 0.86));
    painter.setPen(look().softInk);
    double x = 0.0;
    double total = 0.0;
    for (const conditions::MosaicColumn& column : mosaic_->columns)
        total += column.size;
    for (const conditions::MosaicColumn& column : mosaic_->columns) {
        const double width = column.size / total * field().width();
        const QRectF area(x + 2.0, 0.0, width - 4.0, columnHeadHeight);
        if (area.width() > 24.0)
            painter.drawText(area, Qt::AlignLeft | Qt::AlignVCenter,
                             painter.fontMetrics().elidedText(text(column.name), Qt::ElideRight,
                                                              static_cast<int>(area.width())));
        x += width;
    }
}

void MosaicPicture::paintLegend(QPainter& painter) const
{
    const QRectF area(0.0, height() - legendHeight + 4.0, width(), legendHeight - 4.0);
    painter.setFont(fontOf(Weight::Regular, 0.86));
    painter.setPen(look().softInk);
    constexpr double width = 130.0;
    const QString low = signedText(-full_, Unit::Percent, 0);
    const QString high = signedText(full_, Unit::Percent, 0);
    const double begin = painter.fontMetrics().horizontalAdvance(low) + 8.0;
    painter.drawText(area, Qt::AlignLeft | Qt::AlignVCenter, low);
    for (int i = 0; i < 13; ++i)
        painter.fillRect(QRectF(begin + i * width / 13.0, area.top() + 4.0, width / 13.0 + 0.5,
                                area.height() - 6.0),
                         colourOf(full_ * (i - 6) / 6.0));
    QString words = high + QStringLiteral("   ");
    words += mosaic_->isBySize ? tr("wide and high as the capitalization")
                               : tr("no capitalizations: all shares count the same");
    if (mosaic_->unsized > 0)
        words += tr("; %1 without one left out").arg(mosaic_->unsized);
    const QRectF rest = area.adjusted(begin + width + 8.0, 0, 0, 0);
    painter.drawText(
        rest, Qt::AlignLeft | Qt::AlignVCenter,
        painter.fontMetrics().elidedText(words, Qt::ElideRight, static_cast<int>(rest.width())));
}

QString MosaicPicture::cardOf(const conditions::MosaicCell& cell) const
{
    const conditions::MosaicColumn& column = mosaic_->columns[cell.column];
    if (!cell.part)
        return tr("%1 of %2 too small to be drawn").arg(cell.together).arg(text(column.name));
    const conditions::MosaicPart& part = column.parts[*cell.part];
    QStringList lines{QStringLiteral("<b>%1</b>").arg(text(part.name).toHtmlEscaped()),
                      text(column.name).toHtmlEscaped(),
                      tr("%1 over %2 sessions")
                          .arg(signedText(part.change, Unit::Percent, 1))
                          .arg(mosaic_->span)};
    if (mosaic_->isBySize)
        lines << tr("capitalization %1").arg(numberText(part.size, Unit::Money, 1));
    if (part.shares > 1)
        lines << tr("%1 shares").arg(part.shares);
    return lines.join(QStringLiteral("<br>"));
}

void MosaicPicture::resizeEvent(QResizeEvent*)
{
    arrange();
}

void MosaicPicture::mouseMoveEvent(QMouseEvent* event)
{
    const auto found = std::ranges::find_if(cells_, [&](const conditions::MosaicCell& cell) {
        return areaOf(cell).contains(event->pos());
    });
    if (found == cells_.end()) {
        current_.reset();
        QToolTip::hideText();
    } else {
        current_ = static_cast<std::size_t>(found - cells_.begin());
        QToolTip::showText(event->globalPosition().toPoint() + QPoint(12, 12), cardOf(*found),
                           this);
    }
    update();
}

void MosaicPicture::mousePressEvent(QMouseEvent* event)
{
    if (event->button() == Qt::RightButton || event->button() == Qt::BackButton)
        return Q_EMIT backWanted();
    if (!mosaic_)
        return;
    for (std::size_t cell = 0; cell < cells_.size(); ++cell)
        if (areaOf(cells_[cell]).contains(event->pos()))
            return choose(cell);
    double x = 0.0;
    double total = 0.0;
    for (const conditions::MosaicColumn& column : mosaic_->columns)
        total += column.size;
    for (const conditions::MosaicColumn& column : mosaic_->columns) {
        const double width = column.size / total * field().width();
        if (event->pos().y() < columnHeadHeight && event->pos().x() >= x &&
            event->pos().x() < x + width)
            return Q_EMIT columnChosen(column);
        x += width;
    }
}

void MosaicPicture::choose(std::size_t at)
{
    const conditions::MosaicCell& cell = cells_[at];
    const conditions::MosaicColumn& column = mosaic_->columns[cell.column];
    if (cell.part)
        Q_EMIT chosen(column.parts[*cell.part], column);
    else
        Q_EMIT columnChosen(column);
}

void MosaicPicture::leaveEvent(QEvent*)
{
    current_.reset();
    update();
}

/// To the neighbour in that direction that overlaps most with where one stands.
void MosaicPicture::move(int columns, int rows)
{
    if (cells_.empty())
        return;
    if (!current_) {
        current_ = 0;
        return update();
    }
    const QRectF here = areaOf(cells_[*current_]);
    const QPointF from = here.center();
    std::optional<std::size_t> best;
    double least = 1e9;
    for (std::size_t i = 0; i < cells_.size(); ++i) {
        const QRectF area = areaOf(cells_[i]);
        const QPointF step = area.center() - from;
        const bool isSameColumn = cells_[i].column == cells_[*current_].column;
        const bool isThatWay = columns != 0 ? !isSameColumn && step.x() * columns > 0.0
                                            : isSameColumn && step.y() * rows > 0.0;
        if (!isThatWay)
            continue;
        const double apart =
            columns != 0 ? std::fabs(step.x()) * 4.0 + std::fabs(step.y()) : std::fabs(step.y());
        if (apart < least) {
            least = apart;
            best = i;
        }
    }
    if (best)
        current_ = best;
    const QRectF area = areaOf(cells_[*current_]);
    QToolTip::showText(mapToGlobal(area.center().toPoint()), cardOf(cells_[*current_]), this);
    update();
}

void MosaicPicture::keyPressEvent(QKeyEvent* event)
{
    switch (event->key()) {
    case Qt::Key_Left:
        return move(-1, 0);
    case Qt::Key_Right:
        return move(1, 0);
    case Qt::Key_Up:
        return move(0, -1);
    case Qt::Key_Down:
        return move(0, 1);
    case Qt::Key_Return:
    case Qt::Key_Enter:
        if (current_)
            choose(*current_);
        return;
    case Qt::Key_Backspace:
    case Qt::Key_Escape:
        Q_EMIT backWanted();
        return;
    default:
        QWidget::keyPressEvent(event);
    }
}

MosaicView::MosaicView(Desk& desk, QWidget* parent)
    : QWidget(parent), desk_(desk), asker_(this), part_(new QComboBox), span_(new QSpinBox),
      summary_(new QLabel), picture_(new MosaicPicture)
{
    part_->setAccessibleName(tr("What the mosaic shows"));
    span_->setRange(1, 1250);
    span_->setValue(21);
    span_->setSuffix(tr(" sessions"));
    span_->setPrefix(tr("change over "));
    span_->setButtonSymbols(QAbstractSpinBox::NoButtons);
    span_->setKeyboardTracking(false);
    span_->setAccessibleName(tr("Sessions over which the mosaic compares"));
    summary_->setFont(fontOf(Weight::Regular, 0.92));
    auto* head = new QHBoxLayout;
    head->addWidget(part_);
    head->addWidget(span_);
    head->addWidget(summary_, 1);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 4, 0, 0);
    layout->setSpacing(4);
    layout->addLayout(head);
    layout->addWidget(picture_, 1);
    connect(&asker_, &Asker::failed, &desk_, &Desk::noticed);
    connect(part_, &QComboBox::activated, this, [this] {
        ask();
        if (const QVariant chosen = part_->currentData(listRole); chosen.isValid())
            if (const auto* list = desk_.work().now().findList(chosen.toLongLong()))
                Q_EMIT listChosen(text(list->name));
    });
    connect(span_, &QSpinBox::valueChanged, this, &MosaicView::ask);
    connect(picture_, &MosaicPicture::chosen, this, &MosaicView::choose);
    connect(picture_, &MosaicPicture::columnChosen, this,
            [this](const conditions::MosaicColumn& column) {
                if (column.group && groups_ && !groups_->all[*column.group].sector)
                    lookInto(column.group);
            });
    connect(picture_, &MosaicPicture::backWanted, this, [this] { lookInto(std::nullopt); });
    connect(&desk_.work(), &Workbench::listsChanged, this, &MosaicView::offerParts);
}

void MosaicView::setSpan(int sessions)
{
    span_->setValue(sessions);
}

void MosaicView::show(const std::shared_ptr<const conditions::Groups>& groups, Day day)
{
    const bool areOther = groups_ != groups;
    groups_ = groups;
    day_ = day;
    if (areOther)
        offerParts();
    ask();
}

void MosaicView::offerParts()
{
    if (!groups_)
        return;
    const QString chosen = part_->currentText();
    const QVariant chosenList = part_->currentData(listRole);
    part_->clear();
    part_->addItem(tr("The whole market"));
    for (std::size_t i = 0; i < groups_->all.size(); ++i)
        if (!groups_->all[i].sector)
            part_->addItem(text(groups_->all[i].name), QVariant::fromValue<qulonglong>(i));
    for (const auto& list : library::listsByHand(desk_.work().now())) {
        part_->addItem(tr("List: %1").arg(text(list->name)));
        part_->setItemData(part_->count() - 1, QVariant::fromValue<qlonglong>(list->id), listRole);
    }
    // A list is known by its number: another may bear its name by now.
    part_->setCurrentIndex(std::max(
        chosenList.isValid() ? part_->findData(chosenList, listRole) : part_->findText(chosen), 0));
}

void MosaicView::lookInto(std::optional<std::size_t> sector)
{
    const int row =
        sector ? part_->findData(QVariant::fromValue<qulonglong>(*sector), sectorRole) : 0;
    part_->setCurrentIndex(std::max(row, 0));
    ask();
}

void MosaicView::choose(const conditions::MosaicPart& part, const conditions::MosaicColumn& column)
{
    if (part.share) {
        desk_.focus().select(*part.share);
        const market::Instrument& instrument = desk_.market().data().instrument(*part.share);
        summary_->setText(tr("%1, %2").arg(text(instrument.symbol), text(instrument.name)));
    } else if (column.group) {
        lookInto(column.group);
    }
}

void MosaicView::ask()
{
    if (!groups_)
        return;
    std::optional<std::size_t> sector;
    if (const QVariant chosen = part_->currentData(sectorRole); chosen.isValid())
        sector = static_cast<std::size_t>(chosen.toULongLong());
    std::optional<std::vector<std::size_t>> shares;
    if (const QVariant chosen = part_->currentData(listRole); chosen.isValid()) {
        shares.emplace();
        if (const auto* list = desk_.work().now().findList(chosen.toLongLong()))
            for (const watchlists::Entry& entry : list->entries)
                if (const auto found = stockOf(entry, desk_.market().data()))
                    shares->push_back(*found);
    }
    summary_->setText(sector ? tr("Backspace: the whole market") : QString());
    asker_.ask(
        [evaluator = desk_.market().evaluator(), groups = groups_, day = day_, sector, shares,
         span = static_cast<std::size_t>(span_->value())](const Progress& progress) {
            return std::make_shared<const conditions::Mosaic>(
                shares
                    ? conditions::sharesMosaic(*evaluator, *shares, day, span, progress)
                    : conditions::marketMosaic(*evaluator, *groups, sector, day, span, progress));
        },
        [this](const std::shared_ptr<const conditions::Mosaic>& mosaic) {
            picture_->show(mosaic);
        });
}

} // namespace sieve::app
