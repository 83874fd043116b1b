#include "app/prove/prove_place.h"

#include "app/desk/desk.h"
#include "app/desk/focus.h"
#include "app/desk/in_hand.h"
#include "app/desk/market_reader.h"
#include "app/desk/navigator.h"
#include "app/desk/open_market.h"
#include "app/desk/workbench.h"
#include "app/parts/number_text.h"
#include "app/prove/followed_view.h"
#include "app/prove/kept_view.h"
#include "app/prove/rule_view.h"
#include "app/prove/screen_box.h"
#include "app/prove/standings_view.h"
#include "app/wall/chart_wall.h"

#include <QAction>
#include <QKeyEvent>
#include <QStackedWidget>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>

namespace sieve::app {

ProvePlace::ProvePlace(Desk& desk, QWidget* parent)
    : Place(parent), desk_(desk), lenses_(new QStackedWidget), followed_(new FollowedView(desk)),
      standings_(new StandingsView(desk)), rule_(new RuleView(desk)), kept_(new KeptView(desk)),
      wall_(new ChartWall(desk, QStringLiteral("prove.wall")))
{
    for (QWidget* lens :
         {static_cast<QWidget*>(followed_), static_cast<QWidget*>(standings_),
          static_cast<QWidget*>(rule_), static_cast<QWidget*>(kept_), static_cast<QWidget*>(wall_)})
        lenses_->addWidget(lens);
    addLens(onFollowed_, ActionId::ShowFollowed, followed_);
    addLens(onStandings_, ActionId::ShowStandings, standings_);
    addLens(onRule_, ActionId::ShowByRule, rule_);
    addLens(onKept_, ActionId::ShowKept, kept_);
    makeAction(this, ActionId::KeepAnswer, [this] {
        if (StudyView* study = shownStudy())
            study->keep();
    });
    makeAction(this, ActionId::SaveAnswer, [this] {
        if (StudyView* study = shownStudy())
            study->save();
        else
            kept_->save();
    });
    makeAction(this, ActionId::AskStudy, [this] { askShown(); });
    auto* row = new QHBoxLayout;
    row->setSpacing(6);
    for (QAction* action : {onFollowed_, onStandings_, onRule_, onKept_}) {
        auto* button = new QToolButton;
        button->setDefaultAction(action);
        row->addWidget(button);
    }
    row->addStretch(1);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(12, 8, 12, 8);
    layout->addLayout(row);
    layout->addWidget(lenses_, 1);
    connect(&desk.market(), &OpenMarket::opened, this, &ProvePlace::refresh);
    connect(&desk.work(), &Workbench::screensChanged, this, &ProvePlace::refresh);
    connect(&desk.work(), &Workbench::loaded, this, &ProvePlace::refresh);
    connect(followed_, &FollowedView::stockChosen, this, &ProvePlace::showStock);
    connect(followed_, &FollowedView::wallWanted, this, &ProvePlace::showWall);
    connect(kept_, &KeptView::questionWanted, this, &ProvePlace::showQuestion);
    connect(rule_, &RuleView::stockChosen, this, &ProvePlace::showStock);
    connect(standings_, &StandingsView::stockChosen, this, &ProvePlace::showStock);
    connect(standings_, &StandingsView::screenChosen, this, &ProvePlace::openScreen);
    connect(standings_, &StandingsView::followedWanted, this, [this](const QString& name) {
        showLens(followed_);
        followed_->askOf(name);
    });
    connect(&desk.navigator(), &Navigator::followedWanted, this, [this] {
        showLens(followed_);
        followed_->askOfScreenInHand();
    });
    connect(wall_, &ChartWall::decided, this, [this](std::size_t stock, watchlists::Mark mark) {
        markInHand(desk_, stock, mark, tr("Prove"));
    });
    showLens(followed_);
    bringUp();
}

void ProvePlace::addLens(QAction*& action, ActionId id, QWidget* lens)
{
    action = makeAction(this, id, [this, lens] { showLens(lens); });
    action->setCheckable(true);
}

void ProvePlace::showLens(QWidget* lens)
{
    lenses_->setCurrentWidget(lens);
    onFollowed_->setChecked(lens == followed_ || lens == wall_);
    onStandings_->setChecked(lens == standings_);
    onRule_->setChecked(lens == rule_);
    onKept_->setChecked(lens == kept_);
}

void ProvePlace::bringUp()
{
    followed_->refresh();
    standings_->refresh();
    rule_->refresh();
    kept_->refresh();
}

StudyView* ProvePlace::shownStudy() const
{
    QWidget* lens = lenses_->currentWidget();
    return lens == wall_ ? followed_ : qobject_cast<StudyView*>(lens);
}

void ProvePlace::askShown()
{
    if (StudyView* study = shownStudy())
        study->ask();
    else
        kept_->askAgain();
}

void ProvePlace::showQuestion(const studies::KeptRun& run)
{
    using Kind = studies::KeptRun::Kind;
    StudyView* study = rule_;
    if (run.kind != Kind::Portfolio)
        study = run.kind == Kind::Followed ? static_cast<StudyView*>(followed_) : standings_;
    if (study->setQuestion(run))
        showLens(study);
    else
        Q_EMIT desk_.noticed(tr("The fields cannot show all of this question. “Ask again” answers "
                                "it as it is."));
}

void ProvePlace::keyPressEvent(QKeyEvent* event)
{
    if (event->key() == Qt::Key_Escape && lenses_->currentWidget() == wall_)
        showLens(followed_);
    else
        Place::keyPressEvent(event);
}

/// The chart of a case: its stock in Weigh, on the day on which it was known.
void ProvePlace::showStock(std::size_t stock, Day day)
{
    desk_.focus().setDay(day);
    desk_.focus().select(stock);
    desk_.navigator().show(PlaceId::Weigh);
}

void ProvePlace::showWall(const std::vector<charts::MarkedDay>& cases, const QString& title)
{
    std::vector<std::size_t> stocks; // a stock that matched more than once has one chart
    for (const charts::MarkedDay& each : cases)
        if (std::ranges::find(stocks, each.stock) == stocks.end())
            stocks.push_back(each.stock);
    wall_->show({desk_.market().evaluator(), desk_.focus().day(), stocks, title, cases});
    showLens(wall_);
    wall_->setFocus();
}

void ProvePlace::openScreen(const QString& name)
{
    const auto screen = screenNamed(desk_.work().now(), utf8(name));
    if (!screen)
        return;
    desk_.work().edit(tr("Choose another screen"),
                      [&](Work& work) { library::takeInHand(work, *screen); });
    desk_.navigator().show(PlaceId::Sift);
}

} // namespace sieve::app
