#include "app/market/group_board.h"

#include "app/desk/blend_button.h"
#include "app/desk/desk.h"
#include "app/desk/focus.h"
#include "app/desk/open_market.h"
#include "app/desk/workbench.h"
#include "app/look/look.h"
#include "app/parts/actions.h"
#include "app/parts/expression_edit.h"
#include "app/parts/mini_line.h"
#include "app/parts/number_text.h"
#include "app/parts/own_widths.h"
#include "app/parts/remembered.h"
#include "core/language/checker.h"

#include <QComboBox>
#include <QEvent>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QSpinBox>
#include <QStyledItemDelegate>
#include <QTreeWidget>
#include <QVBoxLayout>
#include <algorithm>
#include <fmt/format.h>

namespace sieve::app {

namespace {

enum Column {
    Name,
    Figure,
    Rank,
    WeekAgo,
    MonthAgo,
    QuarterAgo,
    Path,
    Above,
    Shares,
    Blend,
    ColumnCount
};

constexpr int groupRole = Qt::UserRole;
constexpr int pathRole = Qt::UserRole + 1;
constexpr int stockRole = Qt::UserRole + 2;

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

/// Which parts were open and which one was current: kept when ranks change.
struct Opened {
    QStringList paths;
    QString current;
};

QString pathOf(const QTreeWidgetItem* item)
{
    QString path;
    for (; item; item = item->parent())
        path.prepend(QLatin1Char('\n') + item->text(Name));
    return path;
}

Opened openedIn(const QTreeWidget& tree)
{
    Opened opened;
    QTreeWidgetItemIterator it(const_cast<QTreeWidget*>(&tree)); // Qt has no const one
    for (; *it; ++it)
        if ((*it)->isExpanded())
            opened.paths << pathOf(*it);
    opened.current = pathOf(tree.currentItem());
    return opened;
}

} // namespace

GroupBoard::GroupBoard(Desk& desk, QWidget* parent)
    : QWidget(parent), desk_(desk), asker_(this), stocksAsker_(this), by_(new QComboBox),
      span_(new QSpinBox), figure_(new ExpressionEdit), blend_(new BlendButton(desk)),
      tree_(new QTreeWidget)
{
    by_->addItems({tr("by change over"), tr("by the median of")});
    by_->setAccessibleName(tr("What groups are ranked by"));
    span_->setRange(1, 1250);
    span_->setValue(21);
    span_->setSuffix(tr(" sessions"));
    span_->setButtonSymbols(QAbstractSpinBox::NoButtons); // typed, the arrow keys or the wheel
    span_->setKeyboardTracking(false);
    span_->setAccessibleName(tr("Sessions over which groups are compared"));
    figure_->setAccessibleName(tr("Figure by which groups are ranked"));
    figure_->setText(QStringLiteral("price_to_earnings"));
    figure_->setProperty("quiet", false);
    figure_->hide();
    tree_->setColumnCount(ColumnCount);
    tree_->setHeaderLabels({tr("Group"), tr("Change"), tr("Rank"), tr("5d"), tr("21d"), tr("63d"),
                            tr("Path"), tr("Above"), tr("Shares"), tr("Blend")});
    const QString tips[] = {tr("A sector; open it for its industries, and these for their stocks"),
                            tr("Of the group's shares at equal weight"),
                            tr("1 has most; a stock's rank is by its blend, in its industry"),
                            tr("Rank five sessions ago"),
                            tr("Rank 21 sessions ago"),
                            tr("Rank 63 sessions ago"),
                            tr("The rank over the last quarter; the first stands highest"),
                            tr("Of the group's shares, above their 50-day average"),
                            tr("Shares that are listed"),
                            tr("Weighted mean of a stock's score percentiles")};
    for (int column = 0; column < ColumnCount; ++column) {
        tree_->headerItem()->setToolTip(column, tips[column]);
        if (column != Name)
            tree_->headerItem()->setTextAlignment(column, Qt::AlignRight | Qt::AlignVCenter);
    }
    tree_->setItemDelegateForColumn(Path, new PathDelegate(tree_));
    tree_->setUniformRowHeights(true);
    tree_->setContextMenuPolicy(Qt::ActionsContextMenu);
    tree_->setAccessibleName(tr("Groups"));
    tree_->header()->setStretchLastSection(false);
    tree_->header()->setMinimumSectionSize(34);
    tree_->header()->setSectionResizeMode(QHeaderView::Interactive);
    tree_->header()->setSectionResizeMode(Name, QHeaderView::Stretch);
    const int letter = fontMetrics().horizontalAdvance(QLatin1Char('0'));
    const int letters[] = {0, 8, 6, 4, 5, 5, 6, 7, 7, 6};
    for (int column = Figure; column < ColumnCount; ++column)
        tree_->header()->resizeSection(column, letters[column] * letter);
    remember(tree_->header(), "market.groups");
    tree_->setColumnHidden(Blend, true); // until there are stocks to be seen
    tree_->setIndentation(12);
    tree_->setTextElideMode(Qt::ElideRight);
    auto* head = new QHBoxLayout;
    head->setContentsMargins(0, 0, 0, 0);
    head->addWidget(by_);
    head->addWidget(span_);
    head->addWidget(figure_, 1);
    head->addStretch();
    head->addWidget(blend_);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 4, 0, 0);
    layout->setSpacing(4);
    layout->addLayout(head);
    layout->addWidget(tree_, 1);
    connect(by_, &QComboBox::currentIndexChanged, this, [this](int by) {
        span_->setVisible(by == 0);
        figure_->setVisible(by == 1);
        ask();
    });
    connect(span_, &QSpinBox::valueChanged, this, [this] {
        ask();
        Q_EMIT spanChanged();
    });
    connect(figure_, &QLineEdit::editingFinished, this, &GroupBoard::ask);
    connect(blend_, &BlendButton::changed, this, &GroupBoard::ask);
    connect(tree_, &QTreeWidget::itemClicked, this,
            [](QTreeWidgetItem* item) { item->setExpanded(!item->isExpanded()); });
    connect(tree_, &QTreeWidget::itemExpanded, this, &GroupBoard::fillStocks);
    connect(tree_, &QTreeWidget::currentItemChanged, this, [this](QTreeWidgetItem* item) {
        if (item && item->data(Name, stockRole).isValid())
            desk_.focus().select(
                static_cast<std::size_t>(item->data(Name, stockRole).toULongLong()));
    });
    addActions();
    for (Asker* asker : {&asker_, &stocksAsker_})
        connect(asker, &Asker::failed, &desk_, &Desk::noticed);
}

int GroupBoard::span() const
{
    return span_->value();
}

void GroupBoard::show(const std::shared_ptr<const conditions::Groups>& groups, Day day)
{
    groups_ = groups;
    day_ = day;
    ask();
}

GroupBoard::Answer GroupBoard::rank(engine::Evaluator& evaluator, const language::Names& names,
                                    const std::shared_ptr<const conditions::Groups>& groups,
                                    Day day, const std::string& figure, int span,
                                    const Progress& progress)
{
    Answer answer{groups, {}, {}};
    const auto next = std::ranges::upper_bound(groups->sessions, day);
    const auto session = static_cast<std::size_t>(next - groups->sessions.begin()) - 1;
    if (figure.empty()) {
        answer.figures = changesOver(*groups, session, static_cast<std::size_t>(span));
        return answer;
    }
    auto figures = mediansOf(evaluator, names, *groups, figure, session, progress);
    if (figures)
        answer.figures = *std::move(figures);
    else
        answer.error = figures.error();
    return answer;
}

std::string GroupBoard::figureTyped() const
{
    return by_->currentIndex() == 1 ? utf8(figure_->text().trimmed()) : std::string();
}

void GroupBoard::ask()
{
    if (!groups_ || groups_->sessions.empty())
        return;
    stocksAsker_.stop();
    asker_.ask(
        [evaluator = desk_.market().evaluator(), names = desk_.work().nameBook(), groups = groups_,
         day = day_, figure = figureTyped(), span = span_->value()](const Progress& progress) {
            return std::make_shared<const Answer>(
                rank(*evaluator, names->names(), groups, day, figure, span, progress));
        },
        [this](const std::shared_ptr<const Answer>& answer) {
            figure_->setFault(answer->error);
            if (answer->error)
                return; // what was ranked before stays until the figure is right
            answer_ = answer;
            stocks_.reset();
            fill();
        });
}

/// Scores of all stocks take longer than the groups' ranks, and are seldom looked at: they are
/// asked when a group is opened.
void GroupBoard::askStocks(std::function<void()> then)
{
    stocksAsker_.ask(
        [evaluator = desk_.market().evaluator(), names = desk_.work().nameBook(), day = day_,
         figure = figureTyped(), span = span_->value(),
         blend = valuation::blendOf(blend_->weights())](const Progress& progress) {
            engine::Plan plan;
            const language::Names known = names->names();
            const auto own = check(figure.empty() ? fmt::format("change(close, {})", span) : figure,
                                   known, plan);
            const auto blended = check(blend, known, plan);
            if (!own || !blended)
                return Stocks{};
            const engine::NodeId targets[] = {own->node, blended->node};
            const auto columns = evaluator->columns(plan, targets, day, progress);
            return Stocks{columns[0], columns[1]};
        },
        [this, then = std::move(then)](const Stocks& stocks) {
            if (!stocks.blend)
                return;
            stocks_ = stocks;
            fillOpened();
            then();
        });
}

void GroupBoard::fillOpened()
{
    std::vector<QTreeWidgetItem*> opened;
    for (QTreeWidgetItemIterator at(tree_); *at; ++at)
        if ((*at)->isExpanded())
            opened.push_back(*at);
    for (QTreeWidgetItem* item : opened)
        fillStocks(item);
    restoreCurrent();
}

void GroupBoard::fill()
{
    const Opened opened = openedIn(*tree_);
    const conditions::Groups& groups = *answer_->groups;
    tree_->headerItem()->setText(Figure, by_->currentIndex() == 0 ? tr("Change") : tr("Median"));
    tree_->clear();
    for (const auto& sector : rankGroups(groups, std::nullopt, answer_->figures)) {
        auto* item = new QTreeWidgetItem(tree_);
        fillGroup(item, sector);
        for (const auto& industry : rankGroups(groups, sector.group, answer_->figures)) {
            auto* child = new QTreeWidgetItem(item);
            fillGroup(child, industry);
            child->setChildIndicatorPolicy(QTreeWidgetItem::ShowIndicator);
        }
        if (item->childCount() == 0)
            item->setChildIndicatorPolicy(QTreeWidgetItem::ShowIndicator);
    }
    for (int depth = 0; depth < 3; ++depth) // opening one makes the next
        for (QTreeWidgetItemIterator it(tree_); *it; ++it)
            if (opened.paths.contains(pathOf(*it)))
                (*it)->setExpanded(true);
    current_ = opened.current;
    restoreCurrent();
}

/// Stocks come later than their groups: the one that was current may not be there yet.
void GroupBoard::restoreCurrent()
{
    for (QTreeWidgetItemIterator it(tree_); *it; ++it)
        if (pathOf(*it) == current_) {
            const QSignalBlocker quiet(tree_);
            tree_->setCurrentItem(*it);
            current_.clear();
            break;
        }
    enableActions();
}

void GroupBoard::fillGroup(QTreeWidgetItem* item, const conditions::RankedGroup& ranked)
{
    const conditions::Group& group = answer_->groups->all[ranked.group];
    const Unit unit = answer_->figures.unit;
    item->setText(Name, text(group.name));
    item->setToolTip(Name, text(group.name));
    item->setData(Name, groupRole, QVariant::fromValue<qulonglong>(ranked.group));
    const bool isChange = by_->currentIndex() == 0;
    item->setText(Figure, isChange ? signedText(ranked.figure, unit, 1)
                                   : numberText(ranked.figure, unit, 2));
    if (isChange && !isMissing(ranked.figure))
        item->setForeground(Figure, ranked.figure < 0.0 ? look().fall : look().rise);
    for (int age = 0; age < 4; ++age)
        item->setText(Rank + age, rankText(ranked.ranks.at(static_cast<std::size_t>(age))));
    QVariantList path;
    for (const double rank : ranked.path)
        path << rank;
    item->setData(Path, pathRole, path);
    item->setText(Above, numberText(ranked.above, Unit::Percent, 0));
    item->setText(Shares, QString::number(static_cast<int>(ranked.members)));
    for (int column = Figure; column < ColumnCount; ++column)
        item->setTextAlignment(column, Qt::AlignRight | Qt::AlignVCenter);
    item->setFont(Rank, fontOf(Weight::SemiBold));
    item->setSizeHint(Name, QSize(0, tree_->fontMetrics().height() + 9));
}

std::optional<std::size_t> GroupBoard::groupOf(const QTreeWidgetItem* item) const
{
    if (!item || !item->data(Name, groupRole).isValid())
        return std::nullopt;
    return static_cast<std::size_t>(item->data(Name, groupRole).toULongLong());
}

std::vector<std::size_t> GroupBoard::byBlend(std::size_t group) const
{
    return conditions::rankShares(answer_->groups->all[group], desk_.market().data(), day_,
                                  stocks_ ? std::span<const double>(*stocks_->blend)
                                          : std::span<const double>());
}

void GroupBoard::fillStocks(QTreeWidgetItem* item)
{
    const auto group = groupOf(item);
    if (!group || item->childCount() > 0 || !answer_)
        return;
    if (!stocks_) {
        if (!stocksAsker_.isBusy())
            askStocks([] {});
        return;
    }
    tree_->setColumnHidden(Blend, false);
    std::size_t rank = 0;
    for (const std::size_t share : byBlend(*group)) {
        const market::Instrument& instrument = desk_.market().data().instrument(share);
        auto* row = new QTreeWidgetItem(item);
        row->setText(Name, text(instrument.symbol) + QStringLiteral("  ") + text(instrument.name));
        row->setToolTip(Name, text(instrument.name));
        row->setData(Name, stockRole, QVariant::fromValue<qulonglong>(share));
        const double figure = (*stocks_->figures)[share];
        const bool isChange = by_->currentIndex() == 0;
        row->setText(Figure, isChange ? signedText(figure, Unit::Percent, 1)
                                      : numberText(figure, answer_->figures.unit, 2));
        if (isChange && !isMissing(figure))
            row->setForeground(Figure, figure < 0.0 ? look().fall : look().rise);
        const double blend = (*stocks_->blend)[share];
        row->setText(Rank, isMissing(blend) ? QString(missingText) : QString::number(++rank));
        row->setText(Blend, numberText(blend, Unit::Points, 0));
        for (int column = Figure; column < ColumnCount; ++column)
            row->setTextAlignment(column, Qt::AlignRight | Qt::AlignVCenter);
        row->setForeground(Name, look().softInk);
    }
}

void GroupBoard::addActions()
{
    actions_ = {
        makeAction(tree_, ActionId::SiftGroup,
                   [this] {
                       if (const auto group = chosenGroup())
                           Q_EMIT sharesWanted(text(conditionOf(*answer_->groups, *group)));
                   }),
        makeAction(tree_, ActionId::TrayGroup, [this] { takeIntoTray(); }),
        makeAction(tree_, ActionId::DrawGroup,
                   [this] {
                       if (const auto group = chosenGroup())
                           Q_EMIT groupChosen(*group);
                   }),
    };
    connect(tree_, &QTreeWidget::currentItemChanged, this, &GroupBoard::enableActions);
    enableActions();
}

void GroupBoard::enableActions()
{
    for (QAction* action : actions_)
        action->setEnabled(chosenGroup().has_value());
}

/// The group of the current row, or that of its stock.
std::optional<std::size_t> GroupBoard::chosenGroup() const
{
    const QTreeWidgetItem* item = tree_->currentItem();
    if (item && item->data(Name, stockRole).isValid())
        item = item->parent();
    return groupOf(item);
}

void GroupBoard::takeIntoTray()
{
    const auto group = chosenGroup();
    if (!group)
        return;
    askStocks([this, group, name = text(answer_->groups->all[*group].name)] {
        std::vector<std::string> symbols;
        for (const std::size_t share : byBlend(*group))
            symbols.push_back(desk_.market().data().instrument(share).symbol);
        Q_EMIT trayWanted(name, symbols);
    });
}

void GroupBoard::changeEvent(QEvent* event)
{
    QWidget::changeEvent(event);
    if (event->type() == QEvent::PaletteChange && answer_)
        fill(); // rises and falls in the new colours
}

} // namespace sieve::app
