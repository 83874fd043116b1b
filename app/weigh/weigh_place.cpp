#include "app/weigh/weigh_place.h"

#include "app/chart/chart_view.h"
#include "app/desk/blend_button.h"
#include "app/desk/desk.h"
#include "app/desk/drawing_shelf.h"
#include "app/desk/focus.h"
#include "app/desk/navigator.h"
#include "app/desk/open_market.h"
#include "app/desk/plan_shelf.h"
#include "app/desk/set_up_shelf.h"
#include "app/desk/settings.h"
#include "app/desk/workbench.h"
#include "app/parts/actions.h"
#include "app/parts/empty_page.h"
#include "app/parts/number_text.h"
#include "app/parts/remembered.h"
#include "app/wall/chart_wall.h"
#include "app/weigh/choices.h"
#include "app/weigh/dossier.h"
#include "app/weigh/dossier_page.h"
#include "app/weigh/verdict_shelf.h"
#include "core/watchlists/stocks.h"

#include <QSplitter>
#include <QStackedLayout>
#include <QVBoxLayout>
#include <algorithm>
#include <utility>

namespace sieve::app {

using watchlists::Mark;

WeighPlace::WeighPlace(Desk& desk, QWidget* parent)
    : Place(parent), desk_(desk), asker_(this), listsAsker_(this), page_(new QWidget),
      empty_(new EmptyPage), wall_(new ChartWall(desk, QStringLiteral("weigh.wall"))),
      chart_(new PriceChart), blend_(new BlendButton(desk)), dossier_(new Dossier(blend_)),
      drawings_(new DrawingShelf(desk, chart_->view())),
      plans_(new PlanShelf(desk, chart_->view(), PlanShelf::Of::Hand)),
      verdicts_(new VerdictShelf(desk, this)), printAsker_(this), aheadAsker_(this)
{
    auto* chartSheet = new QFrame;
    chartSheet->setObjectName(QStringLiteral("sheet"));
    auto* chartLayout = new QVBoxLayout(chartSheet);
    chartLayout->setContentsMargins(1, 1, 1, 1);
    chartLayout->addWidget(chart_);
    auto* split = new QSplitter;
    remember(split, "weigh.split");
    remember(&chart_->view(), "weigh.chart_set_up");
    split->setChildrenCollapsible(false);
    split->setHandleWidth(8);
    split->addWidget(chartSheet);
    split->addWidget(dossier_);
    split->setSizes({840, 340});
    split->setStretchFactor(0, 1);
    split->setStretchFactor(1, 0);
    auto* pageLayout = new QVBoxLayout(page_);
    pageLayout->setContentsMargins(12, 12, 12, 8);
    pageLayout->addWidget(split);
    empty_->setTexts(
        tr("Nothing is selected"),
        tr("Weigh shows the chart and the figures of one stock. Take the matches of a screen "
           "in hand in Sift, or find a stock by its name with Ctrl+K."),
        tr("Go to Sift"));
    auto* layout = new QStackedLayout(this);
    layout->addWidget(empty_);
    layout->addWidget(page_);
    auto* wallPage = new QWidget;
    auto* wallLayout = new QVBoxLayout(wallPage);
    wallLayout->setContentsMargins(12, 12, 12, 8);
    wallLayout->addWidget(wall_);
    layout->addWidget(wallPage);

    connect(empty_, &EmptyPage::stepTaken, this, [this] { desk_.navigator().show(PlaceId::Sift); });
    connect(dossier_, &Dossier::decided, this, &WeighPlace::decide);
    connect(wall_, &ChartWall::decided, this, [this](std::size_t stock, Mark mark) {
        if (mark == Mark::Kept)
            keep(stock, dossier_->chosenList(), utf8(reasonOf(stock)), false);
        else
            drop(stock, mark, reasonOf(stock));
    });
    connect(dossier_, &Dossier::reasonGiven, this, &WeighPlace::saveReason);
    connect(dossier_, &Dossier::reasonLeft, this, qOverload<>(&QWidget::setFocus));
    connect(dossier_, &Dossier::listChosen, this, &WeighPlace::showSelection);
    connect(&chart_->view(), &ChartView::setUpChanged, this, [this](bool needsFigures) {
        if (needsFigures)
            refresh();
        else
            asked_.setUp = chart_->view().setUp(); // its answer serves this one too
        if (!needsFigures && made_)
            made_->asked.setUp = asked_.setUp;
    });
    connect(&chart_->view(), &ChartView::failed, &desk_, &Desk::noticed);
    connect(&desk_.focus(), &Focus::selectionChanged, this, &WeighPlace::showSelection);
    connect(&desk_.market(), &OpenMarket::opened, this, &WeighPlace::showSelection);
    connect(&desk_.focus(), &Focus::dayChanged, this, &WeighPlace::refresh);
    connect(&desk_.work(), &Workbench::trayChanged, this, &WeighPlace::showSelection);
    connect(&desk_.work(), &Workbench::listsChanged, this, &WeighPlace::showSelection);
    connect(&desk_.work(), &Workbench::weighingChanged, this, &WeighPlace::refresh);
    const auto askAnew = [this] {
        asked_ = {};
        refresh();
    };
    connect(&desk_.work(), &Workbench::drawingsChanged, this, [this, askAnew] {
        if (charts::asksForDrawings(chart_->view().setUp()))
            askAnew();
    });
    connect(&desk_.work(), &Workbench::verdictsChanged, this, askAnew);
    connect(verdicts_, &VerdictShelf::checklistChanged, this, askAnew);
    for (Asker* asker : {&asker_, &listsAsker_, &aheadAsker_, &printAsker_})
        connect(asker, &Asker::failed, &desk_, &Desk::noticed);
    connect(&asker_, &Asker::failed, this, [this] {
        asked_ = {};
        made_.reset();
        dossier_->setDossier(nullptr, nullptr); // that of another stock is not its
        verdicts_->setDossier(nullptr, nullptr);
    });
    connectDossier();
    connect(&desk_.settings(), &Settings::loaded, this, &WeighPlace::restoreSitting);
    restoreSitting();
    new SetUpShelf(desk_, chart_->view());
    addActions();
    showSelection();
}

/// What the person chose to see there, and where it leads.
void WeighPlace::connectDossier()
{
    connect(blend_, &BlendButton::changed, this, &WeighPlace::refresh);
    connect(dossier_, &Dossier::choicesChanged, this, &WeighPlace::refresh);
    connect(dossier_, &Dossier::termsChosen, this, [this](const watchlists::PlanTerms& terms) {
        desk_.work().edit(
            tr("Change account or risk"), [&](Work& work) { work.terms.edit().plan = terms; },
            Workbench::Step::MayJoin);
    });
    const auto showTerms = [this] {
        const watchlists::PlanTerms& terms = desk_.work().now().terms->plan;
        dossier_->setTerms(terms);
        plans_->setTerms(terms);
    };
    showTerms();
    connect(&desk_.work(), &Workbench::termsChanged, this, [this, showTerms] {
        showTerms();
        refresh();
    });
    DossierPage& page = dossier_->page();
    connect(&page, &DossierPage::explanationAsked, this, &WeighPlace::explain);
    connect(&page, &DossierPage::tableAsked, this, &WeighPlace::showTable);
    connect(&page, &DossierPage::answerAsked, verdicts_, &VerdictShelf::answerNext);
    connect(&page, &DossierPage::stockChosen, this,
            [this](std::size_t stock) { desk_.focus().select(stock); });
    connect(&page, &DossierPage::dayChosen, this, &WeighPlace::goToDay);
    const auto offerSets = [this] {
        std::vector<screens::ColumnSet> sets = screens::readyColumnSets();
        sets.insert(sets.end(), desk_.work().now().columnSets->begin(),
                    desk_.work().now().columnSets->end());
        dossier_->setColumnSets(sets);
    };
    connect(&desk_.work(), &Workbench::columnSetsChanged, this, [this, offerSets] {
        offerSets();
        refresh();
    });
    offerSets();
    constexpr const char* figuresKey = "weigh.figures";
    connect(dossier_, &Dossier::figuresChosen, this,
            [this](const QString& set) { desk_.settings().set(figuresKey, utf8(set)); });
    const auto restoreFigures = [this] {
        dossier_->chooseFigures(text(desk_.settings().value(figuresKey)));
    };
    connect(&desk_.settings(), &Settings::loaded, this, restoreFigures);
    restoreFigures();
}

void WeighPlace::addActions()
{
    makeAction(this, ActionId::NextCandidate, [this] { step(1); });
    makeAction(this, ActionId::CandidateBefore, [this] { step(-1); });
    makeAction(this, ActionId::Keep, [this] { decide(Mark::Kept); });
    makeAction(this, ActionId::Drop, [this] { decide(Mark::Dropped); });
    makeAction(this, ActionId::Later, [this] { decide(Mark::Later); });
    onWall_ = makeAction(this, ActionId::ShowTrayWall, [this] {
        if (onWall_->isChecked() && desk_.work().now().tray->isEmpty())
            Q_EMIT desk_.noticed(tr("No stock is in hand. Take the matches of a screen in hand in "
                                    "Sift first."));
        showSelection();
        if (isOnWall())
            wall_->setFocus();
    });
    onWall_->setCheckable(true);
    makeAction(this, ActionId::GiveReason, [this] { dossier_->focusReason(); });
    makeAction(this, ActionId::NextPart, [this] { dossier_->jump(1); });
    makeAction(this, ActionId::PartBefore, [this] { dossier_->jump(-1); });
    makeAction(this, ActionId::ChooseReason, [this] { offerReasons(); });
    makeAction(this, ActionId::ShowSitting, [this] { showSitting(); });
    makeAction(this, ActionId::ChoosePeers, [this] { choosePeers(); });
    makeAction(this, ActionId::ShowOccurrences, [this] { showOccurrences(); });
    makeAction(this, ActionId::ShowMove, [this] { showMove(); });
    makeAction(this, ActionId::ScatterPeers, [this] { scatterPeers(); });
    makeAction(this, ActionId::CompareStocks, [this] { compareStocks(); });
    makeAction(this, ActionId::Judge, [this] { verdicts_->openVerdict(); });
    makeAction(this, ActionId::ChooseChecklist, [this] { verdicts_->openChecklists(); });
    makeAction(this, ActionId::PlanPurchase, [this] {
        if (shown_ && !isOnWall())
            plans_->open(this);
    });
    makeAction(this, ActionId::Follow, [this] { follow(); });
    makeAction(this, ActionId::ShowDigest, [this] { showDigest(); });
    makeAction(this, ActionId::PrintStock, [this] { printStock(); });
    makeAction(this, ActionId::PrintBooklet, [this] { printBooklet(); });
    makeAction(this, ActionId::ReadDossier, [this] { dossier_->page().setFocus(); });
    for (int number = 1; number <= rowOf(ActionId::KeepOnto).count; ++number)
        makeAction(
            this, ActionId::KeepOnto,
            [this, number] { keepOntoPlace(static_cast<std::size_t>(number) - 1); }, number);
}

bool WeighPlace::isOnWall() const
{
    return onWall_ && onWall_->isChecked() && market_ && !desk_.work().now().tray->isEmpty();
}

/// The stocks in hand that the market has, in their order.
void WeighPlace::showWall()
{
    std::vector<std::size_t> stocks;
    for (const watchlists::Card& card : desk_.work().now().tray->cards())
        if (const auto stock = stockOf(card, *market_))
            stocks.push_back(*stock);
    ChartWall::Stocks now{desk_.market().evaluator(), desk_.focus().day(), std::move(stocks),
                          tr("Stocks in hand")};
    if (!(wall_->stocks() == now)) // a decision changes none of it
        wall_->show(std::move(now));
}

void WeighPlace::showSelection()
{
    saveTypedReason(); // of the stock that was shown till now
    auto* layout = static_cast<QStackedLayout*>(this->layout());
    const auto former = shown_;
    shown_ = desk_.market().isOpen() ? desk_.focus().selected() : std::nullopt;
    market_ = desk_.market().isOpen() ? desk_.market().evaluator()->marketPtr() : nullptr;
    if (isOnWall())
        layout->setCurrentWidget(wall_->parentWidget());
    else
        layout->setCurrentWidget(shown_ ? page_ : empty_);
    if (shown_ != former)
        shownSince_.start();
    if (!shown_)
        return refresh();
    const market::Market& market = *market_;
    dossier_->setInstrument(market.instrument(*shown_));
    dossier_->setLists(library::listsByHand(desk_.work().now()));
    const watchlists::Tray& tray = *desk_.work().now().tray;
    const auto place = placeIn(tray, market, *shown_);
    dossier_->setDecision(place ? std::optional(tray.cards()[*place]) : std::nullopt);
    dossier_->setReason(reasonOf(*shown_));
    dossier_->setFollowed(watchlists::isFollowed(*desk_.work().now().weighing, market, *shown_));
    plans_->setStock(market_, *shown_, desk_.focus().day(), dossier_->chosenList());
    refresh();
}

/// All lists are gone through beside the window's thread.
void WeighPlace::askLists()
{
    if (listsOf_ != Stock{market_, *shown_})
        dossier_->setOnLists({}); // those of another stock are not its
    listsOf_ = {market_, *shown_};
    listsAsker_.ask(
        [lists = desk_.work().now().lists, of = listsOf_](const Progress& progress) {
            QStringList on;
            for (const auto& list : lists) {
                if (progress.stopRequested())
                    throw Stopped{};
                const auto at = placeOn(*list, *of.market, of.stock);
                if (!at)
                    continue;
                const watchlists::Entry& entry = list->entries[*at];
                const QString since =
                    tr("on “%1” since %2").arg(text(list->name), shortDayText(entry.addedOn));
                on << (entry.reason.empty() ? since
                                            : since + QStringLiteral(": ") + text(entry.reason));
            }
            return on.join(QStringLiteral(", "));
        },
        [this](const QString& on) { dossier_->setOnLists(on); });
}

void WeighPlace::bringUp()
{
    if (isOnWall())
        return showWall();
    if (!shown_)
        return;
    plans_->setStock(market_, *shown_, desk_.focus().day(), dossier_->chosenList());
    askLists();
    askFigures();
}

namespace {

/// Chart and dossier of one stock; of `former`, a chart of an earlier day, what it has is kept, and
/// one of the day itself is the chart.
template <class Answer, class Asked>
Answer answered(engine::Evaluator& evaluator, const screens::NameBook& book, const Asked& asked,
                std::span<const Shared<watchlists::Watchlist>> lists, watchlists::Verdicts verdicts,
                const std::shared_ptr<const charts::Chart>& former, bool isOfTheDay,
                const Progress& progress)
{
    const std::size_t stock = asked.of.stock;
    const language::Names names = book.names();
    Answer answer{former, nullptr};
    if (!isOfTheDay)
        answer.chart = std::make_shared<const charts::Chart>(
            former
                ? charts::grownChart(*former, evaluator, names, stock, asked.day, progress, lists)
                : charts::makeChart(evaluator, names, asked.setUp, stock, asked.day, progress,
                                    lists));
    const dossier::Subject subject{evaluator,     names, stock,   asked.day,
                                   asked.choices, lists, verdicts};
    answer.dossier =
        std::make_shared<const dossier::Dossier>(dossier::makeDossier(subject, {}, progress));
    return answer;
}

} // namespace

/// What is chosen to see of any stock.
dossier::Choices WeighPlace::generalChoices() const
{
    dossier::Choices choices = dossier_->choices();
    choices.checklist = verdicts_->checklist();
    choices.weights = blend_->weights();
    return choices;
}

dossier::Choices WeighPlace::choicesFor(std::size_t stock) const
{
    return choicesOf(generalChoices(), desk_.work().now(), *market_, stock, desk_.focus().day(),
                     dossier_->chosenList());
}

void WeighPlace::askFigures()
{
    const Asked now{
        {market_, *shown_}, desk_.focus().day(), chart_->view().setUp(), choicesFor(*shown_)};
    if (now == asked_)
        return;
    const screens::NameBookPtr book = desk_.work().nameBook();
    // Of the chart that is shown, what it has serves a later day, and all of it other choices.
    const bool isSameChart = made_ && made_->book == book && made_->asked.of == now.of &&
                             made_->asked.setUp == now.setUp;
    const bool isOfTheDay = isSameChart && made_->asked.day == now.day;
    auto former = isSameChart && made_->asked.day <= now.day ? made_->answer.chart : nullptr;
    asked_ = now;
    if (prepared_ && prepared_->asked == now) {
        const Answered prepared = *std::exchange(prepared_, std::nullopt);
        showAnswer(prepared);
        if (prepared.book == book)
            return prepareNext();
    }
    asker_.ask(
        [evaluator = desk_.market().evaluator(), book, lists = desk_.work().now().lists,
         verdicts = desk_.work().now().verdicts, now, former = std::move(former),
         isOfTheDay](const Progress& progress) {
            return Answered{now, book,
                            answered<Answer>(*evaluator, *book, now, lists, *verdicts, former,
                                             isOfTheDay, progress)};
        },
        [this](const Answered& answered) {
            showAnswer(answered);
            prepareNext();
        });
}

void WeighPlace::showAnswer(const Answered& answered)
{
    const bool isSameChart = made_ && made_->answer.chart == answered.answer.chart;
    made_ = answered;
    if (!isSameChart) // which is being read
        chart_->setChart(answered.answer.chart);
    drawings_->setStock(asked_.of.market, asked_.of.stock, asked_.day);
    if (const auto wanted = std::exchange(dayWanted_, std::nullopt);
        wanted && wanted->first == answered.asked.of)
        chart_->view().showDay(wanted->second);
    dossier_->setDossier(answered.answer.dossier, market_);
    verdicts_->setDossier(answered.answer.dossier, market_);
}

/// Brings the bar of a day of the shown stock into sight, at once or when its chart has come.
void WeighPlace::goToDay(Day day)
{
    const Stock of{market_, *shown_};
    if (made_ && made_->asked.of == of)
        chart_->view().showDay(day);
    else
        dayWanted_ = {of, day};
}

/// While the person looks at one candidate, the next undecided one is made ready.
void WeighPlace::prepareNext()
{
    const watchlists::Tray& tray = *desk_.work().now().tray;
    const auto place = placeIn(tray, *market_, asked_.of.stock);
    const auto next = place ? tray.nextUndecided(*place) : std::nullopt;
    const auto stock = next ? stockOf(tray.cards()[*next], *market_) : std::nullopt;
    if (!stock || *stock == asked_.of.stock)
        return;
    Asked ahead = asked_;
    ahead.of.stock = *stock;
    ahead.choices = choicesFor(*stock);
    aheadAsker_.ask(
        [evaluator = desk_.market().evaluator(), book = made_->book,
         lists = desk_.work().now().lists, verdicts = desk_.work().now().verdicts,
         ahead](const Progress& progress) {
            return Answered{ahead, book,
                            answered<Answer>(*evaluator, *book, ahead, lists, *verdicts, nullptr,
                                             false, progress)};
        },
        [this](Answered answered) { prepared_ = std::move(answered); });
}

} // namespace sieve::app
