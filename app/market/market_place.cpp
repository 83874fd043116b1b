#include "app/market/market_place.h"

#include "app/frame/desk.h"
#include "app/look/look.h"
#include "app/market/composite_chart.h"
#include "app/market/group_board.h"
#include "app/market/state_board.h"
#include "app/parts/number_text.h"

#include <QLabel>
#include <QSplitter>
#include <QVBoxLayout>
#include <algorithm>

namespace sieve::app {

MarketPlace::MarketPlace(Desk& desk, QWidget* parent)
    : QWidget(parent), desk_(desk), asker_(this), summary_(new QLabel(tr("Reading the market…"))),
      board_(new StateBoard), chart_(new CompositeChart), groups_(new GroupBoard)
{
    summary_->setFont(fontOf(Weight::SemiBold, 1.15));
    summary_->setContentsMargins(2, 2, 0, 2);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(12, 8, 12, 8);
    layout->setSpacing(8);
    layout->addWidget(summary_);
    layout->addWidget(board_);
    auto* halves = new QSplitter;
    halves->addWidget(chart_);
    halves->addWidget(groups_);
    halves->setChildrenCollapsible(false);
    halves->setSizes({580, 600});
    layout->addWidget(halves, 1);
    connect(&desk_, &Desk::marketOpened, this, &MarketPlace::ask);
    connect(&desk_, &Desk::dayChanged, this, &MarketPlace::showDay);
    connect(groups_, &GroupBoard::sharesWanted, this, &MarketPlace::sift);
    connect(&asker_, &Asker::failed, &desk_, &Desk::noticed);
    if (desk_.hasMarket())
        ask();
}

void MarketPlace::ask()
{
    reading_.reset();
    asker_.ask(
        [evaluator = desk_.evaluator()](const Progress& progress) {
            return std::make_shared<const Answer>(
                Answer{conditions::readMarket(*evaluator, progress),
                       conditions::readGroups(*evaluator, progress)});
        },
        [this](const std::shared_ptr<const Answer>& answer) {
            reading_ = {answer, &answer->reading};
            groups_->setGroups({answer, &answer->groups});
            board_->setReading(reading_);
            chart_->setReading(reading_);
            showDay();
        });
}

void MarketPlace::showDay()
{
    if (!reading_)
        return;
    const auto next = std::ranges::upper_bound(reading_->sessions, desk_.day());
    const auto session = static_cast<std::size_t>(next - reading_->sessions.begin()) - 1;
    board_->setSession(session);
    chart_->setSession(session);
    groups_->setSession(session);
    const auto& trends = reading_->lines.at(0).trends;
    summary_->setText(
        tr("The market is %1 over months, %2 over weeks, %3 over days; %4 of shares stand above "
           "their 200-day average")
            .arg(trendWord(trends[2][session]), trendWord(trends[1][session]),
                 trendWord(trends[0][session]),
                 numberText(reading_->breadth.at(0).shares[session], Unit::Percent, 0)));
}

/// Takes some shares as the universe of the screen in hand.
void MarketPlace::sift(const QString& universe)
{
    desk_.edit(tr("Sift %1").arg(universe),
               [&universe](Work& work) { work.screen.universe = utf8(universe); });
    Q_EMIT desk_.placeWanted(QStringLiteral("sift"));
}

} // namespace sieve::app
