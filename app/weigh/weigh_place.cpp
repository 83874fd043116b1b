#include "app/weigh/weigh_place.h"

#include "app/chart/price_chart_feed.h"
#include "app/chart/time_plot.h"
#include "app/desk/desk.h"
#include "app/desk/focus.h"
#include "app/desk/navigator.h"
#include "app/desk/open_market.h"
#include "app/desk/workbench.h"
#include "app/parts/actions.h"
#include "app/parts/empty_page.h"
#include "app/parts/number_text.h"
#include "app/weigh/dossier.h"
#include "core/watchlists/gain.h"

#include <QSplitter>
#include <QStackedLayout>
#include <QVBoxLayout>
#include <algorithm>

namespace sieve::app {

using watchlists::Mark;

WeighPlace::WeighPlace(Desk& desk, QWidget* parent)
    : Place(parent), desk_(desk), asker_(this), page_(new QWidget), empty_(new EmptyPage),
      chart_(new PriceChart), dossier_(new Dossier)
{
    auto* chartSheet = new QFrame;
    chartSheet->setObjectName(QStringLiteral("sheet"));
    auto* chartLayout = new QVBoxLayout(chartSheet);
    chartLayout->setContentsMargins(1, 1, 1, 1);
    chartLayout->addWidget(chart_);
    auto* split = new QSplitter;
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

    connect(empty_, &EmptyPage::stepTaken, this, [this] { desk_.navigator().show(PlaceId::Sift); });
    connect(dossier_, &Dossier::decided, this, &WeighPlace::decide);
    connect(dossier_, &Dossier::reasonGiven, this, &WeighPlace::saveReason);
    connect(&desk_.focus(), &Focus::selectionChanged, this, &WeighPlace::showSelection);
    connect(&desk_.market(), &OpenMarket::opened, this, &WeighPlace::showSelection);
    connect(&desk_.focus(), &Focus::dayChanged, this, &WeighPlace::refresh);
    connect(&desk_.work(), &Workbench::trayChanged, this, &WeighPlace::showSelection);
    connect(&desk_.work(), &Workbench::listsChanged, this, &WeighPlace::showSelection);
    connect(&asker_, &Asker::failed, &desk_, &Desk::noticed);
    addActions();
    showSelection();
}

void WeighPlace::addActions()
{
    makeAction(this, ActionId::NextCandidate, [this] { step(1); });
    makeAction(this, ActionId::CandidateBefore, [this] { step(-1); });
    makeAction(this, ActionId::Keep, [this] { decide(Mark::Kept); });
    makeAction(this, ActionId::Drop, [this] { decide(Mark::Dropped); });
    makeAction(this, ActionId::Later, [this] { decide(Mark::Later); });
    makeAction(this, ActionId::GiveReason, [this] { dossier_->focusReason(); });
    for (int number = 1; number <= rowOf(ActionId::KeepOnto).count; ++number)
        makeAction(
            this, ActionId::KeepOnto,
            [this, number] { keepOnto(static_cast<std::size_t>(number) - 1); }, number);
}

void WeighPlace::showSelection()
{
    auto* layout = static_cast<QStackedLayout*>(this->layout());
    if (!desk_.market().isOpen() || !desk_.focus().selected()) {
        layout->setCurrentWidget(empty_);
        return;
    }
    layout->setCurrentWidget(page_);
    const market::Instrument& instrument =
        desk_.market().data().instrument(*desk_.focus().selected());
    dossier_->setInstrument(instrument);
    dossier_->setLists(desk_.work().now().lists);
    const watchlists::Tray& tray = desk_.work().now().tray;
    const auto place = tray.find(instrument.symbol);
    QStringList lists;
    QString reason;
    for (const watchlists::Watchlist& list : desk_.work().now().lists)
        if (const watchlists::Entry* entry = list.find(instrument.symbol)) {
            lists << tr("on “%1” since %2").arg(text(list.name), shortDayText(entry->addedOn));
            reason = text(entry->reason);
        }
    dossier_->setDecision(place ? std::optional(tray.cards()[*place]) : std::nullopt,
                          lists.join(QStringLiteral(", ")));
    dossier_->setReason(reason);
    refresh();
}

void WeighPlace::bringUp()
{
    if (!desk_.market().isOpen() || !desk_.focus().selected())
        return;
    asker_.ask(
        [evaluator = desk_.market().evaluator(), book = desk_.work().nameBook(),
         stock = *desk_.focus().selected(), day = desk_.focus().day()](const Progress&) {
            const std::size_t rows[] = {stock};
            return Answer{std::make_shared<const PriceChartData>(priceChartData(
                              *evaluator, stock, day, initialChartLines(), book->names())),
                          std::make_shared<const screens::ResultTable>(screens::makeTable(
                              rows, Dossier::fields(), book->names(), *evaluator, day))};
        },
        [this](Answer answer) {
            chart_->setData(std::move(answer.chart));
            dossier_->setFigures(*answer.figures, desk_.market().data().texts());
        });
}

void WeighPlace::step(int by)
{
    const auto& cards = desk_.work().now().tray.cards();
    if (cards.empty())
        return;
    const auto count = static_cast<std::ptrdiff_t>(cards.size());
    std::ptrdiff_t place = by > 0 ? 0 : count - 1;
    if (desk_.focus().selected()) {
        const auto now = desk_.work().now().tray.find(
            desk_.market().data().instrument(*desk_.focus().selected()).symbol);
        if (now)
            place = (static_cast<std::ptrdiff_t>(*now) + by + count) % count;
    }
    desk_.focus().selectSymbol(cards[static_cast<std::size_t>(place)].symbol);
}

void WeighPlace::goOn(std::size_t from)
{
    if (const auto next = desk_.work().now().tray.nextUndecided(from))
        desk_.focus().selectSymbol(desk_.work().now().tray.cards()[*next].symbol);
}

void WeighPlace::decide(Mark mark)
{
    if (!desk_.focus().selected())
        return;
    if (mark == Mark::Kept)
        return keepOnto(dossier_->chosenList());
    const std::string symbol = desk_.market().data().instrument(*desk_.focus().selected()).symbol;
    const auto place = desk_.work().now().tray.find(symbol);
    if (!place)
        return;
    desk_.work().edit(mark == Mark::Dropped ? tr("Drop %1").arg(text(symbol))
                                            : tr("Set %1 aside").arg(text(symbol)),
                      [&](Work& work) { work.tray.mark(*place, mark); });
    goOn(*place);
}

void WeighPlace::keepOnto(std::size_t list)
{
    if (!desk_.focus().selected() || (list > 0 && list >= desk_.work().now().lists.size()))
        return;
    const std::size_t stock = *desk_.focus().selected();
    const std::string symbol = desk_.market().data().instrument(stock).symbol;
    const auto place = desk_.work().now().tray.find(symbol);
    desk_.work().edit(tr("Keep %1").arg(text(symbol)), [&](Work& work) {
        if (work.lists.empty())
            work.lists.push_back({desk_.work().newListId(), utf8(tr("To watch")), {}});
        if (place)
            work.tray.mark(*place, Mark::Kept);
        watchlists::putOnto(work.lists[list], desk_.market().data(), stock, desk_.focus().day(),
                            utf8(dossier_->reason()),
                            place ? work.tray.cards()[*place].source : std::string());
    });
    if (place)
        goOn(*place);
}

void WeighPlace::saveReason(const QString& reason)
{
    if (!desk_.focus().selected())
        return;
    const std::string symbol = desk_.market().data().instrument(*desk_.focus().selected()).symbol;
    desk_.work().edit(tr("Give a reason for %1").arg(text(symbol)), [&](Work& work) {
        for (watchlists::Watchlist& list : work.lists)
            for (watchlists::Entry& entry : list.entries)
                if (entry.symbol == symbol)
                    entry.reason = utf8(reason);
    });
    chart_->plot().setFocus();
}

} // namespace sieve::app
