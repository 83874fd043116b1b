#include "app/sift/sift_place.h"

#include "app/frame/desk.h"
#include "app/look/look.h"
#include "app/parts/expression_edit.h"
#include "app/parts/figure_table.h"
#include "app/parts/number_text.h"
#include "app/parts/table_foot.h"
#include "app/parts/table_model.h"
#include "app/sift/column_chooser.h"
#include "app/sift/criterion_finder.h"
#include "app/sift/days_view.h"
#include "app/sift/lens.h"
#include "app/sift/near_miss_table.h"
#include "app/sift/out_and_in.h"
#include "app/sift/screen_head.h"
#include "app/sift/stack_view.h"
#include "app/sift/why_view.h"
#include "core/screens/universe.h"

#include <QAction>
#include <QApplication>
#include <QButtonGroup>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QInputDialog>
#include <QLabel>
#include <QMenu>
#include <QSplitter>
#include <QStackedWidget>
#include <QTabWidget>
#include <QTableView>
#include <QToolButton>
#include <algorithm>
#include <map>

namespace sieve::app {

SiftPlace::SiftPlace(Desk& desk, QWidget* parent)
    : Place(parent), desk_(desk), asker_(this), percentAsker_(this), stack_(new StackView),
      head_(new ScreenHead(desk, [this] { return draft_; })), summary_(new QLabel),
      outAndIn_(new OutAndIn(desk, this)), results_(new QTableView), model_(new TableModel(this)),
      lensButtons_(new QButtonGroup(this)), lenses_(new QStackedWidget), evidence_(new QTabWidget),
      nearMisses_(new NearMissTable), why_(new WhyView(desk)), days_(new DaysView(desk))
{
    buildResults();

    auto* left = new QWidget;
    auto* leftLayout = new QVBoxLayout(left);
    leftLayout->setContentsMargins(0, 0, 0, 0);
    leftLayout->setSpacing(4);
    leftLayout->addWidget(head_);
    leftLayout->addWidget(stack_, 1);

    QWidget* right = buildRight();
    auto* split = new QSplitter;
    split->setChildrenCollapsible(false);
    split->addWidget(left);
    split->addWidget(right);
    split->setSizes({520, 660});
    split->setStretchFactor(0, 0);
    split->setStretchFactor(1, 1);
    split->setHandleWidth(8);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(12, 8, 12, 8);
    layout->addWidget(split);

    connect(stack_, &StackView::changed, this, [this] {
        draft_ = stack_->screen();
        head_->tell();
        refresh();
    });
    connect(stack_, &StackView::committed, this, &SiftPlace::commit);
    connect(stack_, &StackView::trayWanted, this, &SiftPlace::fillTray);
    connect(stack_, &StackView::percentWanted, this, &SiftPlace::askPercent);
    connect(stack_->universeMenu(), &QMenu::aboutToShow, this, &SiftPlace::fillUniverseMenu);
    auto* finder = new CriterionFinder(desk_, stack_->newLine(), [this] { return draft_; });
    connect(finder, &CriterionFinder::criterionTaken, stack_, &StackView::add);
    connect(&desk_, &Desk::screenChanged, this, &SiftPlace::takeScreen);
    connect(head_, &ScreenHead::asTextWanted, stack_, &StackView::setAsText);
    connect(head_, &ScreenHead::begun, stack_, &StackView::focusNewLine);
    connect(outAndIn_, &OutAndIn::trayWanted, this, &SiftPlace::takeInHand);
    // A criterion may ask for a list or a screen by its name.
    connect(&desk_, &Desk::savedScreensChanged, this, &SiftPlace::refresh);
    connect(&desk_, &Desk::listsChanged, this, &SiftPlace::refresh);
    connect(&desk_, &Desk::marketOpened, this, &SiftPlace::refresh);
    connect(&desk_, &Desk::dayChanged, this, &SiftPlace::refresh);
    connect(&desk_, &Desk::selectionChanged, this, &SiftPlace::showSelection);
    for (Asker* asker : {&asker_, &percentAsker_})
        connect(asker, &Asker::failed, &desk_, &Desk::noticed);

    auto* take = new QAction(this);
    take->setShortcut(QKeySequence(Qt::CTRL | Qt::Key_Return));
    take->setShortcutContext(Qt::WidgetWithChildrenShortcut);
    connect(take, &QAction::triggered, this, &SiftPlace::fillTray);
    addAction(take);
    if (desk_.isWorkLoaded())
        takeScreen();
}

void SiftPlace::buildResults()
{
    results_->setModel(model_);
    results_->setAccessibleName(tr("Results"));
    prepareTable(results_);
    results_->horizontalHeader()->setSectionsClickable(true);
    connect(results_->horizontalHeader(), &QHeaderView::sectionClicked, this, &SiftPlace::sortBy);
    connect(results_->selectionModel(), &QItemSelectionModel::currentRowChanged, this,
            [this](const QModelIndex& now) {
                if (now.isValid())
                    select(now.row());
            });
    connect(results_, &QTableView::activated, this, [this](const QModelIndex& at) {
        select(at.row());
        Q_EMIT desk_.placeWanted(QStringLiteral("weigh"));
    });
}

QWidget* SiftPlace::buildRight()
{
    auto* table = new QWidget;
    auto* tableLayout = new QVBoxLayout(table);
    tableLayout->setContentsMargins(0, 0, 0, 0);
    tableLayout->setSpacing(0);
    tableLayout->addWidget(results_, 1);
    tableLayout->addWidget(new TableFoot(results_));
    addLens(tr("Table"), tr("What passes, a row each"), table);
    for (const LensEntry& entry : lenses()) {
        Lens* lens = entry.make(desk_);
        addLens(entry.title, entry.tip, lens);
        connect(lens, &Lens::trayWanted, this, &SiftPlace::takeInHand);
        connect(lens, &Lens::boundWanted, stack_, &StackView::setBound);
    }
    lensButtons_->button(0)->setChecked(true);
    connect(lensButtons_, &QButtonGroup::idClicked, this, [this](int lens) {
        lenses_->setCurrentIndex(lens);
        showLens();
    });

    evidence_->setDocumentMode(true);
    evidence_->addTab(nearMisses_, tr("Near misses"));
    evidence_->addTab(why_, tr("Why"));
    evidence_->addTab(days_, tr("Days"));
    connect(nearMisses_, &NearMissTable::chosen, &desk_, &Desk::select);

    auto* columns = new QToolButton;
    columns->setText(tr("Columns…"));
    columns->setToolTip(tr("Choose the columns of the results"));
    connect(columns, &QToolButton::clicked, this, &SiftPlace::chooseColumns);
    auto* outAndIn = new QToolButton;
    outAndIn->setText(tr("Out and in"));
    outAndIn->setToolTip(tr("Copy or save what passes; take symbols from any text"));
    outAndIn->setPopupMode(QToolButton::InstantPopup);
    outAndIn->setMenu(outAndIn_);
    addActions(outAndIn_->actions()); // so that their keys work while the menu is closed
    auto* bar = new QHBoxLayout;
    bar->setSpacing(2);
    for (QAbstractButton* button : lensButtons_->buttons())
        bar->addWidget(button);
    bar->addStretch(1);
    bar->addWidget(columns);
    bar->addWidget(outAndIn);
    auto* halves = new QSplitter(Qt::Vertical);
    halves->setChildrenCollapsible(false);
    halves->addWidget(lenses_);
    halves->addWidget(evidence_);
    halves->setSizes({400, 170});
    halves->setStretchFactor(0, 1);
    halves->setStretchFactor(1, 0);
    halves->setHandleWidth(6);
    auto* right = new QWidget;
    auto* layout = new QVBoxLayout(right);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(4);
    layout->addWidget(summary_);
    layout->addLayout(bar);
    layout->addWidget(halves, 1);
    return right;
}

void SiftPlace::addLens(const QString& title, const QString& tip, QWidget* page)
{
    auto* button = new QToolButton;
    button->setText(title);
    button->setToolTip(tip);
    button->setCheckable(true);
    lensButtons_->addButton(button, lenses_->count());
    lenses_->addWidget(page);
}

/// Only the lens that can be seen does its work.
void SiftPlace::showLens()
{
    if (auto* lens = qobject_cast<Lens*>(lenses_->currentWidget()); lens && sifted_->table)
        lens->show(sifted_);
}

void SiftPlace::showEvent(QShowEvent* event)
{
    Place::showEvent(event);
    if (!focusWidget())
        stack_->focusNewLine();
}

void SiftPlace::bringUp()
{
    if (!desk_.hasMarket() || draft_.name.empty())
        return;
    asker_.ask(
        [evaluator = desk_.evaluator(), book = desk_.nameBook(), screen = draft_, day = desk_.day(),
         keys = sortKeys_](const Progress& progress) {
            const expressions::Names names = book->names();
            auto sifted = std::make_shared<Sifted>();
            sifted->screen = screen;
            sifted->market = evaluator->marketPtr();
            sifted->run = screens::run(screen, names, *evaluator, day, progress);
            auto table = std::make_shared<screens::ResultTable>(
                screens::makeTable(sifted->run.matches, screen.columns, names, *evaluator, day));
            if (std::ranges::all_of(keys, [&](const screens::SortKey& key) {
                    return key.column < table->columns.size();
                }))
                screens::sortBy(*table, keys, evaluator->market().texts());
            sifted->table = std::move(table);
            return SiftedPtr(sifted);
        },
        [this](const SiftedPtr& sifted) { show(sifted); });
}

void SiftPlace::show(const SiftedPtr& sifted)
{
    sifted_ = sifted;
    outAndIn_->show(sifted);
    stack_->setRun(sifted->run);
    {
        const QSignalBlocker quiet(results_->selectionModel());
        const int columnsBefore = model_->columnCount();
        model_->setTable(sifted->table, sifted->market);
        if (model_->columnCount() != columnsBefore || results_->property("sized").isNull()) {
            fitColumns(results_);
            results_->setProperty("sized", model_->rowCount() > 0 ? QVariant(true) : QVariant());
        }
    }
    nearMisses_->show(sifted);
    evidence_->setTabText(0,
                          sifted->run.guidance.nearMisses.empty()
                              ? tr("Near misses")
                              : tr("Near misses  %1").arg(sifted->run.guidance.nearMisses.size()));
    why_->setScreen(sifted->screen);
    days_->setScreen(sifted->screen);
    tellSummary();
    showLens();
    showSelection();
}

void SiftPlace::tellSummary()
{
    const screens::ScreenRun& run = sifted_->run;
    summary_->setText(
        (run.passing == 1 ? tr("%1 of %2 stocks passes on %3") : tr("%1 of %2 stocks pass on %3"))
            .arg(run.passing)
            .arg(run.universe)
            .arg(shortDayText(run.day)));
}

void SiftPlace::commit(const QString& what)
{
    draft_ = stack_->screen();
    desk_.edit(what, [this](Work& work) { work.screen = draft_; });
}

void SiftPlace::takeScreen()
{
    const screens::Screen& screen = desk_.work().screen;
    if (draft_ == screen)
        return head_->tell();
    if (draft_.name != screen.name) // the columns of another screen are not those sorted by
        forgetOrder();
    draft_ = screen;
    head_->tell();
    stack_->setScreen(draft_);
    results_->setProperty("sized", {});
    refresh();
}

void SiftPlace::fillUniverseMenu()
{
    QMenu* menu = stack_->universeMenu();
    menu->clear();
    if (!desk_.hasMarket())
        return;
    const auto all = screens::universeChoices(desk_.market(), *desk_.nameBook());
    std::map<std::string, QMenu*> groups;
    for (const screens::UniverseChoice& choice : all) {
        QMenu*& group = groups[choice.group];
        if (!group)
            group = menu->addMenu(text(choice.group));
        QAction* action = group->addAction(text(choice.title));
        action->setCheckable(true);
        action->setChecked(screens::holdsCondition(draft_.universe, choice.condition));
        connect(action, &QAction::triggered, this, [this, choice, all] {
            stack_->setUniverse(text(screens::withChoice(draft_.universe, choice, all)));
        });
    }
    menu->addSeparator();
    connect(menu->addAction(tr("Every stock")), &QAction::triggered, this,
            [this] { stack_->setUniverse(QString()); });
}

void SiftPlace::forgetOrder()
{
    sortKeys_.clear();
    results_->horizontalHeader()->setSortIndicatorShown(false);
}

void SiftPlace::chooseColumns()
{
    ColumnChooser chooser(draft_.columns, this);
    if (chooser.exec() != QDialog::Accepted)
        return;
    forgetOrder();
    desk_.edit(tr("Choose columns"),
               [&chooser](Work& work) { work.screen.columns = chooser.columns(); });
}

/// A click sorts by a column, or turns its order round; with Shift it decides among those that are
/// equal in the columns before.
void SiftPlace::sortBy(int column)
{
    using screens::Order;
    const auto place = static_cast<std::size_t>(column);
    const auto was = std::ranges::find(sortKeys_, place, &screens::SortKey::column);
    const Order order = was != sortKeys_.end() && was->order == Order::Descending
                            ? Order::Ascending
                            : Order::Descending;
    const bool isAdded = QApplication::keyboardModifiers() & Qt::ShiftModifier;
    if (isAdded && was != sortKeys_.end())
        was->order = order;
    else if (isAdded)
        sortKeys_.push_back({place, order});
    else
        sortKeys_ = {{place, order}};
    const screens::SortKey& first = sortKeys_.front();
    results_->horizontalHeader()->setSortIndicatorShown(true);
    results_->horizontalHeader()->setSortIndicator(
        static_cast<int>(first.column),
        first.order == Order::Ascending ? Qt::AscendingOrder : Qt::DescendingOrder);
    refresh();
}

void SiftPlace::fillTray()
{
    if (sifted_->run.matches.empty())
        return;
    takeInHand(symbolsOf(*sifted_));
    Q_EMIT desk_.placeWanted(QStringLiteral("weigh"));
}

void SiftPlace::takeInHand(const std::vector<std::string>& symbols)
{
    desk_.edit(tr("Take %1 in hand").arg(symbols.size()),
               [&, source = utf8(tr("%1, %2").arg(text(draft_.name), shortDayText(desk_.day())))](
                   Work& work) { work.tray.fill(symbols, source); });
    desk_.selectSymbol(symbols.front());
}

/// Sets a limit at a percentile of the stocks that arrive at its criterion.
void SiftPlace::askPercent(std::size_t criterion, std::size_t limit)
{
    bool isAccepted = false;
    const double percent = QInputDialog::getDouble(
        this, tr("Limit by percentile"),
        tr("Of the stocks that arrive here, so many in a hundred stand below the limit:"), 50.0,
        0.0, 100.0, 1, &isAccepted);
    if (!isAccepted)
        return;
    percentAsker_.ask(
        [evaluator = desk_.evaluator(), book = desk_.nameBook(), screen = draft_, day = desk_.day(),
         criterion, limit, percent](const Progress&) {
            return screens::figureAtPercent(screen, book->names(), *evaluator, day, criterion,
                                            limit, percent);
        },
        [this, criterion, limit](std::optional<double> figure) {
            if (figure)
                stack_->setBound(criterion, limit, *figure);
        });
}

void SiftPlace::select(int row)
{
    desk_.select(model_->instrumentAt(row));
}

void SiftPlace::showSelection()
{
    stack_->setChosen(desk_.selected());
    nearMisses_->setChosen(desk_.selected());
    const int row = desk_.selected() ? model_->rowOf(*desk_.selected()) : -1;
    const QSignalBlocker quiet(results_->selectionModel());
    if (row < 0)
        results_->clearSelection();
    else if (results_->currentIndex().row() != row) // else the cell in use stays the current one
        results_->setCurrentIndex(model_->index(row, 0));
    results_->viewport()->update();
}

} // namespace sieve::app
