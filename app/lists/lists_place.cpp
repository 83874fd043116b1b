#include "app/lists/lists_place.h"

#include "app/chart/chart_view.h"
#include "app/desk/desk.h"
#include "app/desk/drawing_shelf.h"
#include "app/desk/dropped_stocks.h"
#include "app/desk/focus.h"
#include "app/desk/in_hand.h"
#include "app/desk/navigator.h"
#include "app/desk/open_market.h"
#include "app/desk/set_up_shelf.h"
#include "app/desk/workbench.h"
#include "app/lists/entries_model.h"
#include "app/lists/former_entries_dialog.h"
#include "app/look/look.h"
#include "app/parts/actions.h"
#include "app/parts/empty_page.h"
#include "app/parts/figure_table.h"
#include "app/parts/number_text.h"
#include "app/parts/remembered.h"
#include "app/wall/chart_wall.h"
#include "core/watchlists/stocks.h"

#include <QAction>
#include <QDragEnterEvent>
#include <QHeaderView>
#include <QInputDialog>
#include <QLabel>
#include <QListWidget>
#include <QMimeData>
#include <QSplitter>
#include <QTableView>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>

namespace sieve::app {

namespace {

constexpr int idRole = Qt::UserRole;

} // namespace

/// The names of the lists; stocks can be dropped on one.
class ListNames : public QListWidget {
public:
    ListNames()
    {
        setDragDropMode(DropOnly);
        setDragDropOverwriteMode(true); // on a name, not between two
    }
    std::function<void(std::int64_t, const QString&)> taken;

protected:
    QStringList mimeTypes() const override { return {QStringLiteral("text/plain")}; }
    bool dropMimeData(int row, const QMimeData* dropped, Qt::DropAction) override
    {
        const QListWidgetItem* list = item(row);
        if (list)
            taken(list->data(idRole).toLongLong(), dropped->text());
        return list != nullptr;
    }
    Qt::DropActions supportedDropActions() const override { return Qt::CopyAction; }
};

ListsPlace::ListsPlace(Desk& desk, QWidget* parent)
    : Place(parent), desk_(desk), entriesAsker_(this, Asker::About::Else), chartAsker_(this),
      names_(new ListNames), title_(new QLabel), entries_(new QTableView),
      model_(new EntriesModel(this)), chart_(new PriceChart),
      drawings_(new DrawingShelf(desk, chart_->view())), empty_(new EmptyPage),
      wall_(new ChartWall(desk, QStringLiteral("lists.wall")))
{
    auto* split = new QSplitter;
    remember(split, "lists.split");
    split->setChildrenCollapsible(false);
    split->setHandleWidth(8);
    split->addWidget(makeSide());
    split->addWidget(makeMiddle());
    split->setSizes({190, 990});
    split->setStretchFactor(0, 0);
    split->setStretchFactor(1, 1);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(12, 8, 12, 8);
    layout->addWidget(split);

    for (Asker* asker : {&entriesAsker_, &chartAsker_})
        connect(asker, &Asker::failed, &desk_, &Desk::noticed);
    connect(&desk_.work(), &Workbench::listsChanged, this, &ListsPlace::showLists);
    connect(&desk_.market(), &OpenMarket::opened, this, [this] {
        model_->setEntries({}, {}, nullptr); // its stocks are numbers of the former market
        refresh();
    });
    connect(&desk_.focus(), &Focus::dayChanged, this, &ListsPlace::refresh);
    connect(&desk_.focus(), &Focus::selectionChanged, this, &ListsPlace::showSelection);
    connect(&desk_.navigator(), &Navigator::listWanted, this, [this](qint64 id) {
        for (int row = 0; row < names_->count(); ++row)
            if (names_->item(row)->data(idRole).toLongLong() == id)
                names_->setCurrentRow(row);
    });
    connect(names_, &QListWidget::currentRowChanged, this, &ListsPlace::showEntries);
    connect(model_, &EntriesModel::reasonChanged, this,
            [this](const watchlists::Entry& entry, const QString& reason) {
                editEntry(tr("Give a reason for %1").arg(text(entry.symbol)), model_->list().id,
                          entry, [&](watchlists::Watchlist& list, std::size_t place) {
                              list.entries[place].reason = utf8(reason);
                          });
            });
    names_->taken = [this](std::int64_t list, const QString& symbols) { putOnto(list, symbols); };
    setAcceptDrops(true);
    connect(empty_, &EmptyPage::stepTaken, this, [this] { desk_.navigator().show(PlaceId::Sift); });
    showLists();
}

QWidget* ListsPlace::makeSide()
{
    auto* side = new QWidget;
    names_->setAccessibleName(tr("Watchlists"));
    names_->setContextMenuPolicy(Qt::ActionsContextMenu);
    auto* add = new QToolButton;
    add->setText(plainTitleOf(ActionId::NewList));
    connect(add, &QToolButton::clicked, makeAction(this, ActionId::NewList, [this] { addList(); }),
            &QAction::trigger);
    makeAction(names_, ActionId::RenameList, [this] { renameList(); });
    makeAction(names_, ActionId::RemoveList, [this] { removeList(); });
    left_ = makeAction(names_, ActionId::ShowLeft, [this] { showLeft(); });
    auto* layout = new QVBoxLayout(side);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(4);
    auto* head = new QHBoxLayout;
    auto* label = new QLabel(tr("Lists"));
    label->setFont(fontOf(Weight::SemiBold, 1.15));
    head->addWidget(label, 1);
    head->addWidget(add);
    layout->addLayout(head);
    layout->addWidget(names_, 1);
    return side;
}

QWidget* ListsPlace::makeMiddle()
{
    title_->setFont(fontOf(Weight::SemiBold, 1.15));
    entries_->setModel(model_);
    entries_->setAccessibleName(tr("Entries"));
    prepareTable(entries_);
    remember(entries_->horizontalHeader(), "lists.entries");
    entries_->setEditTriggers(QAbstractItemView::EditKeyPressed |
                              QAbstractItemView::SelectedClicked);
    makeAction(entries_, ActionId::TakeOffList, [this] { removeEntry(); });
    connect(entries_->selectionModel(), &QItemSelectionModel::currentRowChanged, this,
            [this](const QModelIndex& now) {
                if (const auto stock = now.isValid() ? model_->stock(now.row()) : std::nullopt)
                    desk_.focus().select(*stock);
            });
    connect(entries_, &QTableView::doubleClicked, this, [this](const QModelIndex& at) {
        if (at.column() != EntriesModel::Reason)
            desk_.navigator().show(PlaceId::Weigh);
    });
    auto* chartSheet = new QFrame;
    chartSheet->setObjectName(QStringLiteral("sheet"));
    auto* chartLayout = new QVBoxLayout(chartSheet);
    chartLayout->setContentsMargins(1, 1, 1, 1);
    chartLayout->addWidget(chart_);
    auto* split = new QSplitter(Qt::Vertical);
    remember(split, "lists.chart");
    remember(&chart_->view(), "lists.chart_set_up");
    connect(&chart_->view(), &ChartView::setUpChanged, this, [this](bool needsFigures) {
        if (needsFigures)
            askChart();
    });
    connect(&desk_.work(), &Workbench::drawingsChanged, this, [this] {
        if (charts::asksForDrawings(chart_->view().setUp()))
            askChart();
    });
    connect(&chart_->view(), &ChartView::failed, &desk_, &Desk::noticed);
    new SetUpShelf(desk_, chart_->view());
    split->setChildrenCollapsible(false);
    split->setHandleWidth(8);
    split->addWidget(entries_);
    split->addWidget(chartSheet);
    split->setSizes({280, 300});
    split->setObjectName(QStringLiteral("entriesAndChart"));
    auto* middle = new QWidget;
    auto* layout = new QVBoxLayout(middle);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(6);
    layout->addWidget(title_);
    layout->addWidget(split, 1);
    layout->addWidget(wall_, 1);
    layout->addWidget(empty_, 1);
    connect(wall_, &ChartWall::decided, this, [this](std::size_t stock, watchlists::Mark mark) {
        markInHand(desk_, stock, mark, title_->text());
    });
    onWall_ = makeAction(this, ActionId::ShowListWall, [this] {
        showEntries();
        if (wall_->isVisible())
            wall_->setFocus();
    });
    onWall_->setCheckable(true);
    return middle;
}

std::int64_t ListsPlace::shownList() const
{
    const QListWidgetItem* item = names_->currentItem();
    return item ? item->data(idRole).toLongLong() : 0;
}

void ListsPlace::showLists()
{
    const std::int64_t former = shownList();
    {
        const QSignalBlocker quiet(names_);
        names_->clear();
        for (const auto& list : desk_.work().now().lists) {
            auto* item = new QListWidgetItem(
                QStringLiteral("%1  (%2)").arg(text(list->name)).arg(list->entries.size()));
            item->setData(idRole, static_cast<qlonglong>(list->id));
            item->setFlags(item->flags() | Qt::ItemIsDropEnabled);
            names_->addItem(item);
            if (list->id == former)
                names_->setCurrentItem(item);
        }
        if (!names_->currentItem() && names_->count() > 0)
            names_->setCurrentRow(0);
    }
    showEntries();
}

const Shared<watchlists::Watchlist>* ListsPlace::shown() const
{
    const auto& lists = desk_.work().now().lists;
    const auto found = std::ranges::find_if(
        lists, [id = shownList()](const auto& list) { return list->id == id; });
    return found == lists.end() ? nullptr : &*found;
}

void ListsPlace::showEntries()
{
    const Shared<watchlists::Watchlist>* list = shown();
    const bool hasEntries = list && !(*list)->entries.empty();
    const bool isOnWall = onWall_->isChecked();
    findChild<QSplitter*>(QStringLiteral("entriesAndChart"))->setVisible(hasEntries && !isOnWall);
    wall_->setVisible(hasEntries && isOnWall);
    empty_->setVisible(!hasEntries);
    title_->setText(list ? text((*list)->name) : QString());
    left_->setEnabled(list && !(*list)->former.empty());
    if (!hasEntries) {
        empty_->setTexts(
            !list ? tr("There is no watchlist yet") : tr("This list is empty"),
            tr("What you keep in Weigh comes here, with the day, the price then and your "
               "reason, and stays until you take it off."),
            tr("Go to Sift"));
        entriesAsker_.stop();
        model_->setEntries({}, {}, nullptr);
        return;
    }
    const auto market = desk_.market().isOpen() ? desk_.market().evaluator()->marketPtr() : nullptr;
    entriesAsker_.ask(
        [list = *list, market, day = desk_.focus().day()](const Progress& progress) {
            return resultsOf(list->entries, market.get(), day, progress);
        },
        [this, list = *list, market](std::vector<watchlists::EntryResult> results) {
            setEntries(list, std::move(results), market);
        });
}

void ListsPlace::setEntries(const Shared<watchlists::Watchlist>& list,
                            std::vector<watchlists::EntryResult> results, market::MarketPtr market)
{
    model_->setEntries(list, std::move(results), std::move(market));
    showWall();
    fitColumns(entries_);
    entries_->horizontalHeader()->setSectionResizeMode(EntriesModel::Reason, QHeaderView::Stretch);
    showSelection();
}

/// The stocks of the list that the market has.
void ListsPlace::showWall()
{
    if (!onWall_->isChecked() || !desk_.market().isOpen())
        return;
    std::vector<std::size_t> stocks;
    for (int row = 0; row < model_->rowCount(); ++row)
        if (const auto stock = model_->stock(row))
            stocks.push_back(*stock);
    wall_->show(
        {desk_.market().evaluator(), desk_.focus().day(), std::move(stocks), title_->text()});
}

void ListsPlace::showSelection()
{
    if (!desk_.market().isOpen())
        return;
    const int row = desk_.focus().selected() ? model_->rowOf(*desk_.focus().selected()) : -1;
    {
        const QSignalBlocker quiet(entries_->selectionModel());
        if (row < 0)
            entries_->clearSelection();
        else if (entries_->currentIndex().row() !=
                 row) // else the cell in use stays the current one
            entries_->setCurrentIndex(model_->index(row, 0));
        entries_->viewport()->update();
    }
    askChart();
}

void ListsPlace::bringUp()
{
    showEntries(); // and with them the chosen one's chart
}

void ListsPlace::showEvent(QShowEvent* event)
{
    Place::showEvent(event);
    showSelection(); // what is selected stays: to look at the lists is no choice
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
    putOnto(shownList(), event->mimeData()->text());
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

void ListsPlace::askChart()
{
    if (!isVisible() || !desk_.market().isOpen() || !desk_.focus().selected() ||
        model_->rowCount() == 0)
        return;
    chartAsker_.ask(
        [evaluator = desk_.market().evaluator(), book = desk_.work().nameBook(),
         lists = desk_.work().now().lists, stock = *desk_.focus().selected(),
         day = desk_.focus().day(), setUp = chart_->view().setUp()](const Progress& progress) {
            return charts::makeChart(*evaluator, book->names(), setUp, stock, day, progress, lists);
        },
        [this, market = desk_.market().evaluator()->marketPtr(), stock = *desk_.focus().selected(),
         day = desk_.focus().day()](charts::Chart shown) {
            chart_->setChart(std::make_shared<const charts::Chart>(std::move(shown)));
            drawings_->setStock(market, stock, day);
        });
}

QString ListsPlace::askName(const QString& title, const QString& initial)
{
    bool isAccepted = false;
    const QString name =
        QInputDialog::getText(this, title, tr("Name:"), QLineEdit::Normal, initial, &isAccepted)
            .trimmed();
    const bool isTaken = std::ranges::any_of(desk_.work().now().lists, [&](const auto& list) {
        return text(list->name) == name && name != initial;
    });
    if (isTaken)
        Q_EMIT desk_.noticed(tr("There is a list “%1” already; choose another name.").arg(name));
    return isAccepted && !isTaken ? name : QString();
}

void ListsPlace::addList()
{
    const QString name = askName(tr("New list"), {});
    if (name.isEmpty())
        return;
    desk_.work().edit(tr("Add the list “%1”").arg(name), [&](Work& work) {
        work.lists.emplace_back(watchlists::Watchlist{desk_.work().newId(), utf8(name), {}, {}});
    });
    names_->setCurrentRow(names_->count() - 1);
}

void ListsPlace::renameList()
{
    const std::int64_t id = shownList();
    const watchlists::Watchlist* list = desk_.work().now().findList(id);
    if (!list)
        return;
    const QString name = askName(tr("Rename the list"), text(list->name));
    if (!name.isEmpty())
        desk_.work().edit(tr("Rename a list"),
                          [&](Work& work) { work.editList(id)->name = utf8(name); });
}

void ListsPlace::removeList()
{
    const std::int64_t id = shownList();
    desk_.work().edit(tr("Remove a list"), [id](Work& work) {
        std::erase_if(work.lists, [id](const auto& list) { return list->id == id; });
    });
}

/// Takes the chosen entry off the list, with the reason if the person has one to give.
void ListsPlace::removeEntry()
{
    const QModelIndex at = entries_->currentIndex();
    if (!at.isValid())
        return;
    const std::int64_t list = model_->list().id;
    const watchlists::Entry entry = model_->entry(at.row());
    const QString symbol = at.siblingAtColumn(EntriesModel::Symbol).data().toString();
    bool isMeant = false;
    const QString reason = QInputDialog::getText(this, tr("Take %1 off the list").arg(symbol),
                                                 tr("Why it leaves (may stay empty):"),
                                                 QLineEdit::Normal, {}, &isMeant)
                               .trimmed();
    if (!isMeant)
        return;
    const market::MarketPtr market =
        desk_.market().isOpen() ? desk_.market().evaluator()->marketPtr() : nullptr;
    const Day day = market ? desk_.focus().day() : dayOf(QDate::currentDate());
    editEntry(tr("Take %1 off the list").arg(symbol), list, entry,
              [&](watchlists::Watchlist& left, std::size_t place) {
                  takeOff(left, place, market.get(), day, utf8(reason));
              });
}

/// Changes an entry where it stands by now; nothing when it is gone meanwhile.
void ListsPlace::editEntry(const QString& what, std::int64_t list, const watchlists::Entry& entry,
                           const std::function<void(watchlists::Watchlist&, std::size_t)>& change)
{
    desk_.work().edit(what, [&](Work& work) {
        const watchlists::Watchlist* now = work.findList(list);
        if (!now)
            return;
        const auto place = std::ranges::find(now->entries, entry) - now->entries.begin();
        if (place < std::ssize(now->entries))
            change(*work.editList(list), static_cast<std::size_t>(place));
    });
}

void ListsPlace::showLeft()
{
    if (const auto* list = shown())
        FormerEntriesDialog(desk_, *list, this).exec();
}

} // namespace sieve::app
