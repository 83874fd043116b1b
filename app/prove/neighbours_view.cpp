#include "app/prove/neighbours_view.h"

#include "app/desk/desk.h"
#include "app/desk/open_market.h"
#include "app/desk/workbench.h"
#include "app/look/tone.h"
#include "app/parts/figure_table.h"
#include "app/parts/number_text.h"
#include "app/parts/remembered.h"
#include "app/prove/neighbour_picture.h"
#include "app/prove/question_panel.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QSignalBlocker>
#include <QSplitter>
#include <QTableView>
#include <QVBoxLayout>

namespace sieve::app {

namespace {

constexpr std::size_t cellsASide = 15; ///< that can be told apart in a small window

} // namespace

NeighboursView::NeighboursView(Desk& desk)
    : desk_(desk), asker_(this), across_(new QComboBox), down_(new QComboBox), told_(new QLabel),
      picture_(new NeighbourPicture), walkModel_(new AnswerModel(this)),
      walkTable_(answerTable(walkModel_, tr("Year by year"))), walkTold_(new QLabel)
{
    across_->setAccessibleName(tr("Limit across"));
    down_->setAccessibleName(tr("Limit upwards"));
    setTone(told_, Tone::Caution);
    told_->setWordWrap(true);
    for (QComboBox* box : {across_, down_}) {
        box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
        box->setMinimumContentsLength(18);
        connect(box, &QComboBox::activated, this, [this] {
            isAsked_ = false;
            ask();
        });
    }
    connect(&asker_, &Asker::failed, &desk, &Desk::noticed);
    connect(&desk.market(), &OpenMarket::opened, this, [this] { following_.reset(); });
    auto* row = new QHBoxLayout;
    row->addWidget(new QLabel(tr("Across")));
    row->addWidget(across_);
    row->addWidget(new QLabel(tr("upwards")));
    row->addWidget(down_);
    row->addStretch(1);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 4, 0, 0);
    layout->addLayout(row);
    layout->addWidget(told_);
    auto* walk = new QWidget;
    auto* walkLayout = new QVBoxLayout(walk);
    walkLayout->setContentsMargins(0, 0, 0, 0);
    walkLayout->addWidget(walkTold_);
    walkLayout->addWidget(walkTable_, 1);
    walkTold_->setWordWrap(true);
    setTone(walkTold_, Tone::Soft);
    auto* split = new QSplitter;
    remember(split, "prove.neighbours");
    split->setChildrenCollapsible(false);
    split->setHandleWidth(8);
    split->addWidget(picture_);
    split->addWidget(walk);
    split->setSizes({480, 400});
    layout->addWidget(split, 1);
    showWalk();
}

void NeighboursView::setAnswer(const std::shared_ptr<const studies::Following>& following,
                               std::size_t horizon)
{
    studies::FollowingQuestion own = following->question;
    own.horizons = {own.horizons.at(horizon)};
    if (following == following_ && own == question_)
        return;
    const bool isOtherScreen = own.screen != question_.screen;
    following_ = following;
    question_ = own;
    isAsked_ = false;
    if (isOtherScreen || movable_.empty())
        offerLimits();
    ask();
}

void NeighboursView::offerLimits()
{
    const QSignalBlocker first(across_);
    const QSignalBlocker second(down_);
    across_->clear();
    down_->clear();
    const auto book = desk_.work().nameBook();
    movable_ = studies::movableLimits(question_.screen, book->names());
    for (const studies::MovedLimit& limit : movable_) {
        const QString words = text(question_.screen.criteria[limit.criterion].text);
        for (QComboBox* box : {across_, down_})
            box->addItem(limit.limit == 0 ? words : tr("%1 (second limit)").arg(words));
    }
    if (movable_.size() > 1)
        down_->setCurrentIndex(1);
}

void NeighboursView::showEvent(QShowEvent* event)
{
    QWidget::showEvent(event);
    ask();
}

void NeighboursView::ask()
{
    if (!isVisible() || isAsked_ || !desk_.market().isOpen() || !following_)
        return;
    isAsked_ = true;
    neighbours_.reset();
    picture_->show(nullptr);
    showWalk();
    told_->show();
    if (movable_.size() < 2 || across_->currentIndex() == down_->currentIndex()) {
        told_->setText(movable_.size() < 2
                           ? tr("This needs a screen with two limits that are numbers, such as "
                                "rsi(close, 14) < 30 and close > 5.")
                           : tr("Choose two different limits."));
        return;
    }
    told_->setText(tr("Moving the limits…"));
    studies::NeighbourQuestion question;
    question.of = question_;
    question.steps = cellsASide;
    question.across = movable_[static_cast<std::size_t>(across_->currentIndex())];
    question.down = movable_[static_cast<std::size_t>(down_->currentIndex())];
    asker_.ask(
        [evaluator = desk_.market().evaluator(), book = desk_.work().nameBook(), question,
         day = following_->day](
            const Progress& progress) -> Result<std::shared_ptr<const studies::Neighbours>> {
            auto made = studies::neighboursOf(question, book->names(), *evaluator, day, progress);
            if (!made)
                return made.error();
            return std::make_shared<const studies::Neighbours>(*std::move(made));
        },
        [this](const Result<std::shared_ptr<const studies::Neighbours>>& answer) {
            if (!answer)
                return told_->setText(text(sentence(answer.error())));
            neighbours_ = *answer;
            picture_->show(neighbours_);
            showWalk();
            const auto cautions = studies::cautionsOf(*neighbours_);
            told_->setText(cautionsText(cautions));
            told_->setVisible(!cautions.empty());
        });
}

/// What the best limits of each year's past made in that year.
void NeighboursView::showWalk()
{
    const auto told = neighbours_;
    const std::size_t years = told ? told->walk.size() : 0;
    walkTold_->setVisible(told != nullptr);
    walkTable_->setVisible(years > 0);
    if (!told)
        return;
    if (years == 0)
        return walkTold_->setText(
            tr("No year has limits with %1 cases before it: there is nothing to walk forward from.")
                .arg(studies::fewWalked));
    const studies::WalkTold sum = studies::walkToldOf(told->walk);
    walkTold_->setText(
        tr("Walk forward: the limits that were best before each year made %1 over all stocks in "
           "it; before it they had made %2. Your own made %3.")
            .arg(signedText(sum.after, Unit::Percent, 1), signedText(sum.before, Unit::Percent, 1),
                 signedText(sum.own, Unit::Percent, 1)));
    walkModel_->show({{tr("Year")},
                      {tr("Before"), tr("Difference to all stocks over the years before")},
                      {tr("In it"), tr("Difference to all stocks in the year")},
                      {tr("Your own"), tr("Of your own limits, in the year")},
                      {tr("Cases"), tr("In the year, with the limits that were best before")},
                      {text(told->across), tr("The bound that was best before the year")},
                      {text(told->down), tr("The bound that was best before the year")}},
                     years, [told](std::size_t row, std::size_t column) {
                         const auto& step = told->walk[row];
                         const auto bound = [](double value, Unit unit) {
                             return AnswerModel::Cell{
                                 numberText(value, unit, unit == Unit::Percent ? 1 : 2), value};
                         };
                         switch (column) {
                         case 0:
                             return AnswerModel::Cell{QString::number(step.year),
                                                      static_cast<double>(step.year)};
                         case 1:
                             return changeCell(step.before.excess);
                         case 2:
                             return changeCell(step.after.excess);
                         case 3:
                             return changeCell(step.own.excess);
                         case 4:
                             return countCell(step.after.cases);
                         case 5:
                             return bound(told->question.across.bounds[step.across],
                                          told->acrossUnit);
                         default:
                             return bound(told->question.down.bounds[step.down], told->downUnit);
                         }
                     });
}

} // namespace sieve::app
