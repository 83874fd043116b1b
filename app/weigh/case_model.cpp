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

/// More are in the sums; the newest are shown one by one.
constexpr std::size_t mostShown = 2000;

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

std::vector<CaseModel::Shown> CaseModel::newestOf(const std::vector<studies::Aftermath>& cases,
                                                  std::optional<std::size_t> stock,
                                                  const market::Market& market, Day day)
{
    std::vector<const studies::Aftermath*> all;
    for (const studies::Aftermath& each : cases)
        if (!stock || each.of.stock == *stock)
            all.push_back(&each);
    std::ranges::stable_sort(all, std::ranges::greater(),
                             [](const studies::Aftermath* each) { return each->day; });
    all.resize(std::min(all.size(), mostShown));
    std::vector<Shown> shown;
    for (const studies::Aftermath* each : all)
        shown.push_back({*each, studies::pathOf(*each, before, after, market, day)});
    return shown;
}

void CaseModel::show(std::vector<Shown> cases, const studies::Terms& terms,
                     market::MarketPtr market)
{
    beginResetModel();
    cases_ = std::move(cases);
    terms_ = terms;
    market_ = std::move(market);
    endResetModel();
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
    const studies::Aftermath& of = caseAt(index.row()).of;
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
    const QRectF area = QRectF(option.rect).adjusted(4, 3, -4, -3);
    const double bought = area.left() + area.width() * CaseModel::before /
                                            (CaseModel::before + CaseModel::after - 1.0);
    painter->save();
    painter->fillRect(QRectF(bought, area.top() - 2.0, 1.0, area.height() + 4.0), look().rule);
    paintMiniLine(*painter, area, model->caseAt(index.row()).way, look().mark);
    painter->restore();
}

} // namespace sieve::app
