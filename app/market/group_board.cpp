#include "app/market/group_board.h"

#include "app/look/look.h"
#include "app/parts/mini_line.h"
#include "app/parts/number_text.h"

#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QMenu>
#include <QSpinBox>
#include <QStyledItemDelegate>
#include <QTreeWidget>
#include <QVBoxLayout>

namespace sieve::app {

namespace {

enum Column { Name, Change, Rank, WeekAgo, MonthAgo, QuarterAgo, Path, Above, Shares, ColumnCount };

constexpr int groupRole = Qt::UserRole;
constexpr int pathRole = Qt::UserRole + 1;

/// The rank's path as a small line: the first rank stands highest.
class PathDelegate : public QStyledItemDelegate {
public:
    using QStyledItemDelegate::QStyledItemDelegate;

    void paint(QPainter* painter, const QStyleOptionViewItem& option,
               const QModelIndex& index) const override
    {
        QStyledItemDelegate::paint(painter, option, index);
        std::vector<double> ranks;
        for (const QVariant& rank : index.data(pathRole).toList())
            ranks.push_back(-rank.toDouble());
        paintMiniLine(*painter, QRectF(option.rect).adjusted(6, 6, -6, -6), ranks, look().mark);
    }
};

QString rankText(std::optional<std::size_t> rank)
{
    return rank ? QString::number(*rank) : QString(missingText);
}

} // namespace

GroupBoard::GroupBoard(QWidget* parent)
    : QWidget(parent), span_(new QSpinBox), tree_(new QTreeWidget)
{
    auto* title = new QLabel(tr("Groups by change over"));
    title->setFont(fontOf(Weight::Medium));
    title->setBuddy(span_);
    span_->setRange(1, 1250);
    span_->setValue(21);
    span_->setSuffix(tr(" sessions"));
    span_->setButtonSymbols(QAbstractSpinBox::NoButtons); // typed, the arrow keys or the wheel
    span_->setAccessibleName(tr("Sessions over which groups are compared"));
    tree_->setColumnCount(ColumnCount);
    tree_->setHeaderLabels({tr("Group"), tr("Change"), tr("Rank"), tr("5d"), tr("21d"), tr("63d"),
                            tr("Path"), tr("Above"), tr("Shares")});
    const QString tips[] = {tr("A sector; open it for its industries"),
                            tr("Of the group's shares at equal weight"),
                            tr("1 rose most"),
                            tr("Rank five sessions ago"),
                            tr("Rank 21 sessions ago"),
                            tr("Rank 63 sessions ago"),
                            tr("The rank over the last quarter; the first stands highest"),
                            tr("Of the group's shares, above their 50-day average"),
                            tr("Shares that are listed")};
    for (int column = 0; column < ColumnCount; ++column) {
        tree_->headerItem()->setToolTip(column, tips[column]);
        if (column != Name)
            tree_->headerItem()->setTextAlignment(column, Qt::AlignRight | Qt::AlignVCenter);
    }
    tree_->setItemDelegateForColumn(Path, new PathDelegate(tree_));
    tree_->setUniformRowHeights(true);
    tree_->setContextMenuPolicy(Qt::CustomContextMenu);
    tree_->setAccessibleName(tr("Groups"));
    tree_->header()->setStretchLastSection(false);
    tree_->header()->setMinimumSectionSize(40);
    tree_->header()->setSectionResizeMode(QHeaderView::Interactive);
    tree_->header()->setSectionResizeMode(Name, QHeaderView::Stretch);
    const int letter = fontMetrics().horizontalAdvance(QLatin1Char('0'));
    const int letters[] = {0, 8, 6, 5, 5, 5, 8, 7, 7};
    for (int column = Change; column < ColumnCount; ++column)
        tree_->header()->resizeSection(column, letters[column] * letter);
    tree_->setIndentation(12);
    tree_->setTextElideMode(Qt::ElideRight);
    auto* head = new QHBoxLayout;
    head->addWidget(title);
    head->addWidget(span_);
    head->addStretch();
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(6);
    layout->addLayout(head);
    layout->addWidget(tree_, 1);
    connect(span_, &QSpinBox::valueChanged, this, &GroupBoard::show);
    connect(tree_, &QTreeWidget::itemClicked, this,
            [](QTreeWidgetItem* item) { item->setExpanded(!item->isExpanded()); });
    connect(tree_, &QWidget::customContextMenuRequested, this, &GroupBoard::showMenu);
}

void GroupBoard::setGroups(std::shared_ptr<const conditions::Groups> groups)
{
    groups_ = std::move(groups);
    tree_->clear();
}

void GroupBoard::setSession(std::size_t session)
{
    session_ = session;
    show();
}

void GroupBoard::show()
{
    if (!groups_)
        return;
    // What is open and current stays so when ranks change.
    QStringList open;
    for (int i = 0; i < tree_->topLevelItemCount(); ++i)
        if (tree_->topLevelItem(i)->isExpanded())
            open << tree_->topLevelItem(i)->text(Name);
    const QVariant current =
        tree_->currentItem() ? tree_->currentItem()->data(Name, groupRole) : QVariant();
    tree_->clear();
    const auto span = static_cast<std::size_t>(span_->value());
    const auto add = [&](QTreeWidgetItem* item, const conditions::GroupStanding& standing) {
        fill(item, standing);
        if (item->data(Name, groupRole) == current)
            tree_->setCurrentItem(item);
    };
    for (const auto& sector : conditions::rankGroups(*groups_, std::nullopt, session_, span)) {
        auto* item = new QTreeWidgetItem(tree_);
        add(item, sector);
        for (const auto& industry : conditions::rankGroups(*groups_, sector.group, session_, span))
            add(new QTreeWidgetItem(item), industry);
        item->setExpanded(open.contains(item->text(Name)));
    }
}

void GroupBoard::fill(QTreeWidgetItem* item, const conditions::GroupStanding& standing)
{
    const conditions::Group& group = groups_->all[standing.group];
    item->setText(Name, text(group.name));
    item->setToolTip(Name, text(group.name));
    item->setData(Name, groupRole, QVariant::fromValue<qulonglong>(standing.group));
    item->setText(Change, signedText(standing.change, Unit::Percent, 1));
    if (!isMissing(standing.change))
        item->setForeground(Change, standing.change < 0.0 ? look().fall : look().rise);
    for (int age = 0; age < 4; ++age)
        item->setText(Rank + age, rankText(standing.ranks.at(static_cast<std::size_t>(age))));
    QVariantList path;
    for (const double rank : standing.path)
        path << rank;
    item->setData(Path, pathRole, path);
    item->setText(Above, numberText(standing.above, Unit::Percent, 0));
    item->setText(Shares, QString::number(static_cast<int>(standing.members)));
    for (int column = Change; column < ColumnCount; ++column)
        item->setTextAlignment(column, Qt::AlignRight | Qt::AlignVCenter);
    item->setFont(Rank, fontOf(Weight::SemiBold));
    item->setSizeHint(Name, QSize(0, tree_->fontMetrics().height() + 11));
}

QString GroupBoard::conditionOf(std::size_t group) const
{
    const conditions::Group& asked = groups_->all[group];
    const auto is = [](const char* field, const std::string& name) {
        return QStringLiteral("%1 == \"%2\"").arg(QLatin1String(field), text(name));
    };
    if (!asked.sector)
        return is("sector", asked.name);
    return is("sector", groups_->all[*asked.sector].name) + QStringLiteral(" and ") +
           is("industry", asked.name);
}

void GroupBoard::showMenu(const QPoint& at)
{
    const QTreeWidgetItem* item = tree_->itemAt(at);
    if (!item)
        return;
    const auto group = static_cast<std::size_t>(item->data(Name, groupRole).toULongLong());
    QMenu menu(this);
    menu.addAction(tr("Sift the shares of %1").arg(item->text(Name)), this,
                   [this, group] { Q_EMIT sharesWanted(conditionOf(group)); });
    menu.exec(tree_->viewport()->mapToGlobal(at));
}

} // namespace sieve::app
