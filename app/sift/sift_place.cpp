#include "app/sift/sift_place.h"

#include "app/frame/desk.h"
#include "app/look/look.h"
#include "app/look/tone.h"
#include "app/parts/figure_table.h"
#include "app/parts/number_text.h"
#include "app/parts/table_model.h"
#include "app/sift/column_chooser.h"
#include "app/sift/stack_view.h"
#include "core/screens/starter.h"

#include <QAction>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QInputDialog>
#include <QLabel>
#include <QMenu>
#include <QSplitter>
#include <QTableView>
#include <QToolButton>
#include <algorithm>
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
    : QWidget(parent), desk_(desk), asker_(this), stack_(new StackView), name_(new QToolButton),
      purpose_(new QLabel), summary_(new QLabel), results_(new QTableView),
      model_(new TableModel(this))
{
    buildHead();
    buildResults();

    auto* left = new QWidget;
    auto* leftLayout = new QVBoxLayout(left);
    leftLayout->setContentsMargins(0, 0, 0, 0);
    leftLayout->setSpacing(4);
    leftLayout->addWidget(name_, 0, Qt::AlignLeft);
    leftLayout->addWidget(purpose_);
    leftLayout->addWidget(stack_, 1);

    auto* columns = new QToolButton;
    columns->setText(tr("Columns…"));
    columns->setToolTip(tr("Choose the columns of the results"));
    connect(columns, &QToolButton::clicked, this, &SiftPlace::chooseColumns);
    auto* right = new QWidget;
    auto* rightLayout = new QVBoxLayout(right);
    rightLayout->setContentsMargins(0, 0, 0, 0);
    rightLayout->setSpacing(4);
    auto* bar = new QHBoxLayout;
    bar->addWidget(summary_, 1);
    bar->addWidget(columns);
    rightLayout->addLayout(bar);
    rightLayout->addWidget(results_, 1);

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
    connect(&desk_, &Desk::screenChanged, this, &SiftPlace::takeScreen);
    connect(&desk_, &Desk::savedScreensChanged, this, &SiftPlace::fillScreenMenu);
    // A criterion may ask for a list or a screen by its name.
    connect(&desk_, &Desk::savedScreensChanged, this, &SiftPlace::ask);
    connect(&desk_, &Desk::listsChanged, this, &SiftPlace::ask);
    connect(&desk_, &Desk::marketOpened, this, &SiftPlace::ask);
    connect(&desk_, &Desk::dayChanged, this, &SiftPlace::ask);
    connect(&desk_, &Desk::selectionChanged, this, &SiftPlace::showSelection);
    connect(&asker_, &Asker::failed, &desk_, &Desk::noticed);

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
         column = sortColumn_, order = order_](const Progress& progress) {
            const expressions::Names names = book->names();
            Answer answer{screens::run(screen, names, *evaluator, day, progress), nullptr};
            auto table = std::make_shared<screens::ResultTable>(
                screens::makeTable(answer.run.matches, screen.columns, names, *evaluator, day));
            if (column >= 0 && column < static_cast<int>(table->columns.size()))
                screens::sortBy(*table, static_cast<std::size_t>(column), order,
                                evaluator->market().texts());
            answer.table = std::move(table);
            return answer;
        },
        [this](Answer answer) { show(std::move(answer)); });
}

void SiftPlace::show(Answer answer)
{
    run_ = std::move(answer.run);
    stack_->setRun(run_);
    const QSignalBlocker quiet(results_->selectionModel());
    const int columnsBefore = model_->columnCount();
    model_->setTable(std::move(answer.table), desk_.evaluator()->marketPtr());
    if (model_->columnCount() != columnsBefore || results_->property("sized").isNull()) {
        fitColumns(results_);
        results_->setProperty("sized", model_->rowCount() > 0 ? QVariant(true) : QVariant());
    }
    summary_->setText(
        run_.passing == 1
            ? tr("1 of %2 stocks passes on %3").arg(run_.universe).arg(shortDayText(run_.day))
            : tr("%1 of %2 stocks pass on %3")
                  .arg(run_.passing)
                  .arg(run_.universe)
                  .arg(shortDayText(run_.day)));
    showSelection();
}

void SiftPlace::commit(const QString& what)
{
    draft_ = stack_->screen();
    desk_.edit(what, [this](Work& work) { work.screen = draft_; });
}

void SiftPlace::takeScreen()
{
    const screens::Screen& screen = desk_.work().screen;
    name_->setText(text(screen.name) + QStringLiteral("  ▾"));
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

void SiftPlace::choose(const screens::Screen& screen)
{
    sortColumn_ = -1;
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
    sortColumn_ = -1;
    results_->horizontalHeader()->setSortIndicatorShown(false);
    desk_.edit(tr("Choose columns"),
               [&chooser](Work& work) { work.screen.columns = chooser.columns(); });
}

void SiftPlace::sortBy(int column)
{
    using screens::Order;
    if (column == sortColumn_)
        order_ = order_ == Order::Ascending ? Order::Descending : Order::Ascending;
    else
        order_ = Order::Descending;
    sortColumn_ = column;
    results_->horizontalHeader()->setSortIndicatorShown(true);
    results_->horizontalHeader()->setSortIndicator(
        column, order_ == Order::Ascending ? Qt::AscendingOrder : Qt::DescendingOrder);
    ask();
}

void SiftPlace::fillTray()
{
    if (run_.matches.empty())
        return;
    std::vector<std::string> symbols;
    for (int row = 0; row < model_->rowCount(); ++row)
        symbols.push_back(desk_.market().instrument(model_->instrumentAt(row)).symbol);
    desk_.edit(tr("Take %1 in hand").arg(symbols.size()),
               [&](Work& work) { work.tray.fill(symbols, draft_.name); });
    desk_.selectSymbol(symbols.front());
    Q_EMIT desk_.placeWanted(QStringLiteral("weigh"));
}

void SiftPlace::select(int row)
{
    desk_.select(model_->instrumentAt(row));
}

void SiftPlace::showSelection()
{
    const int row = desk_.selected() ? model_->rowOf(*desk_.selected()) : -1;
    const QSignalBlocker quiet(results_->selectionModel());
    if (row < 0)
        results_->clearSelection();
    else if (results_->currentIndex().row() != row) // else the cell in use stays the current one
        results_->setCurrentIndex(model_->index(row, 0));
    results_->viewport()->update();
}

} // namespace sieve::app
