#include "app/desk/in_hand.h"

#include "app/desk/desk.h"
#include "app/desk/focus.h"
#include "app/desk/open_market.h"
#include "app/desk/workbench.h"
#include "app/parts/number_text.h"
#include "core/watchlists/stocks.h"

#include <QCoreApplication>
#include <QMessageBox>
#include <QPushButton>
#include <algorithm>

namespace sieve::app {

namespace {

enum class Way { Replace, Add, None };

QString tr(const char* words)
{
    return QCoreApplication::translate("InHand", words);
}

/// Decisions that are lost when only these stay in hand.
std::size_t decisionsLost(const watchlists::Tray& tray, const market::Market& market,
                          const std::vector<std::size_t>& stocks)
{
    std::vector<std::size_t> sorted = stocks;
    std::ranges::sort(sorted);
    return static_cast<std::size_t>(
        std::ranges::count_if(tray.cards(), [&](const watchlists::Card& card) {
            const auto stock = stockOf(card, market);
            return card.mark != watchlists::Mark::Open &&
                   !(stock && std::ranges::binary_search(sorted, *stock));
        }));
}

Way askWay(QWidget* window, std::size_t wanted, std::size_t inHand, std::size_t lost)
{
    QMessageBox box(window);
    box.setWindowTitle(tr("Stocks in hand"));
    box.setText(tr("In hand: %1 stocks. Decided among them: %2.").arg(inHand).arg(lost));
    box.setInformativeText(tr("The %1 new ones can join them, or take their place. The decisions "
                              "about those that go are then "
                              "forgotten (Ctrl+Z brings them back).")
                               .arg(wanted));
    QPushButton* add = box.addButton(tr("Add to those in hand"), QMessageBox::AcceptRole);
    QPushButton* replace = box.addButton(tr("Take their place"), QMessageBox::DestructiveRole);
    box.addButton(QMessageBox::Cancel);
    box.setDefaultButton(add);
    box.exec();
    return box.clickedButton() == add       ? Way::Add
           : box.clickedButton() == replace ? Way::Replace
                                            : Way::None;
}

} // namespace

bool takeInHand(Desk& desk, QWidget* window, const std::vector<std::string>& symbols,
                const QString& what, const QString& source)
{
    const market::Market& market = desk.market().data();
    std::vector<std::size_t> stocks;
    for (const std::string& symbol : symbols)
        if (const auto stock = market.find(symbol))
            stocks.push_back(*stock);
    if (stocks.empty())
        return false;
    const watchlists::Tray& tray = *desk.work().now().tray;
    Way way = Way::Replace;
    if (const std::size_t lost = decisionsLost(tray, market, stocks); lost > 0)
        way = askWay(window, stocks.size(), tray.cards().size(), lost);
    if (way == Way::None)
        return false;
    const Day day = desk.focus().day();
    const bool isTaken = desk.work().edit(what, [&](Work& work) {
        if (way == Way::Add)
            addTo(work.tray.edit(), market, stocks, day, utf8(source));
        else
            work.tray = filled(*work.tray, market, stocks, day, utf8(source));
    });
    if (isTaken)
        desk.focus().select(stocks.front());
    return isTaken;
}

bool markInHand(Desk& desk, std::size_t stock, watchlists::Mark mark, const QString& source,
                const std::optional<QString>& reason)
{
    const market::Market& market = desk.market().data();
    const QString symbol = text(market.instrument(stock).symbol);
    const QString what = mark == watchlists::Mark::Kept      ? tr("Keep %1")
                         : mark == watchlists::Mark::Dropped ? tr("Drop %1")
                                                             : tr("Set %1 aside");
    return desk.work().edit(what.arg(symbol), [&](Work& work) {
        watchlists::Tray& tray = work.tray.edit();
        addTo(tray, market, std::span(&stock, 1), desk.focus().day(), utf8(source));
        const std::size_t place = *placeIn(tray, market, stock);
        tray.mark(place, mark, reason ? utf8(*reason) : std::string(tray.cards()[place].reason));
    });
}

} // namespace sieve::app
