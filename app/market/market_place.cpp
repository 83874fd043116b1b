#include "app/market/market_place.h"

#include "app/desk/desk.h"
#include "app/desk/focus.h"
#include "app/desk/in_hand.h"
#include "app/desk/market_reader.h"
#include "app/desk/navigator.h"
#include "app/desk/open_market.h"
#include "app/desk/workbench.h"
#include "app/look/look.h"
#include "app/market/brief_view.h"
#include "app/market/evidence.h"
#include "app/market/figures_view.h"
#include "app/market/group_board.h"
#include "app/market/mosaic_view.h"
#include "app/market/rule_editor.h"
#include "app/market/stance_panel.h"
#include "app/market/state_board.h"
#include "app/parts/number_text.h"
#include "app/parts/remembered.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QScrollArea>
#include <QSplitter>
#include <QStackedWidget>
#include <QTabWidget>
#include <QVBoxLayout>
#include <algorithm>

namespace sieve::app {

MarketPlace::MarketPlace(Desk& desk, QWidget* parent)
    : Place(parent), desk_(desk), asker_(this), pages_(new QStackedWidget),
      summary_(new QLabel(tr("Reading the market…"))), board_(new StateBoard),
      above_(new QStackedWidget), stance_(new StancePanel(desk)), editor_(new RuleEditor(desk)),
      chart_(new LineChart), tabs_(new QTabWidget), groups_(new GroupBoard(desk)),
      mosaic_(new MosaicView(desk)), figures_(new FiguresView(desk)),
      divergences_(new DivergenceTable), spells_(new StanceTable),
      ownScreens_(new OwnScreensView(desk)), brief_(new BriefView(desk))
{
    summary_->setFont(fontOf(Weight::SemiBold, 1.1));
    summary_->setContentsMargins(2, 0, 0, 0);
    auto* boardArea = new QScrollArea; // many indexes and exchanges scroll
    boardArea->setWidget(board_);
    boardArea->setWidgetResizable(true);
    boardArea->setFrameShape(QFrame::NoFrame);
    boardArea->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    above_->addWidget(stance_);
    auto* editorArea = new QScrollArea; // so that a low window need not make room for it
    editorArea->setWidget(editor_);
    editorArea->setWidgetResizable(true);
    above_->addWidget(editorArea);
    auto* upper = new QSplitter;
    upper->addWidget(boardArea);
    upper->addWidget(above_);
    upper->setSizes({620, 560});
    addTab(ActionId::ShowGroups, groups_);
    addTab(ActionId::ShowMosaic, mosaic_);
    addTab(ActionId::ShowBreadth, figures_);
    addTab(ActionId::ShowDivergences, divergences_);
    addTab(ActionId::ShowStances, spells_);
    addTab(ActionId::ShowOwnScreens, ownScreens_);
    tabs_->setDocumentMode(true);
    auto* lower = new QSplitter;
    lower->addWidget(chart_);
    lower->addWidget(tabs_);
    lower->setSizes({620, 560});
    auto* halves = halves_ = new QSplitter(Qt::Vertical);
    halves->addWidget(upper);
    halves->addWidget(lower);
    halves->setSizes({224, 456});
    halves->setStretchFactor(0, 0);
    halves->setStretchFactor(1, 1);
    remember(upper, "market.upper");
    remember(lower, "market.lower");
    remember(halves, "market.halves");
    remember(tabs_, "market.tabs");
    for (QSplitter* splitter : {upper, lower, halves})
        splitter->setChildrenCollapsible(false);
    auto* toBrief = new QPushButton(plainTitleOf(ActionId::ShowBrief));
    toBrief->setToolTip(tipOf(ActionId::ShowBrief));
    connect(toBrief, &QPushButton::clicked, this, [this] { showBrief(true); });
    makeAction(this, ActionId::ShowBrief, [this] { showBrief(pages_->currentWidget() != brief_); });
    auto* head = new QHBoxLayout;
    head->addWidget(summary_, 1);
    head->addWidget(toBrief);
    auto* board = new QWidget;
    auto* boardLayout = new QVBoxLayout(board);
    boardLayout->setContentsMargins(0, 0, 0, 0);
    boardLayout->setSpacing(6);
    boardLayout->addLayout(head);
    boardLayout->addWidget(halves, 1);
    pages_->addWidget(board);
    pages_->addWidget(brief_);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(12, 6, 12, 8);
    layout->addWidget(pages_);
    listen();
    showReading();
}

void MarketPlace::addTab(ActionId id, QWidget* page)
{
    tabs_->setTabToolTip(tabs_->addTab(page, plainTitleOf(id)), tipOf(id));
    makeAction(this, id, [this, page] {
        tabs_->setCurrentWidget(page);
        page->setFocus();
    });
}

void MarketPlace::listen()
{
    connect(&desk_.conditions(), &MarketReader::changed, this, &MarketPlace::showReading);
    connect(&desk_.focus(), &Focus::dayChanged, this, &MarketPlace::refresh);
    connect(board_, &StateBoard::lineChosen, this, [this] {
        drawn_ = {};
        other_.reset();
        showLine();
        showTab();
    });
    connect(&desk_.work(), &Workbench::listsChanged, this, [this] {
        if (!drawn_.list)
            return;
        other_.reset();
        refresh();
    });
    connect(board_, &StateBoard::ruleWanted, this, &MarketPlace::editTrend);
    connect(stance_, &StancePanel::ruleWanted, this, &MarketPlace::editRule);
    connect(stance_, &StancePanel::newRuleWanted, this, [this] {
        if (reading_)
            editRule(reading_->book.rules.size());
    });
    connect(editor_, &RuleEditor::done, this, &MarketPlace::endEditing);
    connect(editor_, &RuleEditor::drafted, board_, &StateBoard::setDraft);
    connect(editor_, &RuleEditor::drafted, chart_, &LineChart::setDraft);
    connect(chart_, &LineChart::panesWanted, this, [this] { tabs_->setCurrentWidget(figures_); });
    connect(divergences_, &DivergenceTable::chosen, chart_, &LineChart::goTo);
    connect(groups_, &GroupBoard::sharesWanted, this, &MarketPlace::sift);
    connect(groups_, &GroupBoard::trayWanted, this, &MarketPlace::fillTray);
    connect(groups_, &GroupBoard::groupChosen, this, &MarketPlace::drawGroup);
    connect(mosaic_, &MosaicView::listChosen, this, &MarketPlace::drawList);
    connect(tabs_, &QTabWidget::currentChanged, this, &MarketPlace::showTab);
    connect(groups_, &GroupBoard::spanChanged, this, [this] { mosaic_->setSpan(groups_->span()); });
    connect(&asker_, &Asker::failed, &desk_, &Desk::noticed);
    connect(brief_, &BriefView::marketWanted, this, [this] { showBrief(false); });
    connect(brief_, &BriefView::groupWanted, this, [this](const QString& name) {
        showBrief(false);
        drawn_ = {std::nullopt, utf8(name)};
        drawAgain();
    });
}

void MarketPlace::showReading()
{
    const auto& reading = desk_.conditions().reading();
    const bool isOther = reading != reading_;
    reading_ = reading;
    halves_->setVisible(reading_ != nullptr);
    if (isOther)
        other_.reset(); // it is of the former market or rules
    if (!reading_)
        return summary_->setText(desk_.market().isOpen() ? tr("Reading the market…")
                                                         : tr("No market is open."));
    if (isOther)
        board_->setReading(reading_);
    refresh();
}

/// The brief stays open while its lines lead to other places, until the board is wanted again.
void MarketPlace::showBrief(bool isWanted)
{
    pages_->setCurrentIndex(isWanted ? 1 : 0);
    refresh();
    if (isWanted)
        brief_->setFocus();
    else
        board_->setFocus();
}

void MarketPlace::bringUp()
{
    if (!reading_)
        return;
    if (pages_->currentWidget() == brief_)
        return brief_->refresh();
    board_->setDay(desk_.focus().day());
    stance_->show(reading_, desk_.focus().day());
    showSummary();
    showLine();
    showTab();
    if (!other_)
        drawAgain();
}

/// Only the page that is seen is brought up to the day; the others are when they are turned to.
void MarketPlace::showTab()
{
    if (!reading_)
        return;
    const QWidget* page = tabs_->currentWidget();
    const auto& groups = desk_.conditions().groups();
    if (page == groups_ && groups)
        groups_->show(groups, desk_.focus().day());
    else if (page == mosaic_ && groups)
        mosaic_->show(groups, desk_.focus().day());
    else if (page == figures_)
        figures_->show(line()->line, desk_.focus().day());
    else if (page == spells_)
        spells_->show(*reading_, desk_.focus().day());
    else if (page == ownScreens_)
        ownScreens_->show(desk_.focus().day());
}

/// The line that is drawn: one of the board's, or a group's.
std::shared_ptr<const conditions::LineReading> MarketPlace::line() const
{
    return other_ ? other_
                  : std::shared_ptr<const conditions::LineReading>(
                        reading_, &reading_->lines[board_->line()]);
}

void MarketPlace::showLine()
{
    if (!reading_)
        return;
    const auto read = line();
    asker_.ask(
        [evaluator = desk_.market().evaluator(), names = desk_.work().nameBook(), read,
         panes = reading_->book.panes, day = desk_.focus().day()](const Progress& progress) {
            return std::make_shared<const LineShown>(
                conditions::lineShown(*evaluator, names->names(), *read, panes, day, progress));
        },
        [this](const std::shared_ptr<const LineShown>& shown) {
            chart_->show(shown);
            divergences_->show(shown);
        });
}

/// The state in a sentence, with what contradicts it.
void MarketPlace::showSummary()
{
    const conditions::LineReading& market = reading_->lines.front();
    const auto bar = market.line.barBy(desk_.focus().day());
    if (!bar)
        return summary_->setText(tr("Nothing was traded yet by this day."));
    const auto word = [&](std::size_t horizon) {
        const auto& history = market.trends[horizon].history;
        return trendWord(*bar < history.size() ? history[*bar]
                                               : std::optional<conditions::Trend>());
    };
    QString sentence = tr("The market is %1 over months, %2 over weeks, %3 over days")
                           .arg(word(2), word(1), word(0));
    const double stance = *bar < reading_->stance.size() ? reading_->stance[*bar] : missing;
    sentence += isMissing(stance) ? tr("; no rule can be answered yet")
                                  : tr("; your rules allow %1 of the money at work")
                                        .arg(numberText(stance, Unit::Percent, 0));
    for (std::size_t i = 0; i < 3; ++i)
        if (market.trends[i].error)
            sentence = tr("The %1 rule has a mistake: %2")
                           .arg(text(conditions::horizonName(conditions::horizons[i])),
                                text(sieve::sentence(*market.trends[i].error)));
    summary_->setText(sentence);
}

void MarketPlace::editTrend(std::size_t horizon)
{
    if (!reading_)
        return;
    editor_->editTrend(reading_, board_->line(), horizon);
    above_->setCurrentIndex(1);
}

void MarketPlace::editRule(std::size_t rule)
{
    if (!reading_)
        return;
    editor_->editTiming(reading_, rule);
    above_->setCurrentIndex(1);
}

void MarketPlace::endEditing()
{
    above_->setCurrentWidget(stance_);
    board_->setFocus();
}

/// What is drawn in place of a line of the board, once more: its market, rules or stocks are other
/// ones now. A list that is gone, or a group that the market does not have, is drawn no longer.
void MarketPlace::drawAgain()
{
    const auto groups = desk_.conditions().groups();
    if (drawn_.list) {
        if (const auto* list = desk_.work().now().findList(*drawn_.list))
            return drawList(text(list->name));
    } else if (!drawn_.group.empty()) {
        if (!groups)
            return; // they are being read; their coming asks again
        const auto group = std::ranges::find(groups->all, drawn_.group, &conditions::Group::name);
        if (group != groups->all.end())
            return drawGroup(static_cast<std::size_t>(group - groups->all.begin()));
    } else {
        return;
    }
    drawn_ = {};
    other_.reset();
    refresh();
}

void MarketPlace::drawGroup(std::size_t at)
{
    if (const auto groups = desk_.conditions().groups()) {
        drawn_ = {std::nullopt, groups->all[at].name};
        draw([groups, at](const market::Market&) {
            const conditions::Group& group = groups->all[at];
            return conditions::Line{group.name, conditionOf(*groups, at),
                                    market::marketOf(group.line)};
        });
    }
}

/// A list's own line: of the stocks that were on it on each day.
void MarketPlace::drawList(const QString& name)
{
    const auto book = desk_.work().nameBook();
    const auto list = book->lists.find(utf8(name));
    if (list == book->lists.end() || name.contains(QLatin1Char('"')))
        return; // the language cannot say such a name
    if (book->listScreens.contains(list->first))
        return Q_EMIT desk_.noticed(
            tr("“%1” is kept by a screen and has no line of its own.").arg(name));
    for (const auto& each : desk_.work().now().lists)
        if (each->name == list->first)
            drawn_ = {each->id, {}};
    draw([members = list->second, title = list->first](const market::Market& market) {
        return conditions::lineOfList(market, title, *members);
    });
}

/// Draws another line than those of the board, with its own states and breadth.
void MarketPlace::draw(std::function<conditions::Line(const market::Market&)> make)
{
    if (!reading_)
        return;
    asker_.ask(
        [evaluator = desk_.market().evaluator(), names = desk_.work().nameBook(),
         make = std::move(make), book = reading_->book](const Progress& progress) {
            auto read = std::make_shared<conditions::LineReading>();
            read->line = make(evaluator->market());
            for (std::size_t i = 0; i < book.trends.size(); ++i)
                read->trends[i] =
                    readTrend(*evaluator, names->names(), read->line, book.trends[i], progress);
            return std::shared_ptr<const conditions::LineReading>(read);
        },
        [this](const std::shared_ptr<const conditions::LineReading>& read) {
            other_ = read;
            showLine();
            showTab();
        });
}

/// Takes some shares as the universe of the screen in hand.
void MarketPlace::sift(const QString& universe)
{
    desk_.work().edit(tr("Sift %1").arg(universe),
                      [&universe](Work& work) { work.screen.edit().universe = utf8(universe); });
    desk_.navigator().show(PlaceId::Sift);
}

void MarketPlace::fillTray(const QString& group, const std::vector<std::string>& symbols)
{
    takeInHand(desk_, this, symbols, tr("Take %1 into the tray").arg(group), group);
}

} // namespace sieve::app
