#include "app/prove/study_view.h"

#include "app/desk/desk.h"
#include "app/desk/focus.h"
#include "app/desk/open_market.h"
#include "app/look/look.h"
#include "app/look/tone.h"
#include "app/parts/empty_page.h"
#include "app/parts/number_text.h"
#include "app/parts/remembered.h"
#include "app/prove/question_panel.h"

#include <QLabel>
#include <QSplitter>
#include <QVBoxLayout>

namespace sieve::app {

StudyView::StudyView(Desk& desk, QuestionPanel* panel, const char* key)
    : desk_(desk), panel_(panel), asker_(this), told_(new QLabel), asOf_(new QLabel),
      cautions_(new QLabel), empty_(new EmptyPage), inside_(new QWidget),
      insideLayout_(new QVBoxLayout(inside_))
{
    told_->setWordWrap(true);
    told_->setFont(fontOf(Weight::Medium, 1.08));
    for (QLabel* label : {asOf_, cautions_}) {
        label->setWordWrap(true);
        setTone(label, Tone::Caution);
    }
    insideLayout_->setContentsMargins(0, 0, 0, 0);
    insideLayout_->addWidget(cautions_);
    auto* answer = new QWidget;
    auto* answerLayout = new QVBoxLayout(answer);
    answerLayout->setContentsMargins(8, 0, 0, 0);
    answerLayout->addWidget(told_);
    answerLayout->addWidget(asOf_);
    answerLayout->addWidget(empty_, 1);
    answerLayout->addWidget(inside_, 1);
    answerLayout->addStretch(0);
    auto* split = new QSplitter;
    remember(split, key);
    split->setChildrenCollapsible(false);
    split->setHandleWidth(8);
    split->addWidget(panel_);
    split->addWidget(answer);
    split->setSizes({290, 890});
    split->setStretchFactor(1, 1);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->addWidget(split);
    connect(panel_, &QuestionPanel::asked, this, &StudyView::ask);
    connect(panel_, &QuestionPanel::stopped, this,
            [this] { stop(tr("Stopped; nothing was found out.")); });
    connect(&asker_, &Asker::progressed, panel_, &QuestionPanel::tellProgress);
    connect(&asker_, &Asker::failed, &desk, &Desk::noticed);
    connect(&asker_, &Asker::failed, this, [this] { stop(tr("It could not be answered.")); });
    connect(empty_, &EmptyPage::stepTaken, this, &StudyView::takeExample);
    connect(&desk.market(), &OpenMarket::opened, this, &StudyView::reset);
    connect(&desk.focus(), &Focus::dayChanged, this, &StudyView::tellDay);
    for (QWidget* each : {static_cast<QWidget*>(told_), static_cast<QWidget*>(asOf_), inside_})
        each->hide();
}

void StudyView::setEmptyTexts(const QString& title, const QString& words, const QString& step)
{
    empty_->setTexts(title, words, step);
}

void StudyView::tell(const QString& what)
{
    empty_->hide();
    told_->setText(what);
    told_->show();
}

void StudyView::tellAnswer(const QString& sentence, const std::vector<studies::Caution>& cautions)
{
    sentence_ = sentence;
    tell(sentence);
    tellCautions(cautions);
}

void StudyView::tellCautions(const std::vector<studies::Caution>& cautions)
{
    cautions_->setText(cautionsText(cautions));
    cautions_->setVisible(!cautions.empty());
}

StudyView::Known StudyView::now() const
{
    return {desk_.market().evaluator()->marketPtr(), desk_.focus().day()};
}

void StudyView::begin(const QString& meanwhile)
{
    panel_->setBusy(true);
    tell(meanwhile);
}

/// Whether there is an answer to be shown.
bool StudyView::end(const std::optional<LocatedError>& fault, const Known& of)
{
    panel_->setBusy(false);
    known_ = fault ? Known() : of;
    inside_->setVisible(!fault);
    tellDay();
    if (fault)
        tell(text(sentence(*fault)));
    return !fault;
}

void StudyView::stop(const QString& why)
{
    asker_.stop();
    panel_->setBusy(false);
    tell(known_.market ? sentence_ : why);
}

void StudyView::reset()
{
    asker_.stop();
    panel_->setBusy(false);
    known_ = {};
    told_->hide();
    inside_->hide();
    empty_->show();
    tellDay();
    forget();
}

void StudyView::tellDay()
{
    const bool isOther = known_.market && known_.day != desk_.focus().day();
    asOf_->setVisible(isOther);
    if (isOther)
        asOf_->setText(tr("This is as known on %1. The as-of day is another one now: ask again.")
                           .arg(shortDayText(known_.day)));
}

} // namespace sieve::app
