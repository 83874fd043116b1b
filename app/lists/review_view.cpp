#include "app/lists/review_view.h"

#include "app/desk/desk.h"
#include "app/desk/focus.h"
#include "app/desk/market_reader.h"
#include "app/desk/open_market.h"
#include "app/desk/workbench.h"
#include "app/look/look.h"
#include "app/look/tone.h"
#include "app/parts/number_text.h"
#include "app/parts/remembered.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QPushButton>
#include <QSplitter>
#include <QTreeWidget>
#include <QVBoxLayout>

namespace sieve::app {

using watchlists::ReviewBy;
using watchlists::ReviewCase;
using watchlists::ReviewRow;

namespace {

constexpr int reviewedRole = Qt::UserRole; ///< of a line: the place of its row, or its stock

QString kindTitle(ReviewBy by)
{
    switch (by) {
    case ReviewBy::All:
        return ReviewView::tr("all together");
    case ReviewBy::Source:
        return ReviewView::tr("source");
    case ReviewBy::Reason:
        return ReviewView::tr("reason");
    case ReviewBy::Category:
        return ReviewView::tr("category");
    case ReviewBy::Verdict:
        return ReviewView::tr("verdict");
    case ReviewBy::Checked:
        return ReviewView::tr("questions answered by yes");
    case ReviewBy::Market:
        return ReviewView::tr("state of the market on that day");
    case ReviewBy::Decision:
        return ReviewView::tr("kept, taken off or dropped");
    case ReviewBy::List:
        return ReviewView::tr("list");
    case ReviewBy::End:
        return ReviewView::tr("how its plan ended");
    }
    return {};
}

QString shareText(double share)
{
    return signedText(share, Unit::Percent, 1);
}

/// A line whose figures from the column `first` on stand at the right.
QTreeWidgetItem* lineOf(const QStringList& words, int first)
{
    auto* item = new QTreeWidgetItem(words);
    for (int column = first; column < words.size(); ++column)
        item->setTextAlignment(column, Qt::AlignRight | Qt::AlignVCenter);
    return item;
}

void rightHeads(QTreeWidget* tree, int first)
{
    for (int column = first; column < tree->columnCount(); ++column)
        tree->headerItem()->setTextAlignment(column, Qt::AlignRight | Qt::AlignVCenter);
}

} // namespace

ReviewView::ReviewView(Desk& desk)
    : desk_(desk), asker_(this), of_(new QComboBox), by_(new QComboBox), told_(new QLabel),
      rows_(new QTreeWidget), warning_(new QLabel), cases_(new QTreeWidget)
{
    connect(&asker_, &Asker::failed, &desk, &Desk::noticed);
    of_->addItem(tr("all lists, and what was dropped"));
    of_->addItem(tr("this list"));
    of_->setAccessibleName(tr("Review of"));
    for (const ReviewBy by : watchlists::reviewKinds)
        by_->addItem(kindTitle(by), static_cast<int>(by));
    by_->setCurrentIndex(by_->findData(static_cast<int>(ReviewBy::Source)));
    by_->setAccessibleName(tr("Counted by"));
    remember(by_, "lists.review_by");
    rows_->setAccessibleName(tr("Review"));
    rows_->setHeaderLabels({tr("Of"), tr("Cases"), tr("Days"), tr("Gained"), tr("To date"),
                            tr("5 days"), tr("20 days"), tr("60 days"), tr("Best"), tr("Worst"),
                            tr("Over all"), tr("Over index"), tr("By plan"), tr("By trades")});
    const QString tips[] = {tr("What they have in common"),
                            tr("Ideas"),
                            tr("Different days on which they came"),
                            tr("Share of them that stand above their price then"),
                            tr("Median gain to the as-of day"),
                            tr("Median gain after 5 sessions"),
                            tr("Median gain after 20 sessions"),
                            tr("Median gain after 60 sessions"),
                            tr("Median of the highest point within 60 sessions"),
                            tr("Median of the lowest point within 60 sessions"),
                            tr("Median gain to date less the median of all stocks since that day"),
                            tr("Median gain to date less that of the benchmark"),
                            tr("Median of what following the plan gave: bought at its entry, sold "
                               "at its stop, first target or rule"),
                            tr("Median of what your own trades gave")};
    for (int column = 0; column < rows_->columnCount(); ++column)
        rows_->headerItem()->setToolTip(column, tips[column]);
    rightHeads(rows_, 1);
    cases_->setAccessibleName(tr("Cases"));
    cases_->setHeaderLabels({tr("Symbol"), tr("On"), tr("List"), tr("Decision"), tr("Plan"),
                             tr("To date"), tr("5 days"), tr("20 days"), tr("60 days"),
                             tr("Over all"), tr("By plan"), tr("By trades"), tr("Reason")});
    rightHeads(cases_, 5);
    cases_->headerItem()->setTextAlignment(12, Qt::AlignLeft | Qt::AlignVCenter);
    for (QTreeWidget* tree : {rows_, cases_}) {
        tree->setRootIsDecorated(false);
        tree->setProperty("roomy", true);
        tree->setUniformRowHeights(true);
    }
    auto* wall = new QPushButton(tr("&Wall of these cases"));
    connect(wall, &QPushButton::clicked, this, [this] {
        const ReviewRow* row = chosenRow();
        if (!row)
            return;
        std::vector<charts::MarkedDay> cases;
        for (const std::size_t at : row->cases) {
            const watchlists::ReviewCase& each = answer_.cases[at];
            std::string words = each.list.empty() ? "taken in hand" : "onto " + each.list;
            if (!each.reason.empty())
                words += ": " + each.reason;
            cases.push_back({each.stock, each.on, std::move(words)});
        }
        Q_EMIT wallWanted(cases, nameOf(*row));
    });
    connect(of_, &QComboBox::activated, this, &ReviewView::ask);
    connect(by_, &QComboBox::currentIndexChanged, this, &ReviewView::fillRows);
    connect(rows_, &QTreeWidget::currentItemChanged, this, &ReviewView::fillCases);
    connect(cases_, &QTreeWidget::currentItemChanged, this, [this](const QTreeWidgetItem* item) {
        if (item)
            Q_EMIT stockChosen(item->data(0, reviewedRole).toULongLong());
    });
    setTone(told_, Tone::Soft);
    told_->setWordWrap(true);
    setTone(warning_, Tone::Caution);
    warning_->setWordWrap(true);
    auto* head = new QHBoxLayout;
    head->addWidget(new QLabel(tr("Of")));
    head->addWidget(of_);
    head->addWidget(new QLabel(tr("counted by")));
    head->addWidget(by_);
    head->addStretch(1);
    head->addWidget(wall);
    auto* split = new QSplitter(Qt::Vertical);
    remember(split, "lists.review");
    split->setChildrenCollapsible(false);
    split->setHandleWidth(8);
    split->addWidget(rows_);
    split->addWidget(cases_);
    split->setSizes({260, 300});
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(4);
    layout->addLayout(head);
    layout->addWidget(told_);
    layout->addWidget(warning_);
    layout->addWidget(split, 1);
}

void ReviewView::refresh(std::int64_t list)
{
    list_ = list;
    ask();
}

void ReviewView::ask()
{
    if (!desk_.market().isOpen())
        return;
    const Work& work = desk_.work().now();
    const bool isOneList = of_->currentIndex() == 1;
    std::vector<Shared<watchlists::Watchlist>> lists;
    for (const auto& list : work.lists)
        if (!isOneList || list->id == list_)
            lists.push_back(list);
    asker_.ask(
        [evaluator = desk_.market().evaluator(), book = desk_.work().nameBook(), lists,
         tray = work.tray, isOneList, verdicts = work.verdicts, terms = *work.terms,
         reading = desk_.conditions().reading(),
         day = desk_.focus().day()](const Progress& progress) {
            return Answer{evaluator->marketPtr(),
                          watchlists::reviewOf({lists, isOneList ? nullptr : &*tray, *verdicts,
                                                reading.get(), terms},
                                               *evaluator, book->names(), day, progress)};
        },
        [this](Answer answer) { show(std::move(answer)); });
}

void ReviewView::show(Answer answer)
{
    answer_ = std::move(answer);
    fillRows();
}

QString ReviewView::nameOf(const ReviewRow& row) const
{
    const auto by = static_cast<ReviewBy>(by_->currentData().toInt());
    if (by == ReviewBy::All)
        return tr("All ideas");
    if (row.name.empty())
        return by == ReviewBy::Source ? tr("by hand")
               : by == ReviewBy::List ? tr("no list: dropped")
                                      : tr("nothing said");
    return text(row.name).trimmed();
}

void ReviewView::fillRows()
{
    const auto by = static_cast<ReviewBy>(by_->currentData().toInt());
    shown_ = watchlists::rowsBy(answer_.cases, by);
    rows_->clear();
    for (std::size_t at = 0; at < shown_.size(); ++at) {
        const ReviewRow& row = shown_[at];
        auto* item =
            lineOf({nameOf(row), countText(row.cases.size()), countText(row.days),
                    numberText(row.gained, Unit::Percent, 0), shareText(row.gain),
                    shareText(row.after[0]), shareText(row.after[1]), shareText(row.after[2]),
                    shareText(row.best), shareText(row.worst), shareText(row.overAll),
                    shareText(row.overBenchmark), shareText(row.byPlan), shareText(row.byTrades)},
                   1);
        item->setData(0, reviewedRole, QVariant::fromValue<qulonglong>(at));
        item->setToolTip(0, row.warning.empty()
                                ? nameOf(row)
                                : nameOf(row) + QStringLiteral(": ") + text(row.warning));
        if (!row.warning.empty()) // what says little steps back
            for (int column = 0; column < rows_->columnCount(); ++column)
                item->setForeground(column, look().softInk);
        rows_->addTopLevelItem(item);
    }
    constexpr int room = 8;
    for (int column = 1; column < rows_->columnCount(); ++column) {
        rows_->resizeColumnToContents(column);
        rows_->setColumnWidth(column, rows_->columnWidth(column) + room);
    }
    constexpr int nameWidth = 160;
    rows_->setColumnWidth(0, nameWidth);
    if (rows_->topLevelItemCount() > 0)
        rows_->setCurrentItem(rows_->topLevelItem(0));
    told_->setText(answer_.cases.empty()
                       ? tr("No idea was put onto a list or dropped by this day.")
                       : tr("%1 ideas by this day. Gains are medians, from the close of the day on "
                            "which an idea came, whatever became of it; splits are taken out, "
                            "dividends and costs are not counted. Grey: too few to say much.")
                             .arg(answer_.cases.size()));
    fillCases();
}

const ReviewRow* ReviewView::chosenRow() const
{
    const QTreeWidgetItem* item = rows_->currentItem();
    return item ? &shown_.at(item->data(0, reviewedRole).toULongLong()) : nullptr;
}

void ReviewView::fillCases()
{
    const QSignalBlocker quiet(cases_);
    cases_->clear();
    const ReviewRow* row = chosenRow();
    warning_->setVisible(row && !row->warning.empty());
    if (!row || !answer_.market)
        return;
    warning_->setText(tr("“%1”: %2.").arg(nameOf(*row), text(row->warning)));
    for (auto at = row->cases.rbegin(); at != row->cases.rend(); ++at) { // the newest first
        const ReviewCase& of = answer_.cases[*at];
        auto* item = lineOf(
            {text(answer_.market->instrument(of.stock).symbol), shortDayText(of.on), text(of.list),
             text(watchlists::decisionName(of.decision)),
             of.end == watchlists::PlanEnd::NoPlan ? QString() : text(watchlists::endName(of.end)),
             shareText(of.gain), shareText(of.after[0]), shareText(of.after[1]),
             shareText(of.after[2]), shareText(of.overAll), shareText(of.byPlan),
             shareText(of.byTrades), text(of.reason)},
            5);
        item->setTextAlignment(12, Qt::AlignLeft | Qt::AlignVCenter);
        item->setData(0, reviewedRole, QVariant::fromValue<qulonglong>(of.stock));
        item->setFont(0, fontOf(Weight::SemiBold));
        cases_->addTopLevelItem(item);
    }
    for (int column = 0; column < cases_->columnCount(); ++column)
        cases_->resizeColumnToContents(column);
}

} // namespace sieve::app
