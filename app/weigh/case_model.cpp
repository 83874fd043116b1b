#include "app/weigh/case_model.h"

#include "app/look/look.h"
#include "app/parts/mini_line.h"
#include "app/parts/number_text.h"

#include <QPainter>
#include <algorithm>

namespace sieve::app {

namespace {

/// Symbol, day, the way; a span's change and that of the others, each; end, bars, result, worst.
constexpr int spansFrom = 3;
constexpr int endColumn = spansFrom + 2 * static_cast<int>(studies::Terms::spanCount);

QString endText(studies::End end)
{
    switch (end) {
    case studies::End::Reached:
        return CaseModel::tr("target");
    case studies::End::Stopped:
        return CaseModel::tr("stop");
    case studies::End::Neither:
        return CaseModel::tr("time");
    case studies::End::Open:
        return CaseModel::tr("still held");
    }
    return {};
}

} // namespace

void CaseModel::show(std::vector<studies::Aftermath> cases, const studies::Terms& terms,
                     market::MarketPtr market, Day day)
{
    beginResetModel();
    cases_ = std::move(cases);
    terms_ = terms;
    market_ = std::move(market);
    day_ = day;
    endResetModel();
}

std::vector<double> CaseModel::pathAt(int row) const
{
    return studies::pathOf(caseAt(row), before, after, *market_, day_);
}

int CaseModel::rowCount(const QModelIndex& parent) const
{
    return parent.isValid() ? 0 : static_cast<int>(cases_.size());
}

int CaseModel::columnCount(const QModelIndex& parent) const
{
    return parent.isValid() ? 0 : endColumn + 4;
}

QVariant CaseModel::data(const QModelIndex& index, int role) const
{
    const studies::Aftermath& of = caseAt(index.row());
    const int column = index.column();
    if (role == Qt::TextAlignmentRole)
        return static_cast<int>(
            (column < 2 || column == endColumn ? Qt::AlignLeft : Qt::AlignRight) |
            Qt::AlignVCenter);
    if (role == Qt::ToolTipRole)
        return of.isIndependent ? QVariant()
                                : tr("The case before it in the same stock was still held.");
    if (role == Qt::ForegroundRole && !of.isIndependent)
        return look().softInk;
    if (role != Qt::DisplayRole)
        return {};
    const auto percent = [](double change) { return signedText(change, Unit::Percent, 1); };
    if (column == 0)
        return text(market::symbolOn(market_->instrument(of.of.stock), of.day));
    if (column == 1)
        return shortDayText(of.day);
    if (column == pictureColumn())
        return {};
    if (column < endColumn) {
        const auto span = static_cast<std::size_t>((column - spansFrom) / 2);
        return percent((column - spansFrom) % 2 == 0 ? of.changes[span] : of.others[span]);
    }
    switch (column - endColumn) {
    case 0:
        return isMissing(of.bought) ? tr("not bought yet") : endText(of.end);
    case 1:
        return of.bars;
    case 2:
        return percent(of.result);
    default:
        return percent(of.worst);
    }
}

QVariant CaseModel::headerData(int section, Qt::Orientation orientation, int role) const
{
    if (orientation != Qt::Horizontal || role != Qt::DisplayRole)
        return {};
    if (section < spansFrom)
        return QStringList{tr("Stock"), tr("Day"), tr("The way")}.at(section);
    if (section < endColumn) {
        const int bars = terms_.spans[static_cast<std::size_t>((section - spansFrom) / 2)];
        return (section - spansFrom) % 2 == 0 ? tr("After %1").arg(bars) : tr("All, %1").arg(bars);
    }
    return QStringList{tr("Ended by"), tr("Bars"), tr("Result"), tr("Worst")}.at(section -
                                                                                 endColumn);
}

void CasePainter::paint(QPainter* painter, const QStyleOptionViewItem& option,
                        const QModelIndex& index) const
{
    QStyledItemDelegate::paint(painter, option, index);
    const auto* model = qobject_cast<const CaseModel*>(index.model());
    const std::vector<double> path = model->pathAt(index.row());
    const QRectF area = QRectF(option.rect).adjusted(4, 3, -4, -3);
    const double bought = area.left() + area.width() * CaseModel::before /
                                            (CaseModel::before + CaseModel::after - 1.0);
    painter->save();
    painter->fillRect(QRectF(bought, area.top() - 2.0, 1.0, area.height() + 4.0), look().rule);
    paintMiniLine(*painter, area, path, look().mark);
    painter->restore();
}

} // namespace sieve::app
