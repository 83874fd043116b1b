#include "app/prove/followed_view.h"

#include "app/desk/desk.h"
#include "app/desk/focus.h"
#include "app/desk/market_reader.h"
#include "app/desk/open_market.h"
#include "app/desk/workbench.h"
#include "app/look/tone.h"
#include "app/parts/expression_edit.h"
#include "app/parts/figure_table.h"
#include "app/parts/number_text.h"
#include "app/parts/remembered.h"
#include "app/prove/change_picture.h"
#include "app/prove/neighbours_view.h"
#include "app/prove/question_panel.h"
#include "app/prove/screen_box.h"
#include "core/screens/limits.h"
#include "core/studies/keeping.h"
#include "core/studies/study_sheets.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDateEdit>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QPushButton>
#include <QRegularExpression>
#include <QSplitter>
#include <QTabWidget>
#include <QTableView>
#include <QVBoxLayout>
#include <algorithm>

namespace sieve::app {

namespace {

/// More are not shown one by one.
constexpr std::size_t mostCasesShown = 20'000;

QString between(const studies::Interval& interval)
{
    if (isMissing(interval.low))
        return QString(missingText);
    return FollowedView::tr("%1 to %2")
        .arg(signedText(interval.low, Unit::Percent, 1),
             signedText(interval.high, Unit::Percent, 1));
}

} // namespace

FollowedView::FollowedView(Desk& desk)
    : StudyView(desk, new QuestionPanel(tr("What followed")), "prove.followed"), groupsAsker_(this),
      screen_(new ScreenBox(tr("A condition"))), condition_(new ExpressionEdit),
      universe_(new ExpressionEdit), horizons_(new QLineEdit(QStringLiteral("1  5  20  60"))),
      from_(dayBox(tr("From"))), to_(dayBox(tr("To"))), aside_(asideBox()), bought_(new QComboBox),
      counted_(new QComboBox), dividends_(new QCheckBox(tr("Dividends count"))),
      strength_(new ExpressionEdit), picture_(new ChangePicture),
      horizonsModel_(new AnswerModel(this)),
      horizonsTable_(answerTable(horizonsModel_, tr("Horizons"))), by_(new QComboBox),
      groupsModel_(new AnswerModel(this)),
      groupsTable_(answerTable(groupsModel_, tr("Groups of cases"))),
      casesModel_(new AnswerModel(this)), casesTable_(answerTable(casesModel_, tr("Cases"))),
      casesTold_(new QLabel), neighbours_(new NeighboursView(desk))
{
    condition_->setAccessibleName(tr("Condition"));
    condition_->setPlaceholderText(tr("close > highest(prior(close), 250)"));
    universe_->setAccessibleName(tr("Among"));
    universe_->setPlaceholderText(tr("every stock"));
    horizons_->setAccessibleName(tr("After so many bars"));
    strength_->setAccessibleName(tr("Told apart by"));
    strength_->setPlaceholderText(tr("a figure, such as rsi(close, 14)"));
    bought_->setAccessibleName(tr("Bought"));
    bought_->addItems({tr("at the next open"), tr("at that close")});
    counted_->setAccessibleName(tr("Cases"));
    counted_->addItems({tr("when it begins to hold"), tr("each bar on which it holds")});
    dividends_->setChecked(true);
    panel_->addField(tr("Screen"), screen_);
    panel_->addField(tr("Holds"), condition_,
                     tr("A condition of the language; with a screen, one more"));
    panel_->addField(tr("Among"), universe_,
                     tr("The stocks that are asked, and with which the matches are compared"));
    panel_->addField(tr("From"), from_);
    panel_->addField(tr("To"), to_);
    panel_->addField(tr("Cases"), counted_);
    panel_->addField(tr("Bought"), bought_);
    panel_->addField(tr("After"), horizons_, tr("Numbers of bars, up to twelve"));
    panel_->addField(tr("Apart by"), strength_, tr("Cases are told in fifths by this figure"));
    panel_->addAside(aside_);
    panel_->addWide(dividends_);
    panel_->addIdea(tr("the screen's name"));
    for (QLineEdit* line : {static_cast<QLineEdit*>(condition_), static_cast<QLineEdit*>(universe_),
                            static_cast<QLineEdit*>(strength_), horizons_})
        connect(line, &QLineEdit::returnPressed, this, &FollowedView::ask);
    connect(&groupsAsker_, &Asker::failed, &desk, &Desk::noticed);
    makeAnswer();
}

void FollowedView::makeAnswer()
{
    setEmptyTexts(tr("How did it go on?"),
                  tr("Of a screen or a condition: its matches beside all stocks on the same days, "
                     "and how much could be luck."),
                  tr("Ask of new highs of a year"));
    connect(horizonsTable_->selectionModel(), &QItemSelectionModel::currentRowChanged, this,
            &FollowedView::showHorizon);
    by_->setAccessibleName(tr("Told apart by"));
    by_->addItems({tr("year"), tr("state of the market"), tr("stance"), tr("sector"),
                   tr("industry"), tr("fifths of the figure"), tr("the day set aside")});
    remember(by_, "prove.followed_by");
    connect(by_, &QComboBox::currentIndexChanged, this, &FollowedView::askGroups);
    auto* wall = new QPushButton(tr("&Wall of these cases"));
    wall->setToolTip(tr("Their charts, with the day marked"));
    connect(wall, &QPushButton::clicked, this, [this] {
        if (!answer_.following)
            return;
        std::vector<charts::MarkedDay> cases;
        const std::string words = answer_.following->question.screen.name;
        for (const std::size_t at : answer_.newest) {
            const studies::FollowedCase& each = answer_.following->cases[at];
            cases.push_back({each.of.stock, each.day, words.empty() ? "it matched" : words});
            if (cases.size() == 500)
                break;
        }
        Q_EMIT wallWanted(cases, tr("What followed"));
    });
    connect(casesTable_, &QTableView::activated, this, [this] {
        const int row = chosenRow(casesTable_);
        if (row < 0)
            return;
        const auto& of = answer_.following->cases[answer_.newest[static_cast<std::size_t>(row)]];
        Q_EMIT stockChosen(of.of.stock, of.day);
    });
    setTone(casesTold_, Tone::Soft);
    auto* groups = new QWidget;
    auto* groupsLayout = new QVBoxLayout(groups);
    groupsLayout->setContentsMargins(0, 4, 0, 0);
    auto* byRow = new QHBoxLayout;
    byRow->addWidget(new QLabel(tr("Told apart by")));
    byRow->addWidget(by_);
    byRow->addStretch(1);
    groupsLayout->addLayout(byRow);
    groupsLayout->addWidget(groupsTable_, 1);
    auto* cases = new QWidget;
    auto* casesLayout = new QVBoxLayout(cases);
    casesLayout->setContentsMargins(0, 4, 0, 0);
    auto* casesRow = new QHBoxLayout;
    casesRow->addWidget(casesTold_, 1);
    casesRow->addWidget(wall);
    casesLayout->addLayout(casesRow);
    casesLayout->addWidget(casesTable_, 1);
    auto* tabs = new QTabWidget;
    tabs->setDocumentMode(true);
    tabs->addTab(groups, tr("When and where"));
    tabs->addTab(cases, tr("Cases"));
    tabs->addTab(neighbours_, tr("Neighbours"));
    remember(tabs, "prove.followed_tab");
    auto* below = new QSplitter(Qt::Vertical);
    remember(below, "prove.followed_below");
    below->setChildrenCollapsible(false);
    below->setHandleWidth(8);
    below->addWidget(picture_);
    below->addWidget(tabs);
    below->setSizes({230, 260});
    inside()->addWidget(horizonsTable_);
    inside()->addWidget(below, 1);
}

void FollowedView::refresh()
{
    screen_->offer(desk_.work().now());
    if (!desk_.market().isOpen())
        return;
    offerDays(from_, to_, desk_.market().data());
    offerAside(aside_, desk_.market().data());
}

void FollowedView::takeExample()
{
    condition_->setText(condition_->placeholderText());
    ask();
}

void FollowedView::forget()
{
    groupsAsker_.stop();
    answer_ = {};
}

studies::FollowingQuestion FollowedView::question() const
{
    studies::FollowingQuestion asked;
    if (const auto screen = screen_->screen(desk_.work().now()))
        asked.screen = *screen;
    if (const std::string condition = utf8(condition_->text().trimmed()); !condition.empty())
        for (const std::string& criterion : screens::criteriaOf(condition))
            asked.screen.criteria.push_back({criterion});
    if (const std::string universe = utf8(universe_->text().trimmed()); !universe.empty())
        asked.screen.universe = universe;
    asked.horizons.clear();
    static const QRegularExpression parting(QStringLiteral("[\\s,;]+"));
    for (const QString& word : horizons_->text().split(parting, Qt::SkipEmptyParts))
        asked.horizons.push_back(word.toInt());
    asked.from = dayOf(from_->date());
    asked.to = dayOf(to_->date());
    asked.setAside = asideOf(aside_);
    asked.boughtAt =
        bought_->currentIndex() == 1 ? studies::BoughtAt::Close : studies::BoughtAt::NextOpen;
    asked.isEveryMatch = counted_->currentIndex() == 1;
    asked.dividends =
        dividends_->isChecked() ? studies::Dividends::Reinvested : studies::Dividends::LeftOut;
    if (const std::string strength = utf8(strength_->text().trimmed()); !strength.empty())
        asked.strengths = {strength};
    return asked;
}

bool FollowedView::setQuestion(const studies::KeptRun& run)
{
    const auto asked = studies::followingFromToml(
        run.question, [](std::string_view) { return std::optional<screens::Screen>(); });
    if (!asked || asked->strengths.size() > 1 ||
        !showScreen(desk_.work().now(), asked->screen, *screen_, *condition_, universe_))
        return false;
    QStringList horizons;
    for (const int bars : asked->horizons)
        horizons << QString::number(bars);
    horizons_->setText(horizons.join(QStringLiteral("  ")));
    from_->setDate(std::max(dateOf(asked->from), from_->minimumDate()));
    to_->setDate(std::min(dateOf(asked->to), to_->maximumDate()));
    chooseAside(aside_, asked->setAside);
    bought_->setCurrentIndex(asked->boughtAt == studies::BoughtAt::Close ? 1 : 0);
    counted_->setCurrentIndex(asked->isEveryMatch ? 1 : 0);
    dividends_->setChecked(asked->dividends == studies::Dividends::Reinvested);
    strength_->setText(asked->strengths.empty() ? QString() : text(asked->strengths.front()));
    panel_->setIdea(screen_->currentIndex() == 0 ? text(run.name) : QString());
    return true;
}

std::vector<studies::ReportPicture> FollowedView::pictures() const
{
    ChangePicture picture;
    picture.show(answer_.following, horizon());
    const int bars = answer_.following->horizons[horizon()].bars;
    return {
        pictureOf(tr("How the changes after %1 bars lie").arg(bars), picture, {reportWidth, 230})};
}

std::vector<StudyView::Table> FollowedView::tables() const
{
    const auto following = answer_.following;
    return {
        {tr("Cases"),
         [following, market = answer_.market] { return studies::casesSheet(*following, *market); }},
        {tr("Horizons"), [following] { return studies::sheetOf(*following); }},
        {tr("By year"),
         [following] { return studies::groupsSheet(*following, studies::byYear(*following)); },
         true}};
}

std::vector<studies::Caution>
FollowedView::cautionsOfTries(const std::vector<library::Trial>& trials) const
{
    return studies::cautionsOfTries(*answer_.following, horizon(), trials.size());
}

void FollowedView::askOf(const QString& screen)
{
    screen_->offer(desk_.work().now());
    screen_->choose(screen);
    askAlone();
}

void FollowedView::askOfScreenInHand()
{
    screen_->offer(desk_.work().now());
    screen_->chooseInHand();
    askAlone();
}

/// Of the chosen screen, without what was typed beside it.
void FollowedView::askAlone()
{
    condition_->clear();
    universe_->clear();
    ask();
}

void FollowedView::ask()
{
    if (!desk_.market().isOpen())
        return;
    const studies::FollowingQuestion asked = question();
    if (asked.screen.criteria.empty()) {
        tell(tr("Choose a screen or type a condition first."));
        condition_->setFocus();
        return;
    }
    run(
        tr("Looking through all stocks and days…"),
        [evaluator = desk_.market().evaluator(), book = desk_.work().nameBook(), asked,
         reading = desk_.conditions().reading(), day = desk_.focus().day()](
            const Progress& progress) -> Result<std::shared_ptr<const Answer>> {
            auto made = studies::followingOf(asked, book->names(), *evaluator, day, progress);
            if (!made)
                return made.error();
            Answer answer;
            answer.market = evaluator->marketPtr();
            for (std::size_t at = 0; at < made->horizons.size(); ++at)
                answer.cautions.push_back(studies::cautionsOf(*made, at));
            answer.newest = studies::newestCases(*made, mostCasesShown);
            answer.kept = studies::keptOf(*made);
            answer.following = std::make_shared<const studies::Following>(*std::move(made));
            if (reading) {
                answer.states = studies::statesOf(*reading);
                answer.stances = studies::stancesOf(*reading);
            }
            return std::make_shared<const Answer>(std::move(answer));
        },
        [this](const std::shared_ptr<const Answer>& answer) {
            answer_ = *answer;
            showHorizons();
            showCases();
            noteTrial(text(answer_.following->question.screen.name));
        });
}

std::size_t FollowedView::horizon() const
{
    const int row = chosenRow(horizonsTable_);
    return row < 0 ? 0 : static_cast<std::size_t>(row);
}

void FollowedView::showHorizons()
{
    const auto following = answer_.following;
    horizonsModel_->show(
        {{tr("After"), tr("Bars after the match")},
         {tr("Cases"), tr("Of which it is known")},
         {tr("Mean")},
         {tr("All"), tr("Mean of all stocks that traded on the same days")},
         {tr("Difference"), tr("Mean of the cases less that of all stocks on their days")},
         {tr("In 95 of 100"), tr("Between these lies the difference when the days are drawn anew")},
         {tr("Chance"), tr("Share of picks by chance, on the same days, that did as well")},
         {tr("Worth"), tr("As how many independent cases they are worth")},
         {tr("Median")},
         {tr("Gained"), tr("Share of the cases that rose")},
         {tr("All gained"), tr("Share of all stocks that rose, from the same days")},
         {tr("Low"), tr("Median of the lowest point on the way")},
         {tr("High"), tr("Median of the highest point on the way")},
         {tr("At bar"), tr("Median of the bar of the highest point")},
         {tr("Going on"),
          tr("Mean of matches that went on from an earlier one; they are no cases")},
         {tr("Mean in 95 of 100"), tr("Between these lies the mean when the days are drawn anew")}},
        following->horizons.size(), [following](std::size_t row, std::size_t column) {
            const studies::FollowedHorizon& told = following->horizons[row];
            switch (column) {
            case 0:
                return countCell(static_cast<std::size_t>(told.bars));
            case 1:
                return countCell(told.own.known);
            case 2:
                return changeCell(told.own.mean);
            case 3:
                return changeCell(told.own.mean - told.excess);
            case 4:
                return changeCell(told.excess);
            case 5:
                return AnswerModel::Cell{between(told.sure.excess), told.sure.excess.low};
            case 6:
                return shareCell(told.chance, 1);
            case 7:
                return figureCell(told.effective, 0);
            case 8:
                return changeCell(told.own.median);
            case 9:
                return shareCell(told.own.shareUp, 0);
            case 10:
                return shareCell(told.all.shareUp, 0);
            case 11:
                return changeCell(told.lowMedian);
            case 12:
                return changeCell(told.highMedian);
            case 13:
                return figureCell(told.barsToBestMedian, 0);
            case 14:
                return changeCell(told.repeated.mean);
            default:
                return AnswerModel::Cell{between(told.sure.mean), told.sure.mean.low};
            }
        });
    const int rows = static_cast<int>(following->horizons.size());
    const int height = horizonsTable_->horizontalHeader()->sizeHint().height() +
                       std::min(rows, 6) * horizonsTable_->verticalHeader()->defaultSectionSize() +
                       horizonsTable_->style()->pixelMetric(QStyle::PM_ScrollBarExtent) + 6;
    horizonsTable_->setFixedHeight(height);
    chooseRow(horizonsTable_, std::min(2, rows - 1));
    showHorizon();
}

void FollowedView::showHorizon()
{
    if (!answer_.following)
        return;
    const std::size_t at = horizon();
    tellAnswer(sentence(), answer_.cautions[at]);
    picture_->show(answer_.following, at);
    neighbours_->setAnswer(answer_.following, at);
    askGroups();
}

QString FollowedView::sentence() const
{
    const studies::FollowedHorizon& told = answer_.following->horizons[horizon()];
    const QString after = told.bars == 1 ? tr("After 1 bar") : tr("After %1 bars").arg(told.bars);
    if (answer_.following->cases.empty())
        return tr("It never matched in these years.");
    if (told.own.known == 0)
        return tr("%1 nothing is known yet of any case.").arg(after);
    return tr("%1 the %2 cases had changed by %3 on average; all stocks on the same days by %4.")
        .arg(after, countText(told.own.known), signedText(told.own.mean, Unit::Percent, 1),
             signedText(told.own.mean - told.excess, Unit::Percent, 1));
}

studies::CaseGroups FollowedView::groupsOf(const Answer& answer, By by)
{
    const studies::Following& following = *answer.following;
    switch (by) {
    case By::State:
        return studies::byDays(following, "state", answer.states.days, answer.states.names);
    case By::Stance:
        return studies::byDays(following, "stance", answer.stances.days, answer.stances.names);
    case By::Sector:
        return studies::byText(following, *answer.market, market::TextField::Sector, "sector");
    case By::Industry:
        return studies::byText(following, *answer.market, market::TextField::Industry, "industry");
    case By::Fifths:
        if (following.strengths.empty()) // no figure was asked for
            return {{}, {}, std::vector<std::size_t>(following.cases.size())};
        return studies::byStrength(following, 0);
    case By::Aside: {
        if (!following.question.setAside)
            return {{}, {}, std::vector<std::size_t>(following.cases.size())};
        studies::CaseGroups groups = studies::bySplit(following, *following.question.setAside);
        const QString day = shortDayText(*following.question.setAside);
        groups.names = {utf8(tr("before %1").arg(day)), utf8(tr("from %1 on").arg(day))};
        return groups;
    }
    case By::Year:
        break;
    }
    return studies::byYear(following);
}

void FollowedView::askGroups()
{
    if (!answer_.following)
        return;
    groupsAsker_.ask(
        [answer = answer_, by = static_cast<By>(by_->currentIndex()),
         at = horizon()](const Progress&) {
            return studies::groupsTold(*answer.following, groupsOf(answer, by), at);
        },
        [this](const std::vector<studies::GroupTold>& groups) { showGroups(groups); });
}

void FollowedView::showGroups(const std::vector<studies::GroupTold>& groups)
{
    const auto rows = std::make_shared<const std::vector<studies::GroupTold>>(groups);
    groupsModel_->show({{by_->currentText(), {}, false},
                        {tr("Cases")},
                        {tr("Mean")},
                        {tr("Median")},
                        {tr("Gained")},
                        {tr("All stocks")},
                        {tr("Difference")}},
                       rows->size(), [rows](std::size_t row, std::size_t column) {
                           const studies::GroupTold& told = (*rows)[row];
                           switch (column) {
                           case 0:
                               return AnswerModel::Cell{text(told.name)};
                           case 1:
                               return countCell(told.own.known);
                           case 2:
                               return changeCell(told.own.mean);
                           case 3:
                               return changeCell(told.own.median);
                           case 4:
                               return shareCell(told.own.shareUp, 0);
                           case 5:
                               return changeCell(told.others);
                           default:
                               return changeCell(told.own.mean - told.others);
                           }
                       });
}

void FollowedView::showCases()
{
    const auto following = answer_.following;
    casesTold_->setText(
        answer_.newest.size() < following->cases.size()
            ? tr("The newest %1 of %2 cases")
                  .arg(countText(answer_.newest.size()), countText(following->cases.size()))
            : tr("%1 cases of %2 stocks on %3 days")
                  .arg(countText(following->cases.size()), countText(following->stocks),
                       countText(following->daysWithCases)));
    std::vector<AnswerModel::Column> columns{
        {tr("Symbol"), {}, false}, {tr("On")}, {tr("Bought at")}};
    for (const auto& each : following->horizons)
        columns.push_back({tr("After %1").arg(each.bars)});
    columns.push_back({tr("Low"), tr("On the way, to the last horizon")});
    columns.push_back({tr("High"), tr("On the way, to the last horizon")});
    casesModel_->show(std::move(columns), answer_.newest.size(),
                      [following, market = answer_.market,
                       shown = answer_.newest](std::size_t row, std::size_t column) {
                          const std::size_t at = shown[row];
                          const studies::FollowedCase& each = following->cases[at];
                          const std::size_t horizons = following->horizons.size();
                          switch (column) {
                          case 0:
                              return AnswerModel::Cell{text(
                                  market::symbolOn(market->instrument(each.of.stock), each.day))};
                          case 1:
                              return dayCell(each.day);
                          case 2:
                              return figureCell(each.bought, 2);
                          default:
                              if (column - 3 < horizons)
                                  return changeCell(following->horizons[column - 3].changes[at]);
                              return column - 3 == horizons
                                         ? changeCell(following->horizons.back().lowest[at])
                                         : changeCell(following->horizons.back().highest[at]);
                          }
                      });
}

} // namespace sieve::app
