// What is done to entries.

#include "app/desk/desk.h"
#include "app/desk/dropped_stocks.h"
#include "app/desk/focus.h"
#include "app/desk/navigator.h"
#include "app/desk/open_market.h"
#include "app/desk/plan_shelf.h"
#include "app/lists/entries_dialog.h"
#include "app/lists/entry_page.h"
#include "app/lists/list_tree.h"
#include "app/lists/lists_place.h"
#include "app/lists/trade_dialog.h"
#include "app/parts/actions.h"
#include "app/parts/number_text.h"
#include "core/watchlists/list_sets.h"
#include "core/watchlists/stays.h"

#include <QAction>
#include <QDragEnterEvent>
#include <QInputDialog>
#include <QMimeData>
#include <QTableView>
#include <algorithm>

namespace sieve::app {

using watchlists::Entry;

namespace {

/// Where an entry stands in a list by now; a stock stands on it once.
std::optional<std::size_t> placeOfEntry(const watchlists::Watchlist& list, const Entry& entry)
{
    const auto found = std::ranges::find_if(
        list.entries, [&](const Entry& each) { return watchlists::isSameEntry(each, entry); });
    return found == list.entries.end()
               ? std::nullopt
               : std::optional(static_cast<std::size_t>(found - list.entries.begin()));
}

} // namespace

void ListsPlace::addEntryActions()
{
    entries_->setContextMenuPolicy(Qt::ActionsContextMenu);
    makeAction(entries_, ActionId::ReadEntry, [this] { desk_.navigator().show(PlaceId::Weigh); });
    const auto askPlan = [this] {
        if (chosenRow())
            plans_->open(this);
    };
    makeAction(entries_, ActionId::PlanEntry, askPlan);
    makeAction(entries_, ActionId::BoughtEntry, [this] { trade(false); });
    makeAction(entries_, ActionId::SoldEntry, [this] { trade(true); });
    makeAction(entries_, ActionId::WriteNote, [this] { page_->focusNote(); });
    makeAction(entries_, ActionId::NextSign, [this] { nextSign(); });
    makeAction(entries_, ActionId::ChangeEntries, [this] { changeEntries(); });
    makeAction(entries_, ActionId::EntryUp, [this] { moveEntries(-1); });
    makeAction(entries_, ActionId::EntryDown, [this] { moveEntries(1); });
    makeAction(entries_, ActionId::KeepOrder, [this] { keepOrder(); });
    for (int number = 1; number <= rowOf(ActionId::CopyOnto).count; ++number) {
        const auto list = static_cast<std::size_t>(number - 1);
        makeAction(
            entries_, ActionId::CopyOnto, [this, list] { transferTo(list, false); }, number);
        makeAction(
            entries_, ActionId::MoveOnto, [this, list] { transferTo(list, true); }, number);
    }
    makeAction(entries_, ActionId::TakeOffList, [this] { takeOff(); });
    connect(model_, &EntriesModel::typed, this, &ListsPlace::takeTyped);
    connect(page_, &EntryPage::edited, this,
            [this](const ShownList& list, const Entry& entry, const QString& what,
                   const EntryPage::Change& change) { editEntries(list, {entry}, what, change); });
    connect(page_, &EntryPage::planAsked, this, askPlan);
    connect(page_, &EntryPage::tradeAsked, this, &ListsPlace::trade);
    connect(page_, &EntryPage::failed, &desk_, &Desk::noticed);
}

std::vector<Entry> ListsPlace::chosenEntries() const
{
    std::vector<Entry> entries;
    for (const int row : chosenRows())
        entries.push_back(model_->entry(row));
    return entries;
}

void ListsPlace::editEntries(const ShownList& list, const std::vector<Entry>& entries,
                             const QString& what, const EntryChange& change)
{
    desk_.work().edit(what, [&](Work& work) {
        watchlists::Watchlist* now = work.editList(list.told.list.id);
        for (const Entry& entry : entries)
            if (const auto place = now ? placeOfEntry(*now, entry) : std::nullopt)
                change(now->entries[*place]);
            else if (now && now->isKeptByRule() && list.market)
                change(watchlists::entryToWrite(*now, *list.market, entry));
    });
}

/// One of the list that is shown.
void ListsPlace::editEntry(const Entry& entry, const QString& what, const EntryChange& change)
{
    editEntries(model_->shown(), {entry}, what, change);
}

/// Into a cell of the table.
void ListsPlace::takeTyped(const Entry& entry, int column, const QString& typed)
{
    const QString symbol = text(entry.symbol);
    switch (column) {
    case EntriesModel::Reason:
        return editEntry(entry, tr("Give a reason for %1").arg(symbol),
                         [&](Entry& now) { now.reason = utf8(typed); });
    case EntriesModel::Category:
        return editEntry(entry, tr("Category of %1").arg(symbol),
                         [&](Entry& now) { now.page.category = utf8(typed); });
    case EntriesModel::Tags:
        return editEntry(entry, tr("Tags of %1").arg(symbol),
                         [&](Entry& now) { now.page.tags = watchlists::tagsIn(utf8(typed)); });
    case EntriesModel::Review:
        return editEntry(entry, tr("Day of review of %1").arg(symbol),
                         [&](Entry& now) { now.page.reviewOn = Day::parse(utf8(typed)); });
    default:
        return;
    }
}

void ListsPlace::changeEntries()
{
    const std::vector<Entry> chosen = chosenEntries();
    if (chosen.empty())
        return;
    EntriesDialog dialog(chosen.size(), categories(), dateOf(desk_.focus().day()), this);
    if (dialog.exec() == QDialog::Accepted)
        editEntries(model_->shown(), chosen, tr("Change %1 entries").arg(chosen.size()),
                    dialog.change());
}

/// Proposes what the plan says, at the day's close; of a sale all that is held.
void ListsPlace::trade(bool isSale)
{
    const auto row = chosenRow();
    if (!row || !desk_.market().isOpen())
        return;
    const Entry entry = model_->entry(*row);
    const watchlists::EntryTold& told = model_->told(*row);
    if (isSale && !told.position.isHeld())
        return Q_EMIT desk_.noticed(tr("Nothing of %1 is held.").arg(text(entry.symbol)));
    double shares = -told.position.shares;
    if (!isSale) {
        shares = 0.0;
        if (told.course.plan) {
            const auto size = watchlists::sizeOf(
                *told.course.plan,
                watchlists::inCurrencyOf(desk_.work().now().terms->plan, desk_.market().data(),
                                         *told.result.stock, desk_.focus().day()));
            shares = isMissing(size.shares)        ? 0.0
                     : told.course.plan->isHalfNow ? size.half
                                                   : size.shares;
        }
    }
    TradeDialog dialog(model_->index(*row, EntriesModel::Symbol).data().toString(), entry,
                       {desk_.focus().day(), told.result.price, shares}, isSale, this);
    if (dialog.exec() != QDialog::Accepted)
        return;
    const watchlists::Trade trade = dialog.trade();
    editEntry(entry, (isSale ? tr("Sold %1") : tr("Bought %1")).arg(text(entry.symbol)),
              [&](Entry& now) { (void)watchlists::addTrade(now, trade); });
}

/// The same for all that are chosen: the one after that of the first.
void ListsPlace::nextSign()
{
    const std::vector<Entry> chosen = chosenEntries();
    if (chosen.empty())
        return;
    const auto next =
        (static_cast<std::size_t>(chosen.front().page.sign) + 1) % watchlists::signs.size();
    editEntries(model_->shown(), chosen, tr("Sign %1 entries").arg(chosen.size()),
                [sign = watchlists::signs[next]](Entry& entry) { entry.page.sign = sign; });
}

/// Takes the chosen entries off the list, with the reason if the person has one to give.
void ListsPlace::takeOff()
{
    const std::vector<Entry> chosen = chosenEntries();
    const std::int64_t list = model_->list().id;
    if (chosen.empty() || !isByHand(list))
        return;
    const QString who =
        chosen.size() == 1
            ? model_->index(chosenRows().front(), EntriesModel::Symbol).data().toString()
            : tr("%1 stocks").arg(chosen.size());
    bool isMeant = false;
    const QString reason = QInputDialog::getText(this, tr("Take %1 off the list").arg(who),
                                                 tr("Why it leaves (may stay empty):"),
                                                 QLineEdit::Normal, {}, &isMeant)
                               .trimmed();
    if (!isMeant)
        return;
    const market::MarketPtr market =
        desk_.market().isOpen() ? desk_.market().evaluator()->marketPtr() : nullptr;
    const Day day = market ? desk_.focus().day() : dayOf(QDate::currentDate());
    desk_.work().edit(tr("Take %1 off the list").arg(who), [&](Work& work) {
        watchlists::Watchlist* left = work.editList(list);
        for (const Entry& entry : chosen)
            if (const auto place = left ? placeOfEntry(*left, entry) : std::nullopt)
                watchlists::takeOff(*left, *place, market.get(), day, utf8(reason));
    });
}

void ListsPlace::moveEntries(int by)
{
    const std::vector<int> rows = chosenRows();
    if (rows.empty() || !isByHand(model_->list().id))
        return;
    if (order_->sortColumn() >= 0)
        return Q_EMIT desk_.noticed(
            tr("The entries are sorted by a column. Click its head until the mark is gone, or "
               "keep the order that is shown; then they can be moved."));
    const auto [first, last] = std::ranges::minmax(rows);
    const int before = by < 0 ? first - 1 : last + 2;
    if (before >= 0 && before <= model_->rowCount())
        moveEntriesTo(rows, before);
}

/// Rows of the model, to stand before another row.
void ListsPlace::moveEntriesTo(const std::vector<int>& rows, int before)
{
    const std::vector<std::size_t> places(rows.begin(), rows.end());
    desk_.work().edit(
        tr("Move %1 entries").arg(rows.size()), [&, list = model_->list().id](Work& work) {
            watchlists::Watchlist* now = work.editList(list);
            if (now && now->entries.size() == model_->list().entries.size())
                watchlists::moveEntries(*now, places, static_cast<std::size_t>(before));
        });
}

void ListsPlace::keepOrder()
{
    if (!isByHand(model_->list().id) || order_->sortColumn() < 0)
        return;
    std::vector<double> places(static_cast<std::size_t>(model_->rowCount()));
    for (int row = 0; row < order_->rowCount(); ++row)
        places[static_cast<std::size_t>(order_->mapToSource(order_->index(row, 0)).row())] = row;
    desk_.work().edit(tr("Sort the list"), [&, list = model_->list().id](Work& work) {
        watchlists::Watchlist* now = work.editList(list);
        if (now && now->entries.size() == places.size())
            watchlists::sortEntries(*now, places, true);
    });
    entries_->sortByColumn(-1, Qt::AscendingOrder);
}

bool ListsPlace::isByHand(std::int64_t list)
{
    const watchlists::Watchlist* found = desk_.work().now().findList(list);
    if (found && found->isKeptByRule())
        Q_EMIT desk_.noticed(tr("“%1” is kept by the screen “%2”: copy it onto a list of your own "
                                "to change who is on it.")
                                 .arg(text(found->name), text(found->head.screen)));
    return found && !found->isKeptByRule();
}

/// Entries of one list onto another, with all that was written to them.
void ListsPlace::transfer(std::int64_t to, const DraggedEntries& dragged, bool isMove)
{
    if (to == dragged.list || !isByHand(to) || (isMove && !isByHand(dragged.list)))
        return;
    const market::MarketPtr market =
        desk_.market().isOpen() ? desk_.market().evaluator()->marketPtr() : nullptr;
    const Work& before = desk_.work().now();
    const watchlists::Watchlist* from = before.findList(dragged.list);
    std::vector<Entry> entries;
    for (const Entry& entry : dragged.entries) {
        // Of a list that a screen keeps: as it is shown.
        const watchlists::Watchlist* source =
            from && from->isKeptByRule() && model_->list().id == from->id ? &model_->list() : from;
        if (const auto place = source ? placeOfEntry(*source, entry) : std::nullopt) {
            entries.push_back(source->entries[*place]);
            if (entries.back().source.empty())
                entries.back().source = source->name;
        }
    }
    const QString name = text(before.findList(to)->name);
    desk_.work().edit(
        (isMove ? tr("Move %1 onto “%2”") : tr("Copy %1 onto “%2”")).arg(entries.size()).arg(name),
        [&](Work& work) {
            watchlists::append(*work.editList(to), entries, market.get());
            watchlists::Watchlist* left = isMove ? work.editList(dragged.list) : nullptr;
            for (const Entry& entry : dragged.entries)
                if (const auto place = left ? placeOfEntry(*left, entry) : std::nullopt)
                    left->entries.erase(left->entries.begin() +
                                        static_cast<std::ptrdiff_t>(*place));
        });
    Q_EMIT desk_.told(isMove ? tr("%1 moved onto “%2”").arg(entries.size()).arg(name)
                             : tr("%1 copied onto “%2”").arg(entries.size()).arg(name));
}

/// By the number that a list has among those that are kept by hand, as in Weigh.
void ListsPlace::transferTo(std::size_t number, bool isMove)
{
    const auto lists = library::listsByHand(desk_.work().now());
    if (number < lists.size())
        transfer(lists[number]->id, {model_->list().id, chosenEntries()}, isMove);
}

void ListsPlace::take(std::int64_t list, const QMimeData& dropped, bool isMove)
{
    if (const auto dragged = entriesIn(dropped))
        transfer(list, *dragged, isMove);
    else if (isByHand(list))
        putOnto(list, dropped.text());
}

void ListsPlace::dragEnterEvent(QDragEnterEvent* event)
{
    if (desk_.market().isOpen() && shownList() != 0 && event->mimeData()->hasText())
        event->acceptProposedAction();
}

/// Beside the names, a drop is for the list that is shown.
void ListsPlace::dropEvent(QDropEvent* event)
{
    event->acceptProposedAction();
    take(shownList(), *event->mimeData(), event->modifiers() & Qt::ShiftModifier);
}

/// What is dropped among the entries: those of this list are moved there, others come to the list.
bool ListsPlace::eventFilter(QObject* watched, QEvent* event)
{
    if (watched != entries_->viewport() || event->type() != QEvent::Drop)
        return Place::eventFilter(watched, event);
    auto* drop = static_cast<QDropEvent*>(event);
    const auto dragged = entriesIn(*drop->mimeData());
    drop->setDropAction(Qt::CopyAction); // the work changes, not the view
    drop->accept();
    if (!dragged || dragged->list != model_->list().id) {
        take(shownList(), *drop->mimeData(), drop->modifiers() & Qt::ShiftModifier);
        return true;
    }
    if (order_->sortColumn() >= 0 || !isByHand(dragged->list))
        return true;
    std::vector<int> rows;
    for (const Entry& entry : dragged->entries)
        if (const auto place = placeOfEntry(model_->list(), entry))
            rows.push_back(static_cast<int>(*place));
    const QPoint at = drop->position().toPoint();
    const QModelIndex under = entries_->indexAt(at);
    const bool isBelow = under.isValid() && at.y() > entries_->visualRect(under).center().y();
    moveEntriesTo(rows, !under.isValid() ? model_->rowCount() : under.row() + (isBelow ? 1 : 0));
    return true;
}

/// Puts the stocks that a text names for certain at the end of a list.
void ListsPlace::putOnto(std::int64_t list, const QString& symbols)
{
    if (!desk_.market().isOpen())
        return;
    findDropped(desk_, this, symbols,
                [this, list](const std::vector<std::size_t>& stocks) { putOnto(list, stocks); });
}

void ListsPlace::putOnto(std::int64_t list, const std::vector<std::size_t>& stocks)
{
    if (stocks.empty())
        return Q_EMIT desk_.noticed(tr("No symbol of this market was in what was dropped."));
    const std::string source = utf8(tr("dropped, %1").arg(shortDayText(desk_.focus().day())));
    desk_.work().edit(tr("Put %1 on a list").arg(stocks.size()), [&](Work& work) {
        if (watchlists::Watchlist* to = work.editList(list))
            watchlists::putOnto(*to, desk_.market().data(), stocks, desk_.focus().day(), {},
                                source);
    });
}

} // namespace sieve::app
