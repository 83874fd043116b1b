#include "app/lists/lists_place.h"

#include "app/chart/chart_view.h"
#include "app/desk/desk.h"
#include "app/desk/drawing_shelf.h"
#include "app/desk/focus.h"
#include "app/desk/in_hand.h"
#include "app/desk/library_keeper.h"
#include "app/desk/market_reader.h"
#include "app/desk/navigator.h"
#include "app/desk/open_market.h"
#include "app/desk/plan_shelf.h"
#include "app/desk/set_up_shelf.h"
#include "app/lists/agenda_view.h"
#include "app/lists/entry_page.h"
#include "app/lists/entry_words.h"
#include "app/lists/list_tree.h"
#include "app/lists/plan_bar.h"
#include "app/lists/review_view.h"
#include "app/look/look.h"
#include "app/look/tone.h"
#include "app/parts/actions.h"
#include "app/parts/empty_page.h"
#include "app/parts/figure_table.h"
#include "app/parts/number_text.h"
#include "app/parts/own_widths.h"
#include "app/parts/remembered.h"
#include "app/wall/chart_wall.h"
#include "core/library/pictures.h"
#include "core/watchlists/list_sets.h"

#include <QAction>
#include <QHeaderView>
#include <QLabel>
#include <QPainter>
#include <QSplitter>
#include <QStyledItemDelegate>
#include <QTableView>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>

namespace sieve::app {

namespace {

/// The sign and the plan of an entry, painted.
class EntryDelegate : public QStyledItemDelegate {
public:
    using QStyledItemDelegate::QStyledItemDelegate;

    void paint(QPainter* painter, const QStyleOptionViewItem& option,
               const QModelIndex& index) const override
    {
        if (option.state & QStyle::State_Selected)
            painter->fillRect(option.rect, option.palette.highlight());
        if (const QVariant bar = index.data(planBarRole); bar.isValid())
            paintPlanBar(*painter, option.rect, bar.value<PlanBar>());
        if (const QVariant sign = index.data(signRole); sign.isValid())
            paintSign(*painter, option.rect, static_cast<watchlists::Sign>(sign.toInt()));
    }
    QSize sizeHint(const QStyleOptionViewItem&, const QModelIndex& index) const override
    {
        constexpr int signWidth = 20;
        constexpr int planWidth = 110;
        constexpr int height = 20;
        return {index.column() == EntriesModel::Plan ? planWidth : signWidth, height};
    }
};

/// The columns that a set of that name shows; none where there is none.
std::vector<std::string> columnsNamed(const Work& work, const std::string& name)
{
    for (const auto* sets : {&*work.columnSets, &screens::readyColumnSets()})
        for (const screens::ColumnSet& set : *sets)
            if (set.name == name && !name.empty())
                return set.columns;
    return {};
}

/// All that is asked of a list, to be answered beside the window's thread.
struct ListJob {
    std::shared_ptr<engine::Evaluator> evaluator; ///< null: no market is open
    screens::NameBookPtr book;
    Shared<watchlists::Watchlist> list;
    Shared<watchlists::TradingTerms> terms;
    Shared<std::vector<Shared<watchlists::Verdict>>> verdicts;
    std::shared_ptr<const conditions::Reading> reading;
    std::vector<std::string> columns;
    Day day = Day::fromSerial(0);

    ShownList answer(const Progress& progress) const
    {
        ShownList shown;
        if (!evaluator) {
            shown.told.list = *list;
            shown.told.entries.resize(list->entries.size());
            return shown;
        }
        shown.market = evaluator->marketPtr();
        shown.told =
            watchlists::tell(*list, *evaluator, book->names(), {*terms, *verdicts}, day, progress);
        if (reading)
            shown.call = watchlists::marketCallOn(*reading, *terms, day);
        std::vector<std::size_t> stocks;
        for (const watchlists::EntryTold& told : shown.told.entries)
            if (told.result.stock)
                stocks.push_back(*told.result.stock);
        if (!columns.empty())
            shown.figures =
                screens::makeTable(stocks, columns, book->names(), *evaluator, day, {}, progress);
        return shown;
    }
};

} // namespace

ListsPlace::ListsPlace(Desk& desk, QWidget* parent)
    : Place(parent), desk_(desk), entriesAsker_(this, Asker::About::Else), chartAsker_(this),
      filesAsker_(this, Asker::About::Else), lists_(new ListTree), title_(new QLabel),
      told_(new QLabel), entries_(new QTableView), model_(new EntriesModel(this)),
      order_(new EntriesOrder(this)), chart_(new PriceChart),
      drawings_(new DrawingShelf(desk, chart_->view())),
      plans_(new PlanShelf(desk, chart_->view(), PlanShelf::Of::List)), page_(new EntryPage),
      empty_(new EmptyPage), read_(new QSplitter),
      wall_(new ChartWall(desk, QStringLiteral("lists.wall"))), agenda_(new AgendaView(desk)),
      review_(new ReviewView(desk))
{
    auto* split = new QSplitter;
    remember(split, "lists.split");
    split->setChildrenCollapsible(false);
    split->setHandleWidth(8);
    split->addWidget(makeSide());
    split->addWidget(makeMiddle());
    split->setSizes({180, 1000});
    split->setStretchFactor(0, 0);
    split->setStretchFactor(1, 1);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(12, 8, 12, 8);
    layout->addWidget(split);
    page_->setPicturePath([this](const std::string& name) {
        return text(library::picturePath(desk_.keeper().file(), name).string());
    });
    setAcceptDrops(true);
    addListActions();
    addEntryActions();
    listen();
    showLists();
}

void ListsPlace::listen()
{
    for (Asker* asker : {&entriesAsker_, &chartAsker_, &filesAsker_})
        connect(asker, &Asker::failed, &desk_, &Desk::noticed);
    Workbench& work = desk_.work();
    connect(&work, &Workbench::listsChanged, this, &ListsPlace::showLists);
    for (const auto signal :
         {&Workbench::termsChanged, &Workbench::verdictsChanged, &Workbench::columnSetsChanged,
          &Workbench::screensChanged, &Workbench::fieldsChanged, &Workbench::drawingsChanged})
        connect(&work, signal, this, &ListsPlace::refresh);
    connect(&desk_.conditions(), &MarketReader::changed, this, &ListsPlace::refresh);
    connect(&desk_.market(), &OpenMarket::opened, this, [this] {
        // its stocks are numbers of the former market
        model_->setShown(std::make_shared<const ShownList>());
        page_->show(nullptr, -1);
        refresh();
    });
    connect(&desk_.focus(), &Focus::dayChanged, this, &ListsPlace::refresh);
    connect(&desk_.focus(), &Focus::selectionChanged, this, &ListsPlace::showSelection);
    connect(&desk_.navigator(), &Navigator::listWanted, this, [this](qint64 id) {
        const watchlists::Watchlist* wanted = desk_.work().now().findList(id);
        if (wanted && wanted->head.isArchived && !archive_->isChecked())
            archive_->trigger();
        lists_->choose(id);
    });
    connect(lists_, &ListTree::listChosen, this, &ListsPlace::showEntries);
    connect(empty_, &EmptyPage::stepTaken, this, [this] { desk_.navigator().show(PlaceId::Sift); });
}

QWidget* ListsPlace::makeSide()
{
    auto* side = new QWidget;
    lists_->setContextMenuPolicy(Qt::ActionsContextMenu);
    auto* add = new QToolButton;
    add->setText(plainTitleOf(ActionId::NewList));
    add->setObjectName(QStringLiteral("newList"));
    auto* layout = new QVBoxLayout(side);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(4);
    auto* head = new QHBoxLayout;
    auto* label = new QLabel(tr("Lists"));
    label->setFont(fontOf(Weight::SemiBold, 1.15));
    head->addWidget(label, 1);
    head->addWidget(add);
    layout->addLayout(head);
    layout->addWidget(lists_, 1);
    return side;
}

QWidget* ListsPlace::makeMiddle()
{
    title_->setFont(fontOf(Weight::SemiBold, 1.15));
    title_->setTextFormat(Qt::PlainText);
    told_->setTextFormat(Qt::PlainText);
    told_->setWordWrap(true);
    setTone(told_, Tone::Soft);
    order_->setSourceModel(model_);
    order_->setDynamicSortFilter(true);
    entries_->setModel(order_);
    entries_->setAccessibleName(tr("Entries"));
    prepareTable(entries_);
    entries_->setSelectionMode(QAbstractItemView::ExtendedSelection);
    entries_->setItemDelegateForColumn(EntriesModel::Sign, new EntryDelegate(entries_));
    entries_->setItemDelegateForColumn(EntriesModel::Plan, new EntryDelegate(entries_));
    entries_->setSortingEnabled(true);
    entries_->sortByColumn(-1, Qt::AscendingOrder); // as the person put them
    entries_->horizontalHeader()->setSortIndicatorClearable(true);
    entries_->setEditTriggers(QAbstractItemView::EditKeyPressed |
                              QAbstractItemView::SelectedClicked);
    entries_->setDragDropMode(QAbstractItemView::DragDrop);
    entries_->setDragDropOverwriteMode(false);
    entries_->setDropIndicatorShown(true);
    entries_->viewport()->installEventFilter(this);
    remember(entries_->horizontalHeader(), "lists.entries_2");
    connect(entries_->selectionModel(), &QItemSelectionModel::currentRowChanged, this, [this] {
        const auto row = chosenRow();
        page_->show(model_->shownNow(), row.value_or(-1));
        isChoosing_ = true; // the table goes on with its own selection
        if (const auto stock = row ? model_->stock(*row) : std::nullopt)
            desk_.focus().select(*stock);
        isChoosing_ = false;
    });
    connect(entries_, &QTableView::activated, this, [this](const QModelIndex& at) {
        if (!(at.flags() & Qt::ItemIsEditable))
            desk_.navigator().show(PlaceId::Weigh);
    });
    read_->setObjectName(QStringLiteral("entriesAndChart"));
    remember(read_, "lists.read");
    read_->setChildrenCollapsible(false);
    read_->setHandleWidth(8);
    read_->addWidget(entries_);
    read_->addWidget(makeRight());
    read_->setSizes({600, 390});
    read_->setStretchFactor(0, 1);
    read_->setStretchFactor(1, 1);
    auto* middle = new QWidget;
    auto* layout = new QVBoxLayout(middle);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(4);
    layout->addWidget(title_);
    layout->addWidget(told_);
    layout->addWidget(read_, 1);
    layout->addWidget(wall_, 1);
    layout->addWidget(agenda_, 1);
    layout->addWidget(review_, 1);
    layout->addWidget(empty_, 1);
    connect(wall_, &ChartWall::decided, this, [this](std::size_t stock, watchlists::Mark mark) {
        markInHand(desk_, stock, mark, title_->text());
    });
    addLens(onWall_, ActionId::ShowListWall, wall_);
    addLens(onAgenda_, ActionId::ShowAgenda, agenda_);
    addLens(onReview_, ActionId::ShowReview, review_);
    connect(agenda_, &AgendaView::stockChosen, this,
            [this](std::size_t stock) { desk_.focus().select(stock); });
    connect(review_, &ReviewView::stockChosen, this,
            [this](std::size_t stock) { desk_.focus().select(stock); });
    connect(
        review_, &ReviewView::wallWanted, this,
        [this](const std::vector<charts::MarkedDay>& cases, const QString& title) {
            std::vector<std::size_t> stocks; // a stock that came more than once has one chart
            for (const charts::MarkedDay& each : cases)
                if (std::ranges::find(stocks, each.stock) == stocks.end())
                    stocks.push_back(each.stock);
            onReview_->setChecked(false);
            review_->hide();
            wall_->show({desk_.market().evaluator(), desk_.focus().day(), stocks, title, cases});
            wall_->setVisible(true);
            wall_->setFocus();
        });
    return middle;
}

/// Its action shows it in place of the entries and of the other lenses; again brings the entries.
void ListsPlace::addLens(QAction*& action, ActionId id, QWidget* lens)
{
    action = makeAction(this, id, [this, &action, lens] {
        for (QAction* each : {onWall_, onAgenda_, onReview_})
            if (each != action)
                each->setChecked(false);
        showEntries();
        if (lens->isVisible())
            lens->setFocus();
    });
    action->setCheckable(true);
}

QWidget* ListsPlace::makeRight()
{
    const auto sheetOf = [](QWidget* inside) {
        auto* sheet = new QFrame;
        sheet->setObjectName(QStringLiteral("sheet"));
        auto* layout = new QVBoxLayout(sheet);
        layout->setContentsMargins(1, 1, 1, 1);
        layout->addWidget(inside);
        return sheet;
    };
    charts::SetUp small = charts::standardSetUp(); // the chart is small here
    small.panes.resize(std::min<std::size_t>(small.panes.size(), 2));
    chart_->view().setSetUp(small);
    remember(&chart_->view(), "lists.chart_set_up");
    connect(&chart_->view(), &ChartView::setUpChanged, this, [this](bool needsFigures) {
        if (needsFigures)
            askChart();
    });
    connect(&chart_->view(), &ChartView::failed, &desk_, &Desk::noticed);
    new SetUpShelf(desk_, chart_->view());
    auto* right = new QSplitter(Qt::Vertical);
    remember(right, "lists.chart_and_page");
    right->setChildrenCollapsible(false);
    right->setHandleWidth(8);
    right->addWidget(sheetOf(chart_));
    right->addWidget(sheetOf(page_));
    right->setSizes({300, 340});
    return right;
}

std::int64_t ListsPlace::shownList() const
{
    return lists_->chosen().value_or(0);
}

const Shared<watchlists::Watchlist>* ListsPlace::shown() const
{
    const auto& lists = desk_.work().now().lists;
    const auto found = std::ranges::find_if(
        lists, [id = shownList()](const auto& list) { return list->id == id; });
    return found == lists.end() ? nullptr : &*found;
}

std::optional<int> ListsPlace::chosenRow() const
{
    const QModelIndex at = order_->mapToSource(entries_->currentIndex());
    return at.isValid() ? std::optional(at.row()) : std::nullopt;
}

std::vector<int> ListsPlace::chosenRows() const
{
    std::vector<int> rows;
    for (int row = 0; row < order_->rowCount(); ++row)
        if (entries_->selectionModel()->isRowSelected(row))
            rows.push_back(order_->mapToSource(order_->index(row, 0)).row());
    return rows;
}

QStringList ListsPlace::categories() const
{
    QStringList categories;
    for (const auto& list : desk_.work().now().lists)
        for (const Entry& entry : list->entries)
            if (const QString category = text(entry.page.category);
                !category.isEmpty() && !categories.contains(category))
                categories << category;
    categories.sort(Qt::CaseInsensitive);
    return categories;
}

void ListsPlace::showLists()
{
    lists_->setLists(desk_.work().now().lists, archive_->isChecked());
    page_->setCategories(categories());
    refresh(); // the entries, once they can be seen
}

void ListsPlace::showEntries()
{
    const Shared<watchlists::Watchlist>* list = shown();
    const bool hasEntries = list && (!(*list)->entries.empty() || (*list)->isKeptByRule());
    const bool isOfAll = onAgenda_->isChecked() || onReview_->isChecked(); // of more than the list
    agenda_->setVisible(onAgenda_->isChecked());
    review_->setVisible(onReview_->isChecked());
    read_->setVisible(hasEntries && !onWall_->isChecked() && !isOfAll);
    wall_->setVisible(hasEntries && onWall_->isChecked());
    empty_->setVisible(!hasEntries && !isOfAll);
    if (onAgenda_->isChecked())
        agenda_->refresh(shownList());
    if (onReview_->isChecked())
        review_->refresh(shownList());
    title_->setText(onAgenda_->isChecked()   ? tr("Calendar")
                    : onReview_->isChecked() ? tr("Review")
                    : list                   ? text((*list)->name)
                                             : QString());
    told_->setVisible(hasEntries && !isOfAll);
    left_->setEnabled(list && (!(*list)->former.empty() || (*list)->isKeptByRule()));
    if (!hasEntries) {
        empty_->setTexts(
            !list ? tr("There is no watchlist yet") : tr("This list is empty"),
            tr("What you keep in Weigh comes here, with the day, the price then and your "
               "reason, and stays until you take it off. A list can also be kept by a screen: "
               "then it holds, on each day, all that pass it."),
            tr("Go to Sift"));
        entriesAsker_.stop();
        model_->setShown(std::make_shared<const ShownList>());
        page_->show(nullptr, -1);
        return;
    }
    const Work& work = desk_.work().now();
    const bool isOpen = desk_.market().isOpen();
    const ListJob job{isOpen ? desk_.market().evaluator() : nullptr,
                      desk_.work().nameBook(),
                      *list,
                      work.terms,
                      work.verdicts,
                      isOpen ? desk_.conditions().reading() : nullptr,
                      columnsNamed(work, (*list)->head.columns),
                      desk_.focus().day()};
    entriesAsker_.ask([job](const Progress& progress) { return job.answer(progress); },
                      [this](ShownList shown) { setShown(std::move(shown)); });
}

void ListsPlace::setShown(ShownList shown)
{
    // Rows are others now: who was chosen stays so by symbol and day.
    std::vector<Entry> chosen = chosenEntries();
    const bool isSameList = shown.told.list.id == model_->list().id;
    const int columns = model_->columnCount();
    model_->setShown(std::make_shared<const ShownList>(std::move(shown)));
    lists_->setCount(model_->list().id, model_->list().entries.size());
    tellList();
    showWall();
    const bool hasCome = hideEmptyColumns();
    if (hasCome || !isSameList || columns != model_->columnCount())
        fitColumns(entries_);
    showSelection();
    if (!isSameList || chosen.size() < 2)
        return;
    const QSignalBlocker quiet(entries_->selectionModel());
    for (int row = 0; row < order_->rowCount(); ++row) {
        const Entry& entry = model_->entry(order_->mapToSource(order_->index(row, 0)).row());
        const bool wasChosen = std::ranges::any_of(
            chosen, [&](const Entry& each) { return watchlists::isSameEntry(each, entry); });
        if (wasChosen)
            entries_->selectionModel()->select(
                order_->index(row, 0), QItemSelectionModel::Select | QItemSelectionModel::Rows);
    }
    entries_->viewport()->update();
}

/// What nobody wrote takes no room from the rest. Says whether a column came into view again, which
/// has no width of its own yet.
bool ListsPlace::hideEmptyColumns()
{
    const WidthFitting fitting(entries_->horizontalHeader()); // these widths are not the person's
    bool hasCome = false;
    constexpr int mayBeEmpty[] = {
        EntriesModel::Sign,   EntriesModel::Plan,    EntriesModel::State,
        EntriesModel::Review, EntriesModel::Tags,    EntriesModel::Category,
        EntriesModel::Held,   EntriesModel::Verdict, EntriesModel::NextReport};
    for (const int column : mayBeEmpty) {
        bool isEmpty = true;
        for (int row = 0; row < model_->rowCount() && isEmpty; ++row)
            isEmpty = !model_->sortKey(model_->index(row, column)).isValid();
        hasCome = hasCome || (!isEmpty && entries_->isColumnHidden(column));
        entries_->setColumnHidden(column, isEmpty);
    }
    return hasCome;
}

/// One line on the whole list: who keeps it, how many are in which state, what is held.
void ListsPlace::tellList()
{
    using watchlists::PlanState;
    const ShownList& shown = model_->shown();
    const watchlists::ListTold& told = shown.told;
    QStringList said;
    if (told.error)
        said << tr("The screen “%1” cannot be asked: %2")
                    .arg(text(told.list.head.screen), text(sentence(*told.error)));
    else if (told.list.isKeptByRule())
        said << tr("kept by the screen “%1”: %2 pass it")
                    .arg(text(told.list.head.screen))
                    .arg(told.entries.size());
    else
        said << tr("%1 entries").arg(told.entries.size());
    for (const auto& [state, count] : watchlists::statesOf(told))
        if (state != PlanState::None && state != PlanState::TargetReached)
            said << QStringLiteral("%1 %2").arg(count).arg(stateText(state));
        else if (state == PlanState::TargetReached)
            said << tr("%1 at a target").arg(count);
    const auto& reading = desk_.conditions().reading();
    double stance = missing;
    if (reading && shown.market)
        if (const auto bar = reading->market().barBy(told.day);
            bar && *bar < reading->stance.size())
            stance = reading->stance[*bar];
    if (shown.market)
        if (const QString held = holdingsText(told.holdings, desk_.work().now().terms->plan,
                                              shown.market->currency(), stance);
            !held.isEmpty())
            said << held;
    if (told.holdings.stocks > 0 && shown.call && shown.call->saysLeave)
        said << tr("the market says leave since %1").arg(shortDayText(*shown.call->since));
    told_->setText(said.join(QStringLiteral(" · ")));
    setTone(told_, told.error || (told.holdings.stocks > 0 && shown.call && shown.call->saysLeave)
                       ? Tone::Caution
                       : Tone::Soft);
    QStringList sectors;
    for (const watchlists::Holdings::Part& part : told.holdings.parts)
        sectors << tr("%1: worth %2, lost at the stops %3")
                       .arg(text(part.sector), numberText(part.worth, Unit::Plain, 0),
                            numberText(part.lossAtStops, Unit::Plain, 0));
    told_->setToolTip(sectors.join(QLatin1Char('\n')));
}

/// The stocks of the list that the market has, as they stand in the table.
void ListsPlace::showWall()
{
    if (!onWall_->isChecked() || !desk_.market().isOpen())
        return;
    std::vector<std::size_t> stocks;
    for (int row = 0; row < order_->rowCount(); ++row)
        if (const auto stock = model_->stock(order_->mapToSource(order_->index(row, 0)).row()))
            stocks.push_back(*stock);
    wall_->show(
        {desk_.market().evaluator(), desk_.focus().day(), std::move(stocks), title_->text()});
}

void ListsPlace::showSelection()
{
    if (!desk_.market().isOpen())
        return;
    const int row = desk_.focus().selected() ? model_->rowOf(*desk_.focus().selected()) : -1;
    if (!isChoosing_) {
        const QSignalBlocker quiet(entries_->selectionModel());
        const QModelIndex at =
            row < 0 ? QModelIndex() : order_->mapFromSource(model_->index(row, 0));
        if (!at.isValid())
            entries_->clearSelection();
        else if (entries_->currentIndex().row() != at.row())
            entries_->setCurrentIndex(at); // else the cell in use stays the current one
        else if (!entries_->selectionModel()->isRowSelected(at.row()))
            entries_->selectRow(at.row());
        entries_->viewport()->update();
    }
    page_->show(model_->shownNow(), row);
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
         day = desk_.focus().day(), list = shownList()](charts::Chart shown) {
            chart_->setChart(std::make_shared<const charts::Chart>(std::move(shown)));
            drawings_->setStock(market, stock, day);
            plans_->setTerms(desk_.work().now().terms->plan);
            plans_->setStock(market, stock, day, list);
            const int row = model_->rowOf(stock);
            plans_->setLevels(row < 0 ? std::nullopt : model_->told(row).course.plan);
        });
}

} // namespace sieve::app
