#include "app/prove/followed_view.h"

#include "app/desk/desk.h"
#include "app/desk/focus.h"
#include "app/desk/market_reader.h"
#include "app/desk/open_market.h"
#include "app/desk/workbench.h"
#include "app/look/look.h"
#include "app/look/tone.h"
#include "app/parts/empty_page.h"
#include "app/parts/expression_edit.h"
#include "app/parts/figure_table.h"
#include "app/parts/number_text.h"
#include "app/parts/remembered.h"
#include "app/prove/change_picture.h"
#include "app/prove/neighbours_view.h"
#include "app/prove/question_panel.h"
#include "app/prove/screen_box.h"
#include "core/screens/limits.h"
#include "core/studies/cautions.h"

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
#include <numeric>

namespace sieve::app {

namespace {

/// More are not shown one by one.
constexpr std::size_t mostCasesShown = 20'000;

AnswerModel::Cell change(double share, int decimals = 1)
{
    return {signedText(share, Unit::Percent, decimals), share};
}

AnswerModel::Cell share(double part)
{
    return {numberText(part, Unit::Percent, 0), part};
}

AnswerModel::Cell count(std::size_t number)
{
    return {countText(number), static_cast<double>(number)};
}

QString between(const studies::Interval& interval)
{
    if (isMissing(interval.low))
        return QString(missingText);
    return FollowedView::tr("%1 to %2")
        .arg(signedText(interval.low, Unit::Percent, 1),
             signedText(interval.high, Unit::Percent, 1));
}

QDateEdit* dayBox(const QString& name)
{
    auto* box = new QDateEdit;
    box->setAccessibleName(name);
    box->setCalendarPopup(true);
    box->setDisplayFormat(QStringLiteral("d MMM yyyy"));
    box->setLocale(QLocale::c());
    return box;
}

} // namespace

FollowedView::FollowedView(Desk& desk)
    : desk_(desk), asker_(this), panel_(new QuestionPanel(tr("What followed"))),
      screen_(new ScreenBox(tr("A condition"))), condition_(new ExpressionEdit),
      universe_(new ExpressionEdit), horizons_(new QLineEdit(QStringLiteral("1  5  20  60"))),
      from_(dayBox(tr("From"))), to_(dayBox(tr("To"))), bought_(new QComboBox),
      counted_(new QComboBox), dividends_(new QCheckBox(tr("Dividends count"))),
      strength_(new ExpressionEdit), told_(new QLabel), cautions_(new QLabel),
      picture_(new ChangePicture), horizonsModel_(new AnswerModel(this)),
      horizonsTable_(answerTable(horizonsModel_, tr("Horizons"))), by_(new QComboBox),
      groupsModel_(new AnswerModel(this)), casesModel_(new AnswerModel(this)),
      casesTable_(answerTable(casesModel_, tr("Cases"))), casesTold_(new QLabel),
      neighbours_(new NeighboursView(desk)), empty_(new EmptyPage), inside_(nullptr)
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
    panel_->addWide(dividends_);
    connect(panel_, &QuestionPanel::asked, this, &FollowedView::ask);
    connect(panel_, &QuestionPanel::stopped, this, [this] {
        asker_.stop();
        panel_->setBusy(false);
    });
    for (QLineEdit* line : {static_cast<QLineEdit*>(condition_), static_cast<QLineEdit*>(universe_),
                            static_cast<QLineEdit*>(strength_), horizons_})
        connect(line, &QLineEdit::returnPressed, this, &FollowedView::ask);
    connect(&asker_, &Asker::failed, &desk, &Desk::noticed);
    connect(&asker_, &Asker::failed, this, [this] { panel_->setBusy(false); });
    connect(&asker_, &Asker::progressed, panel_, &QuestionPanel::tellProgress);
    auto* split = new QSplitter;
    remember(split, "prove.followed");
    split->setChildrenCollapsible(false);
    split->setHandleWidth(8);
    split->addWidget(panel_);
    split->addWidget(makeAnswer());
    split->setSizes({280, 900});
    split->setStretchFactor(1, 1);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->addWidget(split);
}

QWidget* FollowedView::makeAnswer()
{
    auto* answer = new QWidget;
    told_->setWordWrap(true);
    told_->setFont(fontOf(Weight::Medium, 1.08));
    told_->hide();
    empty_->setTexts(
        tr("How did it go on?"),
        tr("Of a screen or a condition: its matches beside all stocks on the same days, "
           "and how much could be luck."),
        tr("Ask of new highs of a year"));
    connect(empty_, &EmptyPage::stepTaken, this, [this] {
        condition_->setText(condition_->placeholderText());
        ask();
    });
    cautions_->setWordWrap(true);
    setTone(cautions_, Tone::Caution);
    inside_ = new QWidget;
    connect(horizonsTable_->selectionModel(), &QItemSelectionModel::currentRowChanged, this,
            &FollowedView::showHorizon);
    by_->setAccessibleName(tr("Told apart by"));
    by_->addItems({tr("year"), tr("state of the market"), tr("stance"), tr("sector"),
                   tr("industry"), tr("fifths of the figure")});
    remember(by_, "prove.followed_by");
    connect(by_, &QComboBox::currentIndexChanged, this, &FollowedView::showGroups);
    auto* wall = new QPushButton(tr("&Wall of these cases"));
    wall->setToolTip(tr("Their charts, with the day marked"));
    connect(wall, &QPushButton::clicked, this, [this] {
        if (!answer_.following)
            return;
        std::vector<charts::MarkedDay> cases;
        const std::string words = answer_.following->question.screen.name;
        for (const std::size_t at : shownCases_) {
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
        const auto& of = answer_.following->cases[shownCases_[static_cast<std::size_t>(row)]];
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
    groupsTable_ = answerTable(groupsModel_, tr("Groups of cases"));
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
    auto* insideLayout = new QVBoxLayout(inside_);
    insideLayout->setContentsMargins(0, 0, 0, 0);
    insideLayout->addWidget(horizonsTable_);
    insideLayout->addWidget(cautions_);
    insideLayout->addWidget(below, 1);
    inside_->hide();
    auto* layout = new QVBoxLayout(answer);
    layout->setContentsMargins(8, 0, 0, 0);
    layout->addWidget(told_);
    layout->addWidget(empty_, 1);
    layout->addWidget(inside_, 1);
    layout->addStretch(0);
    return answer;
}

void FollowedView::refresh()
{
    screen_->offer(desk_.work().now());
    if (!desk_.market().isOpen())
        return;
    const auto sessions = desk_.market().data().sessions();
    const QDate first = dateOf(sessions.front());
    const QDate last = dateOf(sessions.back());
    const bool isNew = from_->minimumDate() != first || to_->maximumDate() != last;
    for (QDateEdit* box : {from_, to_})
        box->setDateRange(first, last);
    if (isNew) {
        from_->setDate(first);
        to_->setDate(last);
    }
    if (answer_.market != desk_.market().evaluator()->marketPtr()) {
        answer_ = {};
        inside_->hide();
        told_->hide();
        empty_->show();
    }
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
    asked.boughtAt =
        bought_->currentIndex() == 1 ? studies::BoughtAt::Close : studies::BoughtAt::NextOpen;
    asked.isEveryMatch = counted_->currentIndex() == 1;
    asked.dividends =
        dividends_->isChecked() ? studies::Dividends::Reinvested : studies::Dividends::LeftOut;
    if (const std::string strength = utf8(strength_->text().trimmed()); !strength.empty())
        asked.strengths = {strength};
    return asked;
}

void FollowedView::askOf(const QString& screen)
{
    screen_->offer(desk_.work().now());
    screen_->choose(screen);
    condition_->clear();
    universe_->clear();
    ask();
}

void FollowedView::askOfScreenInHand()
{
    screen_->offer(desk_.work().now());
    screen_->chooseInHand();
    condition_->clear();
    universe_->clear();
    ask();
}

void FollowedView::tell(const QString& what)
{
    empty_->hide();
    told_->setText(what);
    told_->show();
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
    panel_->setBusy(true);
    tell(tr("Looking through all stocks and days…"));
    asker_.ask(
        [evaluator = desk_.market().evaluator(), book = desk_.work().nameBook(), asked,
         reading = desk_.conditions().reading(), day = desk_.focus().day()](
            const Progress& progress) -> Result<std::shared_ptr<const Answer>> {
            auto made = studies::followingOf(asked, book->names(), *evaluator, day, progress);
            if (!made)
                return made.error();
            Answer answer;
            answer.market = evaluator->marketPtr();
            answer.following = std::make_shared<const studies::Following>(*std::move(made));
            if (reading) {
                answer.states = studies::statesOf(*reading);
                answer.stances = studies::stancesOf(*reading);
            }
            return std::make_shared<const Answer>(std::move(answer));
        },
        [this](const Result<std::shared_ptr<const Answer>>& answer) { take(answer); });
}

void FollowedView::take(const Result<std::shared_ptr<const Answer>>& answer)
{
    panel_->setBusy(false);
    if (!answer) {
        tell(text(sentence(answer.error())));
        inside_->hide();
        return;
    }
    answer_ = **answer;
    inside_->show();
    showHorizons();
    showCases();
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
                return count(static_cast<std::size_t>(told.bars));
            case 1:
                return count(told.own.known);
            case 2:
                return change(told.own.mean);
            case 3:
                return change(told.own.mean - told.excess);
            case 4:
                return change(told.excess);
            case 5:
                return AnswerModel::Cell{between(told.sure.excess), told.sure.excess.low};
            case 6:
                return AnswerModel::Cell{numberText(told.chance, Unit::Percent, 1), told.chance};
            case 7:
                return AnswerModel::Cell{numberText(told.effective, Unit::Plain, 0),
                                         told.effective};
            case 8:
                return change(told.own.median);
            case 9:
                return share(told.own.shareUp);
            case 10:
                return share(told.all.shareUp);
            case 11:
                return change(studies::spreadOf(told.lowest).median);
            case 12:
                return change(studies::spreadOf(told.highest).median);
            case 13: {
                const double bars = studies::spreadOf(told.barsToBest).median;
                return AnswerModel::Cell{numberText(bars, Unit::Plain, 0), bars};
            }
            case 14:
                return change(told.repeated.mean);
            default:
                return AnswerModel::Cell{between(told.sure.mean), told.sure.mean.low};
            }
        });
    fitColumns(horizonsTable_);
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
    const studies::FollowedHorizon& told = answer_.following->horizons[at];
    if (told.own.known == 0)
        told_->setText(
            answer_.following->cases.empty()
                ? tr("It never matched in these years.")
                : tr("Of no case is it known yet what followed after %1 bars.").arg(told.bars));
    else
        told_->setText(
            tr("After %1 bars the %2 cases had changed by %3 on average; all stocks on the "
               "same days by %4.")
                .arg(told.bars)
                .arg(countText(told.own.known), signedText(told.own.mean, Unit::Percent, 1),
                     signedText(told.own.mean - told.excess, Unit::Percent, 1)));
    QStringList cautions;
    for (const studies::Caution& caution : studies::cautionsOf(*answer_.following, at))
        cautions << text(caution.words);
    cautions_->setText(cautionsText(cautions));
    cautions_->setVisible(!cautions.isEmpty());
    picture_->show(answer_.following, at);
    neighbours_->setQuestion(answer_.following->question, at);
    showGroups();
}

void FollowedView::showGroups()
{
    if (!answer_.following)
        return;
    const studies::Following& following = *answer_.following;
    studies::CaseGroups groups;
    switch (by_->currentIndex()) {
    case 1:
        groups = studies::byDays(following, "state", answer_.states.days, answer_.states.names);
        break;
    case 2:
        groups = studies::byDays(following, "stance", answer_.stances.days, answer_.stances.names);
        break;
    case 3:
        groups = studies::byText(following, *answer_.market, market::TextField::Sector, "sector");
        break;
    case 4:
        groups =
            studies::byText(following, *answer_.market, market::TextField::Industry, "industry");
        break;
    case 5:
        if (!following.strengths.empty())
            groups = studies::byStrength(following, 0);
        break;
    default:
        groups = studies::byYear(following);
    }
    const bool isWithoutFigure = by_->currentIndex() == 5 && following.strengths.empty();
    const auto rows = std::make_shared<const std::vector<studies::GroupTold>>(
        isWithoutFigure ? std::vector<studies::GroupTold>()
                        : studies::groupsTold(following, groups, horizon()));
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
                               return count(told.own.known);
                           case 2:
                               return change(told.own.mean);
                           case 3:
                               return change(told.own.median);
                           case 4:
                               return share(told.own.shareUp);
                           case 5:
                               return change(told.others);
                           default:
                               return change(told.own.mean - told.others);
                           }
                       });
    fitColumns(groupsTable_);
}

void FollowedView::showCases()
{
    const auto following = answer_.following;
    shownCases_.resize(following->cases.size());
    std::iota(shownCases_.begin(), shownCases_.end(), std::size_t{0});
    std::ranges::stable_sort(shownCases_, std::ranges::greater{},
                             [&](std::size_t at) { return following->cases[at].day; });
    if (shownCases_.size() > mostCasesShown)
        shownCases_.resize(mostCasesShown);
    casesTold_->setText(
        shownCases_.size() < following->cases.size()
            ? tr("The newest %1 of %2 cases")
                  .arg(countText(shownCases_.size()), countText(following->cases.size()))
            : tr("%1 cases of %2 stocks on %3 days")
                  .arg(countText(following->cases.size()), countText(following->stocks),
                       countText(following->daysWithCases)));
    std::vector<AnswerModel::Column> columns{
        {tr("Symbol"), {}, false}, {tr("On")}, {tr("Bought at")}};
    for (const auto& each : following->horizons)
        columns.push_back({tr("After %1").arg(each.bars)});
    columns.push_back({tr("Low"), tr("On the way, to the last horizon")});
    columns.push_back({tr("High"), tr("On the way, to the last horizon")});
    casesModel_->show(
        std::move(columns), shownCases_.size(),
        [following, market = answer_.market, shown = shownCases_](std::size_t row,
                                                                  std::size_t column) {
            const std::size_t at = shown[row];
            const studies::FollowedCase& each = following->cases[at];
            const std::size_t horizons = following->horizons.size();
            switch (column) {
            case 0:
                return AnswerModel::Cell{
                    text(market::symbolOn(market->instrument(each.of.stock), each.day))};
            case 1:
                return AnswerModel::Cell{shortDayText(each.day),
                                         static_cast<double>(each.day.serial())};
            case 2:
                return AnswerModel::Cell{numberText(each.bought, Unit::Plain, 2), each.bought};
            default:
                if (column - 3 < horizons)
                    return change(following->horizons[column - 3].changes[at]);
                return column - 3 == horizons ? change(following->horizons.back().lowest[at])
                                              : change(following->horizons.back().highest[at]);
            }
        });
    fitColumns(casesTable_);
}

} // namespace sieve::app
