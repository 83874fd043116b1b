#include "app/prove/neighbours_view.h"

#include "app/desk/desk.h"
#include "app/desk/open_market.h"
#include "app/desk/workbench.h"
#include "app/look/tone.h"
#include "app/parts/number_text.h"
#include "app/prove/neighbour_picture.h"
#include "app/prove/question_panel.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QSignalBlocker>
#include <QVBoxLayout>

namespace sieve::app {

namespace {

constexpr std::size_t cellsASide = 15; ///< that can be told apart in a small window

} // namespace

NeighboursView::NeighboursView(Desk& desk)
    : desk_(desk), asker_(this), across_(new QComboBox), down_(new QComboBox), told_(new QLabel),
      picture_(new NeighbourPicture)
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
    layout->addWidget(picture_, 1);
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
            const auto cautions = studies::cautionsOf(*neighbours_);
            told_->setText(cautionsText(cautions));
            told_->setVisible(!cautions.empty());
        });
}

} // namespace sieve::app
