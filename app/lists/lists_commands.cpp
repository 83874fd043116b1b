// What is done to lists.

#include "app/desk/desk.h"
#include "app/desk/focus.h"
#include "app/desk/in_hand.h"
#include "app/desk/navigator.h"
#include "app/desk/open_market.h"
#include "app/lists/combine_dialog.h"
#include "app/lists/former_entries_dialog.h"
#include "app/lists/list_dialog.h"
#include "app/lists/list_tree.h"
#include "app/lists/lists_place.h"
#include "app/lists/moves_dialog.h"
#include "app/lists/read_list_dialog.h"
#include "app/lists/terms_dialog.h"
#include "app/parts/actions.h"
#include "app/parts/number_text.h"
#include "core/storage/file_aside.h"
#include "core/watchlists/list_sets.h"
#include "core/watchlists/list_sheet.h"

#include <QAction>
#include <QApplication>
#include <QClipboard>
#include <QFileDialog>
#include <QFileInfo>
#include <QLabel>
#include <QToolButton>
#include <algorithm>
#include <stdexcept>

namespace sieve::app {

void ListsPlace::addListActions()
{
    connect(findChild<QToolButton*>(QStringLiteral("newList")), &QToolButton::clicked,
            makeAction(this, ActionId::NewList, [this] { addList(); }), &QAction::trigger);
    makeAction(this, ActionId::TradingTerms, [this] { editTerms(); });
    archive_ = makeAction(this, ActionId::ShowArchive, [this] { showLists(); });
    archive_->setCheckable(true);
    makeAction(lists_, ActionId::EditList, [this] { editList(); });
    makeAction(lists_, ActionId::CombineLists, [this] { combineLists(); });
    makeAction(lists_, ActionId::CopyList, [this] { copyList(); });
    makeAction(lists_, ActionId::ListInHand, [this] { takeListInHand(); });
    makeAction(lists_, ActionId::SaveList, [this] { saveList(); });
    makeAction(this, ActionId::ReadList, [this] { readList(); });
    makeAction(lists_, ActionId::PasteOnto, [this] { paste(); });
    makeAction(lists_, ActionId::ListUp, [this] { moveList(-1); });
    makeAction(lists_, ActionId::ListDown, [this] { moveList(1); });
    left_ = makeAction(lists_, ActionId::ShowLeft, [this] { showLeft(); });
    makeAction(lists_, ActionId::ShowMoves, [this] { showMoves(); });
    makeAction(lists_, ActionId::ArchiveList, [this] { archiveList(); });
    makeAction(lists_, ActionId::RemoveList, [this] { removeList(); });
    connect(lists_, &ListTree::dropped, this,
            [this](qint64 list, const QMimeData* dropped, bool isMove) {
                take(list, *dropped, isMove);
            });
    connect(lists_, &ListTree::listMoved, this, &ListsPlace::placeList);
}

void ListsPlace::addList()
{
    watchlists::Watchlist empty;
    if (lists_->folderChosen() != ListTree::archiveName())
        empty.head.folder = utf8(lists_->folderChosen());
    ListDialog dialog(desk_.work().now(), empty, this);
    if (dialog.exec() != QDialog::Accepted)
        return;
    watchlists::Watchlist list = dialog.list();
    const std::int64_t id = list.id = desk_.work().newId();
    if (desk_.work().edit(tr("Add the list “%1”").arg(text(list.name)),
                          [&](Work& work) { work.lists.emplace_back(std::move(list)); }))
        lists_->choose(id);
}

/// Name, folder, keeper and columns; entries stay as they are by then.
void ListsPlace::editList()
{
    const Shared<watchlists::Watchlist>* list = shown();
    if (!list)
        return;
    ListDialog dialog(desk_.work().now(), **list, this);
    if (dialog.exec() != QDialog::Accepted)
        return;
    const watchlists::Watchlist chosen = dialog.list();
    desk_.work().edit(tr("Change the list “%1”").arg(text(chosen.name)), [&](Work& work) {
        if (watchlists::Watchlist* now = work.editList(chosen.id)) {
            now->name = chosen.name;
            now->head = chosen.head;
        }
    });
}

QString ListsPlace::freeName(const QString& wanted) const
{
    QString name = wanted;
    const auto isTaken = [&] {
        return std::ranges::any_of(desk_.work().now().lists,
                                   [&](const auto& list) { return list->name == utf8(name); });
    };
    for (int number = 2; isTaken(); ++number)
        name = tr("%1 (%2)").arg(wanted).arg(number);
    return name;
}

void ListsPlace::combineLists()
{
    const Shared<watchlists::Watchlist>* list = shown();
    if (!list || !isByHand((*list)->id))
        return;
    const Work work = desk_.work().now(); // as the dialog shows it
    const market::MarketPtr market =
        desk_.market().isOpen() ? desk_.market().evaluator()->marketPtr() : nullptr;
    CombineDialog dialog(work, (*list)->id, market.get(), this);
    if (dialog.exec() != QDialog::Accepted)
        return;
    const QString name = dialog.newName();
    const std::int64_t into = name.isEmpty() ? (*list)->id : desk_.work().newId();
    desk_.work().edit(tr("Combine lists"), [&](Work& now) {
        if (!name.isEmpty())
            now.lists.emplace_back(
                watchlists::Watchlist{into, utf8(name), {}, {}, {.folder = (*list)->head.folder}});
        if (watchlists::Watchlist* to = now.editList(into))
            to->entries = dialog.entries();
    });
    lists_->choose(into);
}

/// With all entries as they are shown, so that one of a screen's list becomes the person's.
void ListsPlace::copyList()
{
    const Shared<watchlists::Watchlist>* list = shown();
    if (!list)
        return;
    watchlists::Watchlist copy = **list;
    if (copy.isKeptByRule() && model_->list().id == copy.id)
        copy.entries = model_->list().entries;
    copy.id = desk_.work().newId();
    copy.name = utf8(freeName(tr("%1, copy").arg(text(copy.name))));
    copy.former.clear();
    copy.head.screen.clear();
    copy.head.isArchived = false;
    const std::int64_t id = copy.id;
    desk_.work().edit(tr("Copy the list “%1”").arg(text((*list)->name)),
                      [&](Work& work) { work.lists.emplace_back(std::move(copy)); });
    lists_->choose(id);
}

void ListsPlace::archiveList()
{
    const Shared<watchlists::Watchlist>* list = shown();
    if (!list)
        return;
    const bool isArchived = (*list)->head.isArchived;
    const std::int64_t id = (*list)->id;
    desk_.work().edit((isArchived ? tr("Bring “%1” back from the archive") : tr("Archive “%1”"))
                          .arg(text((*list)->name)),
                      [&](Work& work) {
                          if (watchlists::Watchlist* now = work.editList(id))
                              now->head.isArchived = !isArchived;
                      });
}

void ListsPlace::removeList()
{
    const Shared<watchlists::Watchlist>* list = shown();
    if (!list)
        return;
    desk_.work().edit(
        tr("Remove the list “%1”").arg(text((*list)->name)), [id = (*list)->id](Work& work) {
            std::erase_if(work.lists, [id](const auto& each) { return each->id == id; });
        });
}

/// Past the next list of its folder.
void ListsPlace::moveList(int by)
{
    const std::int64_t id = shownList();
    const auto& lists = desk_.work().now().lists;
    const auto own = std::ranges::find_if(lists, [id](const auto& each) { return each->id == id; });
    if (own == lists.end())
        return;
    const auto isBeside = [&](const auto& each) {
        return each->head.folder == (*own)->head.folder &&
               each->head.isArchived == (*own)->head.isArchived;
    };
    std::ptrdiff_t at = own - lists.begin() + by;
    while (at >= 0 && at < std::ssize(lists) && !isBeside(lists[static_cast<std::size_t>(at)]))
        at += by;
    if (at < 0 || at >= std::ssize(lists))
        return;
    desk_.work().edit(tr("Move a list"), [from = own - lists.begin(), at](Work& work) {
        const auto moved = work.lists[static_cast<std::size_t>(from)];
        work.lists.erase(work.lists.begin() + from);
        work.lists.insert(work.lists.begin() + at, moved);
    });
}

/// Into a folder, before another list of it or at its end.
void ListsPlace::placeList(std::int64_t list, const QString& folder, std::int64_t before)
{
    if (list == before)
        return;
    const bool isArchive = folder == ListTree::archiveName();
    desk_.work().edit(tr("Move a list"), [&](Work& work) {
        const auto own =
            std::ranges::find_if(work.lists, [list](const auto& each) { return each->id == list; });
        if (own == work.lists.end())
            return;
        Shared<watchlists::Watchlist> moved = *own;
        if (moved->head.isArchived != isArchive)
            moved.edit().head.isArchived = isArchive;
        if (!isArchive && moved->head.folder != utf8(folder))
            moved.edit().head.folder = utf8(folder);
        work.lists.erase(own);
        const auto to = std::ranges::find_if(
            work.lists, [before](const auto& each) { return each->id == before; });
        work.lists.insert(to, std::move(moved));
    });
}

void ListsPlace::takeListInHand()
{
    if (!desk_.market().isOpen() || !shown())
        return;
    const QString name = text((*shown())->name);
    std::vector<std::string> symbols;
    for (int row = 0; row < order_->rowCount(); ++row)
        if (const auto stock = model_->stock(order_->mapToSource(order_->index(row, 0)).row()))
            symbols.push_back(
                market::symbolOn(desk_.market().data().instrument(*stock), desk_.focus().day()));
    if (symbols.empty())
        return Q_EMIT desk_.noticed(tr("This market has no stock of the list."));
    if (takeInHand(desk_, this, symbols, tr("Take “%1” in hand").arg(name), name))
        desk_.navigator().show(PlaceId::Weigh);
}

/// As it is shown; the ending of the file's name says in which form.
void ListsPlace::readList()
{
    const QString file = QFileDialog::getOpenFileName(
        this, tr("Read a list"), {}, tr("Tables (*.csv *.tsv *.txt *.xlsx *.json);;All files (*)"));
    if (!file.isEmpty())
        readTable(QFileInfo(file).completeBaseName(),
                  [path = std::filesystem::path(file.toStdString())] {
                      return imports::readTable(path);
                  });
}

/// A copied table with heads comes with all its columns; of another text the symbols count.
void ListsPlace::paste()
{
    if (!isByHand(shownList()))
        return;
    const QString copied = QApplication::clipboard()->text();
    const std::string firstLine = utf8(copied.section(QLatin1Char('\n'), 0, 0));
    const auto head = imports::tableOfText(firstLine);
    if (!head || !watchlists::hasListHeads(*head))
        return putOnto(shownList(), copied);
    readTable(tr("Pasted"), [text = utf8(copied)] { return imports::tableOfText(text); });
}

void ListsPlace::readTable(const QString& name, const std::function<Result<imports::Table>()>& read)
{
    const auto evaluator = desk_.market().evaluator();
    filesAsker_.ask(
        [read, market = evaluator ? evaluator->marketPtr() : nullptr,
         day = desk_.focus().day()](const Progress&) {
            const auto table = read();
            if (!table)
                throw std::runtime_error(sentence(table.error()));
            return watchlists::readList(*table, market.get(), day);
        },
        [this, name](const watchlists::ListRead& given) { offerRead(name, given); });
}

void ListsPlace::offerRead(const QString& name, const watchlists::ListRead& read)
{
    ReadListDialog dialog(desk_.work().now(), freeName(name), read, shownList(), this);
    if (dialog.exec() != QDialog::Accepted)
        return;
    const market::Market* market = desk_.market().isOpen() ? &desk_.market().data() : nullptr;
    const std::int64_t id = dialog.list() ? *dialog.list() : desk_.work().newId();
    desk_.work().edit(
        tr("Read %1 stocks from “%2”").arg(read.entries.size()).arg(name), [&](Work& work) {
            if (!dialog.list())
                work.lists.emplace_back(watchlists::Watchlist{id, utf8(dialog.newName()), {}});
            if (watchlists::Watchlist* list = work.editList(id))
                watchlists::append(*list, read.entries, market);
        });
    lists_->choose(id);
}

void ListsPlace::saveList()
{
    const Shared<watchlists::Watchlist>* list = shown();
    if (!list || model_->list().id != (*list)->id)
        return;
    QString name = text((*list)->name);
    name.replace(u'/', u'-');
    const QString file = QFileDialog::getSaveFileName(
        this, tr("Save the list"), name + QStringLiteral(".csv"),
        tr("CSV (*.csv);;Workbook (*.xlsx);;JSON (*.json);;Symbols (*.txt)"));
    if (file.isEmpty())
        return;
    filesAsker_.ask(
        [shown = model_->shownNow(), file](const Progress&) {
            const std::filesystem::path path(file.toStdString());
            const exports::Sheet sheet = watchlists::sheetOf(shown->told, shown->market.get());
            if (path.extension() == ".txt") {
                std::string symbols;
                for (const auto& row : sheet.rows)
                    symbols += std::get<std::string>(row.front()) + '\n';
                storage::writeWhole(path, symbols);
            } else {
                exports::writeSheet(path, sheet);
            }
            return sheet.rows.size();
        },
        [this, file](std::size_t rows) {
            Q_EMIT desk_.told(tr("%1 entries saved in %2").arg(rows).arg(file));
        });
}

void ListsPlace::showLeft()
{
    if (const auto* list = shown())
        FormerEntriesDialog(
            desk_, (*list)->isKeptByRule() ? Shared<watchlists::Watchlist>(model_->list()) : *list,
            this)
            .exec();
}

void ListsPlace::showMoves()
{
    if (!desk_.market().isOpen() || !shown() || model_->list().id != shownList())
        return;
    const market::MarketPtr market = desk_.market().evaluator()->marketPtr();
    const watchlists::ListTold& told = model_->shown().told;
    const auto days = watchlists::sessionsBefore(*market, told.day);
    auto* dialog = new MovesDialog(
        text((*shown())->name),
        told.stays ? *told.stays : watchlists::staysByHand(told.list, *market, days), market, this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    connect(&desk_.market(), &OpenMarket::opened, dialog, &QDialog::close);
    connect(dialog, &MovesDialog::stockChosen, this,
            [this](std::size_t stock) { desk_.focus().select(stock); });
    dialog->show();
}

void ListsPlace::editTerms()
{
    const Work& work = desk_.work().now();
    TermsDialog dialog(*work.terms, *work.marketBook,
                       desk_.market().isOpen() ? desk_.market().data().currency() : std::string(),
                       this);
    if (dialog.exec() == QDialog::Accepted)
        desk_.work().edit(tr("Change account or limits"),
                          [&](Work& now) { now.terms = dialog.terms(); });
}

} // namespace sieve::app
