#include "app/prove/standings_view.h"

#include "app/desk/desk.h"
#include "app/desk/focus.h"
#include "app/desk/market_reader.h"
#include "app/desk/open_market.h"
#include "app/desk/workbench.h"
#include "app/look/look.h"
#include "app/look/tone.h"
#include "app/parts/expression_edit.h"
#include "app/parts/figure_table.h"
#include "app/parts/number_text.h"
#include "app/parts/remembered.h"
#include "app/prove/curve_picture.h"
#include "app/prove/question_panel.h"
#include "app/prove/screen_box.h"
#include "core/studies/keeping.h"
#include "core/studies/study_sheets.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDateEdit>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QSpinBox>
#include <QSplitter>
#include <QTabWidget>
#include <QTableView>
#include <QVBoxLayout>
#include <algorithm>

namespace sieve::app {

using studies::Standing;
using studies::Standings;

namespace {

constexpr int ofKeptAt = 5; ///< the place of a kept question's screens among the choices

enum class Starts { NewestSessions, SinceDay, OneDay };

AnswerModel::Cell cellOf(const Standings& standings, std::size_t row, std::size_t column)
{
    const Standing& own = standings.of[row];
    const screens::Screen& screen = standings.question.screens[row];
    switch (column) {
    case 0:
        return {text(screen.name)};
    case 1:
        return changeCell(own.gain.mean);
    case 2:
        return changeCell(own.meanAll);
    case 3:
        return changeCell(own.meanBenchmark);
    case 4:
        return shareCell(own.chance, 1);
    case 5:
        return shareCell(own.worstFall, 1);
    case 6:
        return shareCell(own.gain.shareUp, 0);
    case 7:
        return shareCell(own.shareAboveAll, 0);
    case 8:
        return shareCell(own.gain.deviation, 1);
    case 9:
        return changeCell(own.gain.least);
    case 10:
        return figureCell(own.meanPicks, 1);
    case 11:
        return figureCell(static_cast<double>(own.fewer), 0);
    default:
        return {standings.faults[row]                       ? StandingsView::tr("has a fault")
                : screen.side == screens::ScreenSide::Short ? StandingsView::tr("short")
                                                            : StandingsView::tr("long")};
    }
}

} // namespace

StandingsView::StandingsView(Desk& desk)
    : StudyView(desk, new QuestionPanel(tr("Standings of screens")), "prove.standings"),
      which_(new QComboBox), starts_(new QComboBox), from_(dayBox(tr("From"))),
      newest_(countBox(tr("Newest sessions"), 250, 1, 5000, tr(" sessions"))),
      held_(countBox(tr("Held"), 0, 0, studies::longestHorizon, tr(" sessions"), tr("to the end"))),
      best_(countBox(tr("Best"), 0, 0, 10'000, tr(" stocks"), tr("as each screen keeps"))),
      every_(countBox(tr("Every"), 1, 1, 250, tr(". session"))), weights_(new ExpressionEdit),
      besides_(countBox(tr("Beside"), 0, 0, 5000, tr(" newest sessions"), tr("nothing"))),
      dividends_(new QCheckBox(tr("Dividends count"))), model_(new AnswerModel(this)),
      table_(answerTable(model_, tr("Standings"))), head_(new QLabel), cautions_(new QLabel),
      picture_(new CurvePicture), startsModel_(new AnswerModel(this)),
      startsTable_(answerTable(startsModel_, tr("Starts"))), stocksAsker_(this),
      stocksModel_(new AnswerModel(this)), stocksTold_(new QLabel), tabs_(new QTabWidget),
      statesModel_(new AnswerModel(this)), healthModel_(new AnswerModel(this))
{
    which_->setAccessibleName(tr("Screens"));
    which_->addItems({tr("all screens"), tr("your own"), tr("ready ones"),
                      tr("that look for rises"), tr("that look for falls")});
    starts_->setAccessibleName(tr("Starts"));
    starts_->addItems({tr("each of the newest"), tr("each since a day"), tr("one day alone")});
    weights_->setAccessibleName(tr("Money by"));
    weights_->setPlaceholderText(tr("equally"));
    dividends_->setChecked(true);
    panel_->addField(tr("Of"), which_);
    panel_->addField(
        tr("Starts"), starts_,
        tr("At whose close the screens are put; what they find is bought at the next open"));
    panel_->addField(tr("Newest"), newest_);
    panel_->addField(tr("Since"), from_);
    panel_->addField(tr("Every"), every_);
    panel_->addField(tr("Held"), held_,
                     tr("Sold at the close so many sessions later, or all on the last day"));
    panel_->addField(tr("Best"), best_, tr("By each screen's own ranking"));
    panel_->addField(tr("Money by"), weights_,
                     tr("A figure by which the money is shared, such as market_cap"));
    panel_->addField(tr("Beside"), besides_,
                     tr("A second period in a column of its own: what works now"));
    panel_->addWide(dividends_);
    connect(starts_, &QComboBox::currentIndexChanged, this, &StandingsView::offerStarts);
    offerStarts();
    connect(weights_, &QLineEdit::returnPressed, this, &StandingsView::ask);
    makeAnswer();
}

void StandingsView::offerStarts()
{
    const auto kind = static_cast<Starts>(starts_->currentIndex());
    newest_->setEnabled(kind == Starts::NewestSessions);
    from_->setEnabled(kind != Starts::NewestSessions);
    every_->setEnabled(kind != Starts::OneDay);
}

bool StandingsView::setQuestion(const studies::KeptRun& run)
{
    const auto terms = studies::standingsFromToml(run.question);
    const bool isOneOfNewest = terms && terms->isOneStart && !terms->from; // no field says so
    if (!terms || terms->to || terms->writtenOut.empty() || isOneOfNewest)
        return false;
    ofKept_ = terms->writtenOut;
    const QString words = tr("the %1 of “%2”").arg(ofKept_.size()).arg(text(titleOf(run)));
    if (which_->count() > ofKeptAt)
        which_->setItemText(ofKeptAt, words);
    else
        which_->addItem(words);
    which_->setCurrentIndex(ofKeptAt);
    starts_->setCurrentIndex(static_cast<int>(terms->isOneStart && terms->from ? Starts::OneDay
                                              : terms->from                    ? Starts::SinceDay
                                                            : Starts::NewestSessions));
    newest_->setValue(terms->newest.value_or(newest_->value()));
    if (terms->from)
        from_->setDate(dateOf(*terms->from));
    every_->setValue(terms->every);
    held_->setValue(terms->held.value_or(0));
    best_->setValue(terms->best);
    weights_->setText(text(terms->weights));
    dividends_->setChecked(terms->dividends == studies::Dividends::Reinvested);
    return true;
}

std::vector<studies::ReportPicture> StandingsView::pictures() const
{
    CurvePicture picture;
    showCurves(picture);
    return {pictureOf(tr("%1, day by day").arg(head_->text()), picture, {reportWidth, 260})};
}

std::vector<StudyView::Table> StandingsView::tables() const
{
    const auto standings = answer_.standings;
    return {{tr("Standings"), [standings] { return studies::sheetOf(*standings); }},
            {tr("Starts"), [standings] { return studies::startsSheet(*standings); }},
            {tr("Curves"), [standings] { return studies::curvesSheet(*standings); }}};
}

void StandingsView::makeAnswer()
{
    setEmptyTexts(tr("Which of your screens work?"),
                  tr("All of them bought on many days, beside all stocks, the benchmark and picks "
                     "by chance."),
                  tr("Ask of all screens"));
    head_->setFont(fontOf(Weight::SemiBold));
    cautions_->setWordWrap(true);
    setTone(cautions_, Tone::Caution);
    connect(table_->selectionModel(), &QItemSelectionModel::currentRowChanged, this,
            &StandingsView::showScreen);
    const auto nameOf = [this] {
        const auto at = chosen();
        return at ? text(answer_.standings->question.screens[*at].name) : QString();
    };
    connect(table_, &QTableView::activated, this, [this, nameOf] {
        if (chosen())
            Q_EMIT screenChosen(nameOf());
    });
    auto* open = new QPushButton(tr("&Open in Sift"));
    connect(open, &QPushButton::clicked, this, [this, nameOf] {
        if (chosen())
            Q_EMIT screenChosen(nameOf());
    });
    auto* followed = new QPushButton(tr("What &followed"));
    connect(followed, &QPushButton::clicked, this, [this, nameOf] {
        if (chosen())
            Q_EMIT followedWanted(nameOf());
    });
    auto* headRow = new QHBoxLayout;
    headRow->addWidget(head_, 1);
    headRow->addWidget(followed);
    headRow->addWidget(open);
    tabs_->setDocumentMode(true);
    tabs_->addTab(picture_, tr("Day by day"));
    tabs_->addTab(startsTable_, tr("Start by start"));
    auto* stocksTable = answerTable(stocksModel_, tr("Stocks of a start"));
    auto* stocks = new QWidget;
    auto* stocksLayout = new QVBoxLayout(stocks);
    stocksLayout->setContentsMargins(0, 4, 0, 0);
    stocksLayout->addWidget(stocksTold_);
    stocksLayout->addWidget(stocksTable, 1);
    tabs_->addTab(stocks, tr("Stocks of a start"));
    startsTable_->setToolTip(tr("Return shows the stocks that were bought"));
    connect(startsTable_, &QTableView::activated, this, &StandingsView::askStocks);
    connect(stocksTable, &QTableView::activated, this, [this, stocksTable] {
        if (const int row = chosenRow(stocksTable); row >= 0)
            Q_EMIT stockChosen(stocks_[static_cast<std::size_t>(row)].stock, stocksOn_);
    });
    connect(&stocksAsker_, &Asker::failed, &desk_, &Desk::noticed);
    tabs_->addTab(answerTable(statesModel_, tr("By the market")), tr("By the market"));
    auto* health = answerTable(healthModel_, tr("All together"));
    tabs_->addTab(health, tr("All together"));
    tabs_->setTabToolTip(tabs_->indexOf(health), tr("How the screens of each side do together"));
    remember(tabs_, "prove.standings_tab");
    auto* lower = new QWidget;
    auto* lowerLayout = new QVBoxLayout(lower);
    lowerLayout->setContentsMargins(0, 4, 0, 0);
    lowerLayout->addLayout(headRow);
    lowerLayout->addWidget(cautions_);
    lowerLayout->addWidget(tabs_, 1);
    auto* below = new QSplitter(Qt::Vertical);
    remember(below, "prove.standings_below");
    below->setChildrenCollapsible(false);
    below->setHandleWidth(8);
    below->addWidget(table_);
    below->addWidget(lower);
    below->setSizes({300, 320});
    inside()->addWidget(below, 1);
}

void StandingsView::refresh()
{
    if (!desk_.market().isOpen())
        return;
    const auto sessions = desk_.market().data().sessions();
    const bool isOther = from_->maximumDate() != dateOf(sessions.back());
    from_->setDateRange(dateOf(sessions.front()), dateOf(sessions.back()));
    if (isOther)
        from_->setDate(
            dateOf(sessions[sessions.size() - std::min<std::size_t>(sessions.size(), 251)]));
}

void StandingsView::takeExample()
{
    ask();
}

void StandingsView::forget()
{
    stocksAsker_.stop();
    answer_ = {};
}

studies::StandingsTerms StandingsView::terms() const
{
    studies::StandingsTerms terms;
    const auto kind = static_cast<Starts>(starts_->currentIndex());
    if (kind == Starts::NewestSessions)
        terms.newest = newest_->value();
    else
        terms.from = dayOf(from_->date());
    terms.isOneStart = kind == Starts::OneDay;
    terms.every = every_->value();
    if (held_->value() > 0)
        terms.held = held_->value();
    terms.best = best_->value();
    terms.weights = utf8(weights_->text().trimmed());
    terms.dividends =
        dividends_->isChecked() ? studies::Dividends::Reinvested : studies::Dividends::LeftOut;
    return terms;
}

std::vector<screens::Screen> StandingsView::screens() const
{
    const Work& work = desk_.work().now();
    std::vector<screens::Screen> all;
    if (which_->currentIndex() == ofKeptAt)
        return ofKept_;
    if (which_->currentIndex() == 1)
        for (const auto& kept : work.screens)
            all.push_back(kept->screen);
    else
        all = allScreens(work);
    std::erase_if(all, [&](const screens::Screen& screen) {
        const bool isOwn = std::ranges::any_of(
            work.screens, [&](const auto& kept) { return kept->screen.name == screen.name; });
        const bool isShort = screen.side == screens::ScreenSide::Short;
        return (which_->currentIndex() == 2 && isOwn) || (which_->currentIndex() == 3 && isShort) ||
               (which_->currentIndex() == 4 && !isShort);
    });
    return all;
}

void StandingsView::ask()
{
    if (!desk_.market().isOpen())
        return;
    const std::vector<screens::Screen> asked = screens();
    if (asked.empty()) {
        tell(tr("You have no screen of that kind yet."));
        return;
    }
    run(
        tr("Putting %1 screens to the market…").arg(asked.size()),
        [evaluator = desk_.market().evaluator(), book = desk_.work().nameBook(), asked,
         terms = terms(), besides = besides_->value(), reading = desk_.conditions().reading(),
         day = desk_.focus().day()](
            const Progress& progress) -> Result<std::shared_ptr<const Answer>> {
            const market::Market& market = evaluator->market();
            const auto put = [&](const studies::StandingsTerms& own) {
                return studies::standingsOf(studies::questionOf(own, asked, market, day),
                                            book->names(), *evaluator, progress);
            };
            auto made = put(terms);
            if (!made)
                return made.error();
            Answer answer;
            answer.market = evaluator->marketPtr();
            for (std::size_t at = 0; at < made->of.size(); ++at)
                answer.cautions.push_back(studies::cautionsOf(*made, at));
            answer.kept = studies::keptOf(*made, terms, day);
            answer.rising = studies::healthOf(*made, screens::ScreenSide::Long);
            answer.falling = studies::healthOf(*made, screens::ScreenSide::Short);
            answer.standings = std::make_shared<const Standings>(*std::move(made));
            if (besides > 0) {
                studies::StandingsTerms newest = terms;
                newest.from.reset();
                newest.newest = besides;
                newest.isOneStart = true;
                newest.held.reset();
                newest.picks = 0;
                auto other = put(newest);
                if (!other)
                    return other.error();
                answer.other = std::make_shared<const Standings>(*std::move(other));
            }
            if (reading)
                answer.states =
                    studies::namesOfStarts(*answer.standings, studies::statesOf(*reading));
            return std::make_shared<const Answer>(std::move(answer));
        },
        [this](const std::shared_ptr<const Answer>& answer) {
            answer_ = *answer;
            tellAnswer(sentence(), {});
            showRows();
            showHealth();
        });
}

std::optional<std::size_t> StandingsView::chosen() const
{
    const int row = answer_.standings ? chosenRow(table_) : -1;
    return row < 0 ? std::nullopt : std::optional(static_cast<std::size_t>(row));
}

QString StandingsView::sentence() const
{
    const auto standings = answer_.standings;
    const std::size_t starts = standings->startAt.size();
    const QString held = standings->question.held
                             ? tr("held %1 sessions").arg(*standings->question.held)
                             : tr("held to %1").arg(shortDayText(standings->sessions.back()));
    if (starts == 1)
        return tr("%1 screens, bought after %2, %3.")
            .arg(standings->of.size())
            .arg(shortDayText(standings->question.starts.front()), held);
    return tr("%1 screens, bought after each of %2 days from %3 on, %4.")
        .arg(standings->of.size())
        .arg(countText(starts), shortDayText(standings->question.starts.front()), held);
}

void StandingsView::showRows()
{
    const auto standings = answer_.standings;
    const auto other = answer_.other;
    std::vector<AnswerModel::Column> columns{
        {tr("Screen"), {}, false},
        {tr("Gain"), tr("Mean over the starts")},
        {tr("All"), tr("Mean of all stocks of its universe from the same days")},
        {tr("Index"), tr("Mean of the benchmark from the same days")},
        {tr("Chance"), tr("Share of picks by chance, on the same days, that did as well")},
        {tr("Worst fall"), tr("Of money that always lies in what the starts hold")},
        {tr("Gained"), tr("Share of starts that gained")},
        {tr("Above all"), tr("Share of starts that did better than all stocks")},
        {tr("Spread"), tr("Standard deviation over the starts: the smaller, the steadier")},
        {tr("Worst start")},
        {tr("Stocks"), tr("Bought on average")},
        {tr("Fewer"), tr("Starts with fewer stocks than wanted, or none")},
        {tr("Side"), tr("What it looks for: a rise, or a fall that is sold short"), false}};
    if (other)
        columns.insert(columns.begin() + 2, {tr("Newest %1").arg(other->sessions.size() - 1),
                                             tr("Gain since then: what works now")});
    model_->show(std::move(columns), standings->of.size(),
                 [standings, other](std::size_t row, std::size_t column) {
                     if (other && column == 2)
                         return changeCell(other->of[row].gain.mean);
                     return cellOf(*standings, row, other && column > 2 ? column - 1 : column);
                 });
    table_->sortByColumn(1, Qt::DescendingOrder);
    if (!standings->of.empty())
        table_->setCurrentIndex(table_->model()->index(0, 0));
    showScreen();
}

/// What the chosen screen bought after the chosen start.
void StandingsView::askStocks()
{
    const auto screen = chosen();
    const int row = chosenRow(startsTable_);
    if (!screen || row < 0 || !desk_.market().isOpen())
        return;
    const auto start = static_cast<std::size_t>(row);
    stocksOn_ = answer_.standings->question.starts[start];
    stocksTold_->setText(tr("Looking…"));
    tabs_->setCurrentIndex(tabs_->indexOf(stocksTold_->parentWidget()));
    stocksAsker_.ask(
        [standings = answer_.standings, evaluator = desk_.market().evaluator(),
         book = desk_.work().nameBook(), screen = *screen, start](const Progress& progress) {
            return studies::picksOn(standings->question, screen, start, book->names(), *evaluator,
                                    progress);
        },
        [this](const Result<std::vector<studies::StandingPick>>& picks) {
            if (picks)
                showStocks(*picks);
            else
                stocksTold_->setText(text(sieve::sentence(picks.error())));
        });
}

void StandingsView::showStocks(const std::vector<studies::StandingPick>& picks)
{
    stocks_ = picks;
    stocksTold_->setText(tr("%1, after the close of %2: %3 stocks")
                             .arg(head_->text(), shortDayText(stocksOn_))
                             .arg(picks.size()));
    stocksModel_->show(
        {{tr("Symbol"), {}, false},
         {tr("Name"), {}, false},
         {tr("Of the money")},
         {tr("Gain"), tr("To the end")}},
        picks.size(),
        [picks, market = answer_.market, on = stocksOn_](std::size_t row, std::size_t column) {
            const studies::StandingPick& pick = picks[row];
            const market::Instrument& stock = market->instrument(pick.stock);
            switch (column) {
            case 0:
                return AnswerModel::Cell{text(market::symbolOn(stock, on))};
            case 1:
                return AnswerModel::Cell{text(stock.name)};
            case 2:
                return shareCell(pick.weight, 1);
            default:
                return changeCell(pick.gain);
            }
        });
}

/// The newest start first: are screens of that side working now?
void StandingsView::showHealth()
{
    const auto answer = std::make_shared<const Answer>(answer_);
    const std::size_t starts = answer->standings->startAt.size();
    healthModel_->show({{tr("After the close of")},
                        {tr("Long screens"), tr("Mean gain of the screens that look for rises")},
                        {tr("Gained"), tr("Share of them that gained")},
                        {tr("Short screens"), tr("Mean gain of the screens that look for falls")},
                        {tr("Gained"), tr("Share of them that gained")},
                        {tr("Benchmark")}},
                       starts, [answer, starts](std::size_t row, std::size_t column) {
                           const std::size_t start = starts - 1 - row;
                           switch (column) {
                           case 0:
                               return dayCell(answer->standings->question.starts[start]);
                           case 1:
                               return changeCell(answer->rising.gain[start]);
                           case 2:
                               return shareCell(answer->rising.share[start], 0);
                           case 3:
                               return changeCell(answer->falling.gain[start]);
                           case 4:
                               return shareCell(answer->falling.share[start], 0);
                           default:
                               return changeCell(answer->standings->of.front().benchmark[start]);
                           }
                       });
}

void StandingsView::showCurves(CurvePicture& picture) const
{
    const auto at = chosen();
    if (!at)
        return picture.show({}, {});
    const auto standings = answer_.standings;
    const Standing& own = standings->of[*at];
    std::vector<CurvePicture::Curve> curves;
    if (!own.curve.empty())
        curves.push_back({head_->text(), own.curve, CurvePicture::Tint::Own});
    if (!own.curve.empty() && !standings->benchmarkCurve.empty())
        curves.push_back(
            {tr("benchmark"), standings->benchmarkCurve, CurvePicture::Tint::Benchmark});
    picture.show(standings->sessions, std::move(curves));
}

void StandingsView::showScreen()
{
    const auto at = chosen();
    head_->setText(at ? text(answer_.standings->question.screens[*at].name) : QString());
    if (!at) {
        cautions_->hide();
        showCurves(*picture_);
        return;
    }
    const auto standings = answer_.standings;
    const Standing& own = standings->of[*at];
    const auto& cautions = answer_.cautions[*at];
    cautions_->setText(cautionsText(cautions));
    cautions_->setVisible(!cautions.empty());
    showCurves(*picture_);
    stocksAsker_.stop();
    stocks_.clear();
    stocksModel_->show({}, 0, {});
    stocksTold_->setText(tr("Choose a start under Start by start, and press Return."));
    startsModel_->show(
        {{tr("After the close of")},
         {tr("Stocks")},
         {tr("Gain")},
         {tr("All stocks")},
         {tr("Benchmark")}},
        own.gains.size(), [standings, screen = *at](std::size_t row, std::size_t column) {
            const Standing& told = standings->of[screen];
            switch (column) {
            case 0: {
                const Day start = standings->question.starts[row];
                return AnswerModel::Cell{shortDayText(start), static_cast<double>(start.serial())};
            }
            case 1:
                return figureCell(static_cast<double>(told.picks[row]), 0);
            case 2:
                return changeCell(told.gains[row]);
            case 3:
                return changeCell(told.all[row]);
            default:
                return changeCell(told.benchmark[row]);
            }
        });
    const auto by = std::make_shared<const std::vector<studies::Spread>>(
        answer_.states.names.empty() || own.gains.empty()
            ? std::vector<studies::Spread>()
            : studies::gainsBy(own, answer_.states.places, answer_.states.names.size()));
    statesModel_->show({{tr("The market was"), {}, false},
                        {tr("Starts")},
                        {tr("Gain")},
                        {tr("Median")},
                        {tr("Gained")}},
                       by->size(),
                       [by, names = answer_.states.names](std::size_t row, std::size_t column) {
                           const studies::Spread& told = (*by)[row];
                           switch (column) {
                           case 0:
                               return AnswerModel::Cell{text(names[row])};
                           case 1:
                               return figureCell(static_cast<double>(told.known), 0);
                           case 2:
                               return changeCell(told.mean);
                           case 3:
                               return changeCell(told.median);
                           default:
                               return shareCell(told.shareUp, 0);
                           }
                       });
}

} // namespace sieve::app
