#include "app/sift/sift_place.h"

#include "app/frame/desk.h"
#include "app/look/look.h"
#include "app/look/tone.h"
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
#include "app/sift/paste_dialog.h"
#include "app/sift/stack_view.h"
#include "app/sift/why_view.h"
#include "core/screens/starter.h"
#include "core/screens/universe.h"
#include "core/storage/file_aside.h"
#include "core/watchlists/gain.h"

#include <QAction>
#include <QApplication>
#include <QButtonGroup>
#include <QClipboard>
#include <QFileDialog>
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
#include <fmt/format.h>
#include <map>

namespace sieve::app {

namespace {

/// Under which a ready screen stands in the menu: its side or its first tag.
QString purposeOf(const screens::Screen& screen)
{
    if (screen.side == screens::ScreenSide::Short)
        return SiftPlace::tr("Short side");
    QString purpose = screen.tags.empty() ? SiftPlace::tr("other") : text(screen.tags[0]);
    purpose[0] = purpose[0].toUpper();
    return purpose;
}

} // namespace

SiftPlace::SiftPlace(Desk& desk, QWidget* parent)
    : QWidget(parent), desk_(desk), asker_(this), percentAsker_(this), saver_(this),
      stack_(new StackView), name_(new QToolButton), purpose_(new QLabel), summary_(new QLabel),
      results_(new QTableView), model_(new TableModel(this)), lensButtons_(new QButtonGroup(this)),
      lenses_(new QStackedWidget), evidence_(new QTabWidget), nearMisses_(new NearMissTable),
      why_(new WhyView(desk)), days_(new DaysView(desk))
{
    buildHead();
    buildResults();

    auto* left = new QWidget;
    auto* leftLayout = new QVBoxLayout(left);
    leftLayout->setContentsMargins(0, 0, 0, 0);
    leftLayout->setSpacing(4);
    auto* asText = new QToolButton;
    asText->setText(tr("As text"));
    asText->setToolTip(tr("The same criteria as text of the language (Ctrl+T)"));
    asText->setCheckable(true);
    asText->setShortcut(Qt::CTRL | Qt::Key_T);
    connect(asText, &QToolButton::toggled, stack_, &StackView::setAsText);
    auto* head = new QHBoxLayout;
    head->addWidget(name_);
    head->addStretch(1);
    head->addWidget(asText);
    leftLayout->addLayout(head);
    leftLayout->addWidget(purpose_);
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
        ask();
    });
    connect(stack_, &StackView::committed, this, &SiftPlace::commit);
    connect(stack_, &StackView::trayWanted, this, &SiftPlace::fillTray);
    connect(stack_, &StackView::percentWanted, this, &SiftPlace::askPercent);
    connect(stack_->universeMenu(), &QMenu::aboutToShow, this, &SiftPlace::fillUniverseMenu);
    auto* finder = new CriterionFinder(desk_, stack_->newLine(), [this] { return draft_; });
    connect(finder, &CriterionFinder::criterionTaken, stack_, &StackView::add);
    connect(&desk_, &Desk::screenChanged, this, &SiftPlace::takeScreen);
    connect(&desk_, &Desk::savedScreensChanged, this, &SiftPlace::fillScreenMenu);
    // A criterion may ask for a list or a screen by its name.
    connect(&desk_, &Desk::savedScreensChanged, this, &SiftPlace::ask);
    connect(&desk_, &Desk::listsChanged, this, &SiftPlace::ask);
    connect(&desk_, &Desk::marketOpened, this, &SiftPlace::ask);
    connect(&desk_, &Desk::dayChanged, this, &SiftPlace::ask);
    connect(&desk_, &Desk::selectionChanged, this, &SiftPlace::showSelection);
    for (Asker* asker : {&asker_, &percentAsker_, &saver_})
        connect(asker, &Asker::failed, &desk_, &Desk::noticed);

    auto* take = new QAction(this);
    take->setShortcut(QKeySequence(Qt::CTRL | Qt::Key_Return));
    take->setShortcutContext(Qt::WidgetWithChildrenShortcut);
    connect(take, &QAction::triggered, this, &SiftPlace::fillTray);
    addAction(take);
    if (desk_.isWorkLoaded()) {
        fillScreenMenu();
        takeScreen();
    }
}

void SiftPlace::buildHead()
{
    name_->setPopupMode(QToolButton::InstantPopup);
    name_->setFont(fontOf(Weight::SemiBold, 1.15));
    name_->setMenu(new QMenu(name_));
    name_->setAccessibleName(tr("Screen"));
    name_->setToolTip(tr("Choose, save or begin a screen"));
    setTone(purpose_, Tone::Soft);
    purpose_->setContentsMargins(7, 0, 0, 2);
    purpose_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
    summary_->setFont(fontOf(Weight::SemiBold, 1.15));
    summary_->setContentsMargins(4, 4, 0, 2);
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
    auto* bar = new QHBoxLayout;
    bar->setSpacing(2);
    for (QAbstractButton* button : lensButtons_->buttons())
        bar->addWidget(button);
    bar->addStretch(1);
    bar->addWidget(columns);
    bar->addWidget(exportButton());
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

QToolButton* SiftPlace::exportButton()
{
    auto* button = new QToolButton;
    button->setText(tr("Out and in"));
    button->setToolTip(tr("Copy or save what passes; take symbols from any text"));
    button->setPopupMode(QToolButton::InstantPopup);
    auto* menu = new QMenu(button);
    const auto add = [&](const QString& name, const QKeySequence& key, auto run) {
        QAction* action = menu->addAction(name);
        action->setShortcut(key);
        action->setShortcutContext(Qt::WidgetWithChildrenShortcut);
        connect(action, &QAction::triggered, this, run);
        addAction(action); // so that its key works while the menu is closed
    };
    add(tr("Copy the symbols"), Qt::CTRL | Qt::SHIFT | Qt::Key_C, [this] {
        QStringList symbols;
        for (const std::string& symbol : shownSymbols())
            symbols << text(symbol);
        QApplication::clipboard()->setText(symbols.join(QLatin1Char('\n')));
    });
    add(tr("Copy the table"), {}, [this] {
        if (sifted_->table)
            QApplication::clipboard()->setText(
                text(toTabs(screens::sheetOf(*sifted_->table, sifted_->market->texts()))));
    });
    menu->addSeparator();
    for (const char* kind : {"xlsx", "csv", "json", "txt"})
        add(QLatin1String(kind) == QLatin1String("txt")
                ? tr("Save the symbols as text…")
                : tr("Save the table as %1…").arg(QString(QLatin1String(kind)).toUpper()),
            {}, [this, kind] { save(QLatin1String(kind)); });
    menu->addSeparator();
    add(tr("Symbols from a text…"), Qt::CTRL | Qt::SHIFT | Qt::Key_V, [this] { paste(); });
    button->setMenu(menu);
    return button;
}

/// In the order of the table.
std::vector<std::string> SiftPlace::shownSymbols() const
{
    std::vector<std::string> symbols;
    for (int row = 0; row < model_->rowCount(); ++row)
        symbols.push_back(desk_.market().instrument(model_->instrumentAt(row)).symbol);
    return symbols;
}

void SiftPlace::save(const QString& kind)
{
    if (!sifted_->table)
        return;
    const QString file = QFileDialog::getSaveFileName(
        this, tr("Save the results"), text(draft_.name) + QLatin1Char('.') + kind,
        tr("%1 files (*.%2)").arg(kind.toUpper(), kind));
    if (file.isEmpty())
        return;
    saver_.ask(
        [sifted = sifted_, kind, path = std::filesystem::path(utf8(file)),
         symbols = shownSymbols()](const Progress&) {
            const storage::Sheet sheet = screens::sheetOf(*sifted->table, sifted->market->texts());
            if (kind == QLatin1String("xlsx"))
                writeWorkbook(path, sheet);
            else if (kind == QLatin1String("csv"))
                storage::writeWhole(path, toCsv(sheet));
            else if (kind == QLatin1String("json"))
                storage::writeWhole(path, toJson(sheet));
            else
                storage::writeWhole(path, fmt::format("{}\n", fmt::join(symbols, "\n")));
            return path;
        },
        [this](const std::filesystem::path& path) {
            Q_EMIT desk_.noticed(tr("Saved as %1").arg(text(path.string())));
        });
}

/// What a text of any kind names, shown before it is taken.
void SiftPlace::paste()
{
    if (!desk_.hasMarket())
        return;
    PasteDialog dialog(desk_, QApplication::clipboard()->text(), this);
    if (dialog.exec() != QDialog::Accepted)
        return;
    const std::vector<std::string> symbols = dialog.symbols();
    switch (dialog.use()) {
    case PasteDialog::Use::Tray:
        return takeInHand(symbols);
    case PasteDialog::Use::Universe:
        return desk_.edit(tr("Take pasted symbols as universe"), [&symbols](Work& work) {
            work.screen.universe = fmt::format("symbol in (\"{}\")", fmt::join(symbols, "\", \""));
        });
    case PasteDialog::Use::List:
        return addToList(symbols);
    }
}

void SiftPlace::addToList(const std::vector<std::string>& symbols)
{
    QStringList names;
    for (const watchlists::Watchlist& list : desk_.work().lists)
        names << text(list.name);
    bool isAccepted = false;
    const QString name =
        QInputDialog::getItem(this, tr("Onto a list"), tr("Which, or the name of a new one:"),
                              names, 0, true, &isAccepted)
            .trimmed();
    if (!isAccepted || name.isEmpty())
        return;
    desk_.edit(tr("Put %1 onto %2").arg(symbols.size()).arg(name), [&](Work& work) {
        auto list = std::ranges::find(work.lists, utf8(name), &watchlists::Watchlist::name);
        if (list == work.lists.end())
            list = work.lists.insert(list, {desk_.newListId(), utf8(name), {}});
        for (const std::string& symbol : symbols)
            if (const auto stock = desk_.market().find(symbol); stock && !list->find(symbol))
                list->entries.push_back({symbol, desk_.day(),
                                         watchlists::priceOn(desk_.market(), *stock, desk_.day()),
                                         "", utf8(tr("pasted text"))});
    });
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
    QWidget::showEvent(event);
    if (!focusWidget())
        stack_->focusNewLine();
}

void SiftPlace::ask()
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
    const QFontMetrics metrics(name_->font());
    name_->setText(metrics.elidedText(text(screen.name), Qt::ElideRight,
                                      metrics.horizontalAdvance(QLatin1Char('0')) * 36) +
                   QStringLiteral("  ▾"));
    name_->setToolTip(tr("%1\nChoose, save or begin a screen").arg(text(screen.name)));
    purpose_->setText(text(screen.purpose));
    purpose_->setToolTip(text(screen.purpose));
    if (draft_ == screen)
        return;
    draft_ = screen;
    stack_->setScreen(draft_);
    results_->setProperty("sized", {});
    ask();
}

void SiftPlace::fillScreenMenu()
{
    QMenu* menu = name_->menu();
    menu->clear();
    for (QMenu* former : menu->findChildren<QMenu*>(QString(), Qt::FindDirectChildrenOnly))
        former->deleteLater(); // one of them may be the one just chosen from
    const auto addScreen = [this](QMenu* where, const screens::Screen& screen) {
        QAction* action = where->addAction(text(screen.name));
        action->setToolTip(text(screen.purpose));
        connect(action, &QAction::triggered, this, [this, screen] { choose(screen); });
    };
    if (!desk_.savedScreens().empty()) {
        menu->addSection(tr("Yours"));
        for (const screens::Screen& screen : desk_.savedScreens())
            addScreen(menu, screen);
    }
    menu->addSection(tr("To begin from"));
    std::map<QString, QMenu*> purposes;
    for (const screens::Screen& screen : screens::starterScreens())
        purposes[purposeOf(screen)] = nullptr;
    for (auto& [purpose, where] : purposes) {
        where = menu->addMenu(purpose);
        where->setToolTipsVisible(true);
    }
    for (const screens::Screen& screen : screens::starterScreens())
        addScreen(purposes[purposeOf(screen)], screen);
    menu->addSeparator();
    connect(menu->addAction(tr("New, with nothing in it")), &QAction::triggered, this, [this] {
        screens::Screen fresh;
        fresh.name = utf8(tr("New screen"));
        fresh.columns = {"symbol", "name", "sector", "close", "day_change", "market_cap"};
        choose(fresh);
        stack_->focusNewLine();
    });
    connect(menu->addAction(tr("Save as…")), &QAction::triggered, this, &SiftPlace::saveAs);
    const auto saved = std::ranges::find(desk_.savedScreens(), draft_.name, &screens::Screen::name);
    if (saved != desk_.savedScreens().end())
        connect(menu->addAction(tr("Remove “%1” from yours").arg(text(draft_.name))),
                &QAction::triggered, this,
                [this, name = draft_.name] { desk_.removeScreen(name); });
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

void SiftPlace::choose(const screens::Screen& screen)
{
    sortKeys_.clear();
    results_->horizontalHeader()->setSortIndicatorShown(false);
    desk_.edit(tr("Choose another screen"), [&screen](Work& work) { work.screen = screen; });
    fillScreenMenu();
}

void SiftPlace::saveAs()
{
    bool isAccepted = false;
    const QString name = QInputDialog::getText(this, tr("Save screen"), tr("Name:"),
                                               QLineEdit::Normal, text(draft_.name), &isAccepted)
                             .trimmed();
    if (!isAccepted || name.isEmpty())
        return;
    desk_.edit(tr("Name the screen"), [&name](Work& work) { work.screen.name = utf8(name); });
    desk_.saveScreen(desk_.work().screen);
}

void SiftPlace::chooseColumns()
{
    ColumnChooser chooser(draft_.columns, this);
    if (chooser.exec() != QDialog::Accepted)
        return;
    sortKeys_.clear();
    results_->horizontalHeader()->setSortIndicatorShown(false);
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
    ask();
}

void SiftPlace::fillTray()
{
    if (sifted_->run.matches.empty())
        return;
    takeInHand(shownSymbols());
    Q_EMIT desk_.placeWanted(QStringLiteral("weigh"));
}

void SiftPlace::takeInHand(const std::vector<std::string>& symbols)
{
    desk_.edit(tr("Take %1 in hand").arg(symbols.size()),
               [&](Work& work) { work.tray.fill(symbols, draft_.name); });
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
