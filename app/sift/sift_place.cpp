#include "app/sift/sift_place.h"

#include "app/desk/desk.h"
#include "app/desk/field_shelf.h"
#include "app/desk/focus.h"
#include "app/desk/in_hand.h"
#include "app/desk/navigator.h"
#include "app/desk/open_market.h"
#include "app/desk/screen_shelf.h"
#include "app/desk/workbench.h"
#include "app/look/look.h"
#include "app/parts/expression_edit.h"
#include "app/parts/number_text.h"
#include "app/parts/remembered.h"
#include "app/sift/column_chooser.h"
#include "app/sift/columns_menu.h"
#include "app/sift/criterion_finder.h"
#include "app/sift/days_view.h"
#include "app/sift/followed_glance.h"
#include "app/sift/lens.h"
#include "app/sift/near_miss_table.h"
#include "app/sift/out_and_in.h"
#include "app/sift/results_view.h"
#include "app/sift/screen_head.h"
#include "app/sift/stack_view.h"
#include "app/sift/text_form.h"
#include "app/sift/why_view.h"
#include "core/screens/universe.h"

#include <QAction>
#include <QApplication>
#include <QButtonGroup>
#include <QDragEnterEvent>
#include <QHBoxLayout>
#include <QInputDialog>
#include <QLabel>
#include <QMenu>
#include <QMimeData>
#include <QSplitter>
#include <QStackedWidget>
#include <QTabWidget>
#include <QTimer>
#include <QToolButton>
#include <algorithm>
#include <map>

namespace sieve::app {

SiftPlace::SiftPlace(Desk& desk, QWidget* parent)
    : Place(parent), desk_(desk), asker_(this), percentAsker_(this), stack_(new StackView),
      head_(new ScreenHead(
          desk, [this] { return draft_; }, this)),
      summary_(new QLabel), outAndIn_(new OutAndIn(desk, this)), results_(new ResultsView(desk)),
      lensButtons_(new QButtonGroup(this)), lenses_(new QStackedWidget), evidence_(new QTabWidget),
      nearMisses_(new NearMissTable), why_(new WhyView(desk)), days_(new DaysView(desk)),
      followed_(new FollowedGlance(desk)), follow_(new QTimer(this))
{
    follow_->setSingleShot(true);
    connect(follow_, &QTimer::timeout, this, &SiftPlace::showRest);
    auto* left = new QWidget;
    auto* leftLayout = new QVBoxLayout(left);
    leftLayout->setContentsMargins(0, 0, 0, 0);
    leftLayout->setSpacing(4);
    leftLayout->addWidget(head_);
    leftLayout->addWidget(stack_, 1);
    leftLayout->addWidget(followed_);

    QWidget* right = buildRight();
    auto* split = new QSplitter;
    remember(split, "sift.split");
    remember(evidence_, "sift.evidence");
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
        setDraft(stack_->screen());
        head_->updateTexts();
        refresh();
    });
    connect(stack_, &StackView::committed, this, &SiftPlace::commit);
    connect(stack_, &StackView::trayWanted, this, &SiftPlace::fillTray);
    connect(stack_, &StackView::percentWanted, this, &SiftPlace::askPercent);
    connect(stack_->universeMenu(), &QMenu::aboutToShow, this, &SiftPlace::fillUniverseMenu);
    auto* finder = new CriterionFinder(desk_, stack_->newLine(), [this] { return draft_; });
    connect(finder, &CriterionFinder::criterionTaken, stack_, &StackView::add);
    connect(&desk_.work(), &Workbench::screenChanged, this, &SiftPlace::loadScreen);
    connect(head_, &ScreenHead::asTextWanted, stack_, &StackView::setAsText);
    connect(head_, &ScreenHead::begun, stack_, &StackView::focusNewLine);
    connect(outAndIn_, &OutAndIn::trayWanted, this, &SiftPlace::takeInHand);
    listenToResults();
    // A criterion may ask for a list or a screen by its name.
    connect(&desk_.screenShelf(), &ScreenShelf::changed, this, &SiftPlace::refresh);
    connect(&desk_.work(), &Workbench::listsChanged, this, &SiftPlace::refresh);
    connect(&desk_.work(), &Workbench::drawingsChanged, this, &SiftPlace::refresh);
    connect(&desk_.fieldShelf(), &FieldShelf::changed, this, &SiftPlace::loadFields);
    connect(&desk_.market(), &OpenMarket::opened, this, [this] {
        forgetResults();
        refresh();
    });
    connect(&desk_.focus(), &Focus::dayChanged, this, &SiftPlace::refresh);
    connect(&desk_.focus(), &Focus::selectionChanged, this, &SiftPlace::showSelection);
    for (Asker* asker : {&asker_, &percentAsker_})
        connect(asker, &Asker::failed, &desk_, &Desk::noticed);

    setFocusProxy(stack_->newLine()); // who comes by a key can type at once
    setAcceptDrops(true);
    makeAction(this, ActionId::TakeInHand, [this] { fillTray(); });
    makeAction(this, ActionId::NewCriterion, [this] { stack_->focusNewLine(); });
    if (desk_.work().isLoaded()) {
        loadScreen();
        loadFields();
    }
}

QWidget* SiftPlace::buildRight()
{
    addLens(ActionId::ShowTable, results_);
    for (const LensEntry& entry : lenses()) {
        Lens* lens = entry.make(desk_);
        addLens(entry.id, lens);
        connect(lens, &Lens::trayWanted, this, &SiftPlace::takeInHand);
        connect(lens, &Lens::boundWanted, this,
                [this](std::size_t criterion, std::size_t limit, double bound) {
                    if (sifted_->screen.criteria == draft_.criteria) // else it counts others
                        stack_->setBound(criterion, limit, bound);
                });
    }
    lensButtons_->button(0)->setChecked(true);
    connect(lensButtons_, &QButtonGroup::idClicked, this, [this](int lens) {
        lenses_->setCurrentIndex(lens);
        showLens();
        if (lens == 0)
            results_->enter();
        else
            lenses_->currentWidget()->setFocus();
    });

    const auto addPage = [this](ActionId id, const QString& title, QWidget* page) {
        evidence_->setTabToolTip(evidence_->addTab(page, title), tipOf(id));
        makeAction(this, id, [this, page] {
            evidence_->setCurrentWidget(page);
            page->setFocus();
        });
    };
    evidence_->setDocumentMode(true);
    addPage(ActionId::ShowNearMisses, tr("Near misses"), nearMisses_);
    addPage(ActionId::ShowWhy, tr("Why"), why_);
    addPage(ActionId::ShowDays, tr("Days"), days_);
    connect(nearMisses_, &NearMissTable::chosen, &desk_.focus(), &Focus::select);

    auto* columns = new ColumnsMenu(
        desk_,
        [this] {
            return screens::ColumnSet{"", draft_.columns, draft_.cells};
        },
        this);
    connect(columns, &ColumnsMenu::chosen, this,
            [this](const screens::ColumnSet& set) { setColumns(set.columns, set.cells); });
    connect(columns, &ColumnsMenu::editWanted, this, &SiftPlace::chooseColumns);
    const auto menuButton = [](const QString& title, const QString& tip, QMenu* menu) {
        auto* button = new QToolButton;
        button->setText(title);
        button->setToolTip(tip);
        button->setPopupMode(QToolButton::InstantPopup);
        button->setMenu(menu);
        return button;
    };
    auto* bar = new QHBoxLayout;
    bar->setSpacing(2);
    for (QAbstractButton* button : lensButtons_->buttons())
        bar->addWidget(button);
    bar->addStretch(1);
    bar->addWidget(menuButton(tr("Columns"),
                              tr("What the results show: sets of columns, or your own"), columns));
    bar->addWidget(menuButton(
        tr("Out and in"), tr("Copy or save what passes; take symbols from any text"), outAndIn_));
    auto* halves = new QSplitter(Qt::Vertical);
    remember(halves, "sift.halves");
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

void SiftPlace::addLens(ActionId id, QWidget* page)
{
    auto* button = new QToolButton;
    button->setText(plainTitleOf(id));
    button->setToolTip(tipOf(id));
    makeAction(this, id, [button] { button->click(); });
    button->setCheckable(true);
    remember(button, ("sift.lens" + std::to_string(lenses_->count())).c_str());
    lensButtons_->addButton(button, lenses_->count());
    lenses_->addWidget(page);
}

/// Only the lens that can be seen does its work.
void SiftPlace::showLens()
{
    if (auto* lens = qobject_cast<Lens*>(lenses_->currentWidget()); lens && sifted_->table)
        lens->show(sifted_);
}

void SiftPlace::dragEnterEvent(QDragEnterEvent* event)
{
    const bool isOwn = isAncestorOf(qobject_cast<QWidget*>(event->source()));
    if (!isOwn && event->mimeData()->hasText())
        event->acceptProposedAction();
}

void SiftPlace::dropEvent(QDropEvent* event)
{
    event->acceptProposedAction();
    // The one from whom it comes waits until the drop is over, and a dialog would keep it waiting.
    QMetaObject::invokeMethod(
        this, [this, dropped = event->mimeData()->text()] { outAndIn_->importText(dropped); },
        Qt::QueuedConnection);
}

void SiftPlace::bringUp()
{
    if (!desk_.market().isOpen() || draft_.name.empty())
        return;
    asker_.ask(
        [evaluator = desk_.market().evaluator(), book = desk_.work().nameBook(), screen = draft_,
         day = desk_.focus().day(), keys = results_->sortKeys()](const Progress& progress) {
            const language::Names names = book->names();
            auto sifted = std::make_shared<Sifted>();
            sifted->screen = screen;
            sifted->evaluator = evaluator;
            sifted->market = evaluator->marketPtr();
            sifted->run = screens::run(screen, names, *evaluator, day, progress);
            auto table = std::make_shared<screens::ResultTable>(
                screens::makeTable(sifted->run.matches, screen.columns, names, *evaluator, day,
                                   screen.cells, progress));
            if (std::ranges::all_of(keys, [&](const screens::SortKey& key) {
                    return key.column < table->columns.size();
                }))
                screens::sortBy(*table, keys, evaluator->market().texts());
            sifted->table = std::move(table);
            return SiftedPtr(sifted);
        },
        [this](const SiftedPtr& sifted) { show(sifted); });
}

/// Counts and ribbon are painted first: they answer the hand on a limit. What takes longer to lay
/// out follows when they can be seen.
void SiftPlace::show(const SiftedPtr& sifted)
{
    sifted_ = sifted;
    stack_->setRun(sifted->run);
    showSummary();
    follow_->start();
}

void SiftPlace::showRest()
{
    const SiftedPtr& sifted = sifted_;
    outAndIn_->show(sifted);
    results_->show(sifted);
    nearMisses_->show(sifted);
    evidence_->setTabText(0,
                          sifted->run.guidance.nearMisses.empty()
                              ? tr("Near misses")
                              : tr("Near misses  %1").arg(sifted->run.guidance.nearMisses.size()));
    why_->setScreen(sifted->screen);
    days_->setScreen(sifted->screen);
    followed_->setScreen(sifted->screen);
    showLens();
    showSelection();
}

/// Stocks are numbers of the market that was asked: none of a former one may be chosen in another.
void SiftPlace::forgetResults()
{
    auto nothing = std::make_shared<Sifted>();
    nothing->screen = draft_;
    nothing->evaluator = desk_.market().evaluator();
    nothing->market = nothing->evaluator->marketPtr();
    nothing->table = std::make_shared<const screens::ResultTable>();
    sifted_ = nothing;
    summary_->clear();
    follow_->stop();
    showRest();
}

/// The screen is another one from now on: an answer about the former one, whose criteria and limits
/// it counts, is not wanted any more.
void SiftPlace::setDraft(screens::Screen screen)
{
    if (draft_ == screen)
        return;
    asker_.stop();
    percentAsker_.stop();
    followed_->stop();
    draft_ = std::move(screen);
}

void SiftPlace::showSummary()
{
    const screens::ScreenRun& run = sifted_->run;
    summary_->setText(
        (run.passing == 1 ? tr("%1 of %2 stocks passes on %3") : tr("%1 of %2 stocks pass on %3"))
            .arg(countText(run.passing), countText(run.universe), shortDayText(run.day)));
}

void SiftPlace::commit(const QString& what, bool mayJoin)
{
    setDraft(stack_->screen());
    desk_.work().edit(
        what, [this](Work& work) { work.screen = draft_; },
        mayJoin ? Workbench::Step::MayJoin : Workbench::Step::Own);
}

void SiftPlace::loadScreen()
{
    const screens::Screen screen = *desk_.work().now().screen;
    if (draft_ == screen)
        return head_->updateTexts();
    if (draft_.name != screen.name) // the columns of another screen are not those sorted by
        results_->forgetOrder();
    setDraft(screen);
    head_->updateTexts();
    stack_->setScreen(draft_);
    refresh();
}

void SiftPlace::fillUniverseMenu()
{
    QMenu* menu = stack_->universeMenu();
    menu->clear();
    if (!desk_.market().isOpen())
        return;
    const auto all = screens::universeChoices(desk_.market().data(), *desk_.work().nameBook());
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

void SiftPlace::listenToResults()
{
    connect(results_, &ResultsView::sortWanted, this, &SiftPlace::refresh);
    connect(results_, &ResultsView::columnsEditWanted, this, &SiftPlace::chooseColumns);
    connect(results_, &ResultsView::columnsWanted, this,
            [this](const std::vector<std::string>& columns) {
                if (sifted_->screen.columns == draft_.columns) // else they are another screen's
                    setColumns(columns, draft_.cells);
            });
    connect(results_, &ResultsView::graphicWanted, this,
            [this](const std::string& column, language::CellGraphic graphic) {
                screens::CellGraphics cells = draft_.cells;
                cells[column] = graphic;
                setColumns(draft_.columns, cells);
            });
    connect(results_, &ResultsView::chosen, &desk_.focus(), &Focus::select);
    connect(results_, &ResultsView::opened, this, [this](std::size_t stock) {
        desk_.focus().select(stock);
        desk_.navigator().show(PlaceId::Weigh);
    });
    connect(results_, &ResultsView::selectionSizeChanged, this,
            [this] { stack_->setSelected(results_->severalSelected().size()); });
}

void SiftPlace::setColumns(const std::vector<std::string>& columns,
                           const screens::CellGraphics& cells)
{
    if (columns != draft_.columns)
        results_->forgetOrder();
    desk_.work().edit(tr("Choose columns"), [&](Work& work) {
        work.screen.edit().columns = columns;
        work.screen.edit().cells = cells;
    });
}

void SiftPlace::loadFields()
{
    stack_->textForm().setVocabulary(desk_.fieldShelf().all()->vocabulary());
    refresh();
}

void SiftPlace::chooseColumns()
{
    ColumnChooser chooser(draft_.columns, draft_.cells, desk_.fieldShelf().all()->vocabulary(),
                          this);
    if (chooser.exec() == QDialog::Accepted)
        setColumns(chooser.columns(), chooser.cells());
}

void SiftPlace::fillTray()
{
    if (sifted_->run.matches.empty())
        return;
    const std::vector<std::string> several = results_->severalSelected();
    if (takeInHand(several.empty() ? symbolsOf(*sifted_) : several))
        desk_.navigator().show(PlaceId::Weigh);
}

bool SiftPlace::takeInHand(const std::vector<std::string>& symbols)
{
    return app::takeInHand(desk_, this, symbols, tr("Take %1 in hand").arg(symbols.size()),
                           tr("%1, %2").arg(text(draft_.name), shortDayText(desk_.focus().day())));
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
        [evaluator = desk_.market().evaluator(), book = desk_.work().nameBook(), screen = draft_,
         day = desk_.focus().day(), criterion, limit, percent](const Progress& progress) {
            return screens::figureAtPercent(screen, book->names(), *evaluator, day, criterion,
                                            limit, percent, progress);
        },
        [this, criterion, limit](std::optional<double> figure) {
            if (figure)
                stack_->setBound(criterion, limit, *figure);
        });
}

void SiftPlace::showSelection()
{
    stack_->setChosen(desk_.focus().selected());
    nearMisses_->setChosen(desk_.focus().selected());
    results_->showChosen(desk_.focus().selected());
}

} // namespace sieve::app
