#include "app/sift/groups_lens.h"

#include "app/desk/desk.h"
#include "app/desk/focus.h"
#include "app/look/look.h"
#include "app/parts/number_text.h"

#include <QComboBox>
#include <QHeaderView>
#include <QPainter>
#include <QStyledItemDelegate>
#include <QTreeWidget>
#include <QVBoxLayout>
#include <algorithm>

namespace sieve::app {

namespace {

constexpr int shareRole = Qt::UserRole + 1;
constexpr int expectedRole = Qt::UserRole + 2;

/// The share of the matches as a bar, that of the universe as a line across it.
class ShareDelegate : public QStyledItemDelegate {
public:
    using QStyledItemDelegate::QStyledItemDelegate;
    void paint(QPainter* painter, const QStyleOptionViewItem& option,
               const QModelIndex& index) const override
    {
        QStyledItemDelegate::paint(painter, option, index);
        const QVariant share = index.data(shareRole);
        if (!share.isValid())
            return;
        const QRectF area = QRectF(option.rect).adjusted(8, 5, -8, -5);
        const double expected = area.left() + area.width() * index.data(expectedRole).toDouble();
        painter->fillRect(
            QRectF(area.left(), area.top(), area.width() * share.toDouble(), area.height()),
            look().wash(look().mark, 0.55));
        painter->setPen(QPen(look().ink, 1.4));
        painter->drawLine(QPointF(expected, area.top() - 2), QPointF(expected, area.bottom() + 2));
    }
};

} // namespace

GroupsLens::GroupsLens(Desk& desk)
    : Lens(desk), asker_(this), by_(new QComboBox), tree_(new QTreeWidget)
{
    using market::TextField;
    by_->setAccessibleName(tr("Grouped by"));
    for (const auto& [title, field] : {std::pair(tr("by sector"), TextField::Sector),
                                       std::pair(tr("by industry"), TextField::Industry),
                                       std::pair(tr("by exchange"), TextField::Exchange)})
        by_->addItem(title, static_cast<int>(field));
    tree_->setProperty("roomy", true);
    tree_->setAccessibleName(tr("Groups of the results"));
    tree_->setColumnCount(ColumnCount);
    tree_->setHeaderLabels({tr("Group"), tr("Pass"), tr("Of"), tr("Share"), tr("In universe"),
                            tr("Beside the universe")});
    tree_->headerItem()->setToolTip(Bars, tr("The bar is the share of those that pass, the line "
                                             "across it that of the universe"));
    tree_->setUniformRowHeights(true);
    tree_->setItemDelegateForColumn(Bars, new ShareDelegate(tree_));
    tree_->header()->setSectionResizeMode(QHeaderView::ResizeToContents);
    for (const int column : {Matches, Universe, Share, Expected})
        tree_->headerItem()->setTextAlignment(column, Qt::AlignRight | Qt::AlignVCenter);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(4);
    layout->addWidget(by_, 0, Qt::AlignLeft);
    layout->addWidget(tree_, 1);
    connect(&asker_, &Asker::failed, &desk_, &Desk::noticed);
    connect(by_, &QComboBox::currentIndexChanged, this, &GroupsLens::ask);
    connect(tree_, &QTreeWidget::itemExpanded, this, &GroupsLens::addStocks);
    connect(tree_, &QTreeWidget::currentItemChanged, this, [this](const QTreeWidgetItem* item) {
        if (item && item->data(Name, stockRole).isValid())
            desk_.focus().select(item->data(Name, stockRole).toULongLong());
    });
}

void GroupsLens::show(const SiftedPtr& sifted)
{
    sifted_ = sifted;
    ask();
}

void GroupsLens::ask()
{
    if (!sifted_)
        return;
    asker_.ask(
        [sifted = sifted_,
         field = static_cast<market::TextField>(by_->currentData().toInt())](const Progress&) {
            return screens::groupMatches(*sifted->market, sifted->run.matches, sifted->run.stocks,
                                         field);
        },
        [this, market = sifted_->market](std::vector<screens::MatchGroup> groups) {
            market_ = market;
            groups_ = std::move(groups);
            fill();
        });
}

void GroupsLens::fill()
{
    QStringList open; // what was opened stays so
    for (int row = 0; row < tree_->topLevelItemCount(); ++row)
        if (tree_->topLevelItem(row)->isExpanded())
            open << tree_->topLevelItem(row)->text(Name);
    const QSignalBlocker quiet(tree_);
    tree_->clear();
    double widest = 0.0;
    for (const screens::MatchGroup& group : groups_)
        widest = std::max({widest, group.share, group.expected});
    for (const screens::MatchGroup& group : groups_) {
        auto* item = new QTreeWidgetItem(tree_);
        item->setText(Name, group.name.empty() ? tr("not known") : text(group.name));
        item->setText(Matches, QString::number(group.matches.size()));
        item->setFont(Matches, fontOf(Weight::SemiBold));
        item->setText(Universe, QString::number(group.inUniverse));
        item->setText(Share, numberText(group.share, Unit::Percent, 0));
        item->setText(Expected, numberText(group.expected, Unit::Percent, 0));
        item->setData(Bars, shareRole, widest > 0.0 ? group.share / widest : 0.0);
        item->setData(Bars, expectedRole, widest > 0.0 ? group.expected / widest : 0.0);
        for (const int column : {Matches, Universe, Share, Expected})
            item->setTextAlignment(column, Qt::AlignRight | Qt::AlignVCenter);
        if (!group.matches.empty())
            item->setChildIndicatorPolicy(QTreeWidgetItem::ShowIndicator);
        if (open.contains(item->text(Name))) {
            addStocks(item);
            item->setExpanded(true);
        }
    }
}

/// The matches of a group, once it is opened: there may be thousands in all.
void GroupsLens::addStocks(QTreeWidgetItem* group) const
{
    if (group->childCount() > 0)
        return;
    const auto row = static_cast<std::size_t>(tree_->indexOfTopLevelItem(group));
    for (const std::size_t stock : groups_.at(row).matches) {
        const market::Instrument& instrument = market_->instrument(stock);
        auto* child = new QTreeWidgetItem(group);
        child->setData(Name, stockRole, QVariant::fromValue<qulonglong>(stock));
        child->setText(Name, tr("%1   %2").arg(text(instrument.symbol), text(instrument.name)));
    }
}

} // namespace sieve::app
