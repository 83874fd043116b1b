#include "app/chart/chart_view.h"
#include "app/desk/desk.h"
#include "app/desk/focus.h"
#include "app/desk/open_market.h"
#include "app/desk/workbench.h"
#include "app/parts/number_text.h"
#include "app/weigh/choices.h"
#include "app/weigh/dossier.h"
#include "app/weigh/dossier_dialog.h"
#include "app/weigh/dossier_page.h"
#include "app/weigh/dossier_table_dialog.h"
#include "app/weigh/explain_dialog.h"
#include "app/weigh/occurrences_dialog.h"
#include "app/weigh/peers_scatter_dialog.h"
#include "app/weigh/side_by_side_dialog.h"
#include "app/weigh/stock_pages.h"
#include "app/weigh/weigh_place.h"
#include "core/dossier/happenings.h"
#include "core/market/symbol_picking.h"
#include "core/watchlists/stocks.h"

#include <QDialogButtonBox>
#include <QFileDialog>
#include <QInputDialog>
#include <QPushButton>
#include <algorithm>

// What is asked about the stock that Weigh shows: where a figure comes from, who its peers are,
// what followed earlier, why it moved, how others compare, and its page as PDF.

namespace sieve::app {

void WeighPlace::explain(const QString& expression, const QString& title)
{
    const dossier::Dossier& of = *dossier_->page().dossier();
    explainOf(of.stock, of.day, expression, title);
}

void WeighPlace::explainOf(std::size_t stock, Day day, const QString& expression,
                           const QString& title)
{
    auto* dialog = new ExplainDialog(desk_.market().evaluator(), desk_.work().nameBook(), stock,
                                     day, expression, title, this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    connect(dialog, &ExplainDialog::failed, &desk_, &Desk::noticed);
    dialog->open();
}

void WeighPlace::showTable(const dossier::Table& table)
{
    auto* dialog =
        new DossierTableDialog(text(dossier_->page().dossier()->symbol), table, market_, this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    connect(dialog, &DossierTableDialog::failed, &desk_, &Desk::noticed);
    dialog->open();
}

void WeighPlace::choosePeers()
{
    if (!shown_)
        return;
    // While the question is open another market or day may come: the stock is the one asked about.
    const Stock of{market_, *shown_};
    const Day day = desk_.focus().day();
    const QString symbol = text(of.market->instrument(of.stock).symbol);
    QStringList symbols;
    if (const auto* chosen =
            watchlists::peersOf(*desk_.work().now().weighing, *of.market, of.stock))
        for (const std::string& each : chosen->symbols)
            symbols << text(each);
    bool isGiven = false;
    const QString given = QInputDialog::getMultiLineText(
        this, tr("Peers of %1").arg(symbol),
        tr("Symbols, or a text that names them. Without any, the proposed ones are shown."),
        symbols.join(QLatin1Char(' ')), &isGiven);
    if (!isGiven)
        return;
    std::vector<std::string> picked;
    for (const std::size_t stock : market::certainPicks(*of.market, utf8(given)))
        picked.push_back(market::symbolOn(of.market->instrument(stock), day));
    desk_.work().edit(tr("Choose the peers of %1").arg(symbol), [&](Work& work) {
        watchlists::choosePeers(work.weighing.edit(), *of.market, of.stock, day, std::move(picked));
    });
}

/// Of the screen that it was taken in hand from, where it was.
void WeighPlace::showOccurrences()
{
    if (!shown_)
        return;
    const watchlists::Tray& tray = *desk_.work().now().tray;
    const auto place = placeIn(tray, *market_, *shown_);
    const std::string source = place ? tray.cards()[*place].source : std::string();
    const bool isScreen = desk_.work().nameBook()->screens.contains(source);
    auto* dialog = new OccurrencesDialog(
        desk_, *shown_, isScreen ? QStringLiteral("passes(\"%1\")").arg(text(source)) : QString(),
        this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    connect(dialog, &OccurrencesDialog::caseChosen, this, [this](std::size_t stock, Day day) {
        desk_.focus().select(stock);
        goToDay(day);
    });
    connect(&desk_.market(), &OpenMarket::opened, dialog, &QDialog::close);
    dialog->show();
}

/// The peers that the dossier shows; none before it has come.
std::vector<std::size_t> WeighPlace::peersShown() const
{
    std::vector<std::size_t> peers;
    const dossier::Dossier* made = dossier_->page().dossier();
    const dossier::Part* part = made ? made->part("peers") : nullptr;
    if (part)
        for (const dossier::Table& table : part->tables)
            for (const dossier::Row& row : table.rows)
                if (row.stock && *row.stock != made->stock)
                    peers.push_back(*row.stock);
    return peers;
}

void WeighPlace::scatterPeers()
{
    if (!shown_)
        return;
    const std::vector<std::size_t> peers = peersShown();
    if (peers.empty())
        return Q_EMIT desk_.noticed(tr("It has no peers to be set beside. Choose some with P."));
    auto* dialog = new PeersScatterDialog(desk_, *shown_, peers, desk_.focus().day(), this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    dialog->show();
}

/// Beside those in hand that were kept, failing them beside its peers.
void WeighPlace::compareStocks()
{
    if (!shown_)
        return;
    const Day day = desk_.focus().day();
    std::vector<std::size_t> stocks{*shown_};
    const auto add = [&](std::size_t stock) {
        constexpr std::size_t toBeginWith = 3;
        if (stocks.size() < toBeginWith && std::ranges::find(stocks, stock) == stocks.end())
            stocks.push_back(stock);
    };
    for (const watchlists::Card& card : desk_.work().now().tray->cards())
        if (const auto stock = stockOf(card, *market_);
            stock && card.mark == watchlists::Mark::Kept)
            add(*stock);
    std::ranges::for_each(peersShown(), add);
    QStringList symbols;
    for (const std::size_t stock : stocks)
        symbols << text(market::symbolOn(market_->instrument(stock), day));
    auto make = [evaluator = desk_.market().evaluator(), book = desk_.work().nameBook(),
                 work = desk_.work().now(), day, general = generalChoices(),
                 list = dossier_->chosenList()](std::size_t stock, const Progress& progress) {
        const language::Names names = book->names();
        return dossier::makeDossier(
            {*evaluator, names, stock, day,
             choicesOf(general, work, evaluator->market(), stock, day, list), work.lists,
             *work.verdicts},
            {}, progress);
    };
    auto* dialog =
        new SideBySideDialog(desk_, day, symbols, dossier_->isByYear(), std::move(make), this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    connect(dialog, &SideBySideDialog::explanationAsked, this,
            [this, day](std::size_t stock, const QString& expression, const QString& title) {
                explainOf(stock, day, expression, title);
            });
    connect(dialog, &SideBySideDialog::stockChosen, this,
            [this](std::size_t stock) { desk_.focus().select(stock); });
    connect(&desk_.market(), &OpenMarket::opened, dialog, &QDialog::close);
    dialog->show();
}

/// Of the bar that the chart reads.
void WeighPlace::showMove()
{
    const charts::Chart& chart = chart_->view().chart();
    if (!shown_ || chart.size() == 0)
        return;
    const std::size_t read = chart_->view().barRead();
    const Day day = chart.bars->days[read];
    const Day now = desk_.focus().day();
    auto* dialog = new DossierDialog(
        tr("%1 on %2").arg(text(chart.symbol), dayText(day)), market_,
        [evaluator = desk_.market().evaluator(), book = desk_.work().nameBook(), stock = *shown_,
         now, day](const Progress& progress) {
            const language::Names names = book->names();
            return dossier::whyItMoved({*evaluator, names, stock, now}, day, progress);
        },
        this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    connect(dialog, &DossierDialog::failed, &desk_, &Desk::noticed);
    connect(&dialog->page(), &DossierPage::dayChosen, this, &WeighPlace::goToDay);
    connect(&dialog->page(), &DossierPage::explanationAsked, this,
            [this, stock = *shown_, day](const QString& expression, const QString& title) {
                explainOf(stock, day, expression, title);
            });
    connect(&desk_.market(), &OpenMarket::opened, dialog, &QDialog::close);
    dialog->show();
}

void WeighPlace::follow()
{
    if (!shown_)
        return;
    const std::size_t stock = *shown_;
    const bool isFollowed = watchlists::isFollowed(*desk_.work().now().weighing, *market_, stock);
    const QString symbol = text(market_->instrument(stock).symbol);
    const bool isDone = desk_.work().edit(
        (isFollowed ? tr("Follow %1 no longer") : tr("Follow %1")).arg(symbol), [&](Work& work) {
            watchlists::follow(work.weighing.edit(), *market_, stock, desk_.focus().day(),
                               !isFollowed);
        });
    if (isDone)
        Q_EMIT desk_.told(isFollowed ? tr("%1 is no longer followed.").arg(symbol)
                                     : tr("%1 is followed from now on.").arg(symbol));
}

/// What is new about those followed; once seen, the next time begins from this day.
void WeighPlace::showDigest()
{
    if (!market_)
        return;
    const Day day = desk_.focus().day();
    std::vector<dossier::FollowedStock> followed;
    for (const watchlists::Followed& each : desk_.work().now().weighing->followed)
        if (const auto stock = market_->find(each.of, each.on))
            followed.push_back({*stock, each.seenTo});
    auto* dialog = new DossierDialog(
        tr("Those you follow, as known on %1").arg(dayText(day)), market_,
        [evaluator = desk_.market().evaluator(), book = desk_.work().nameBook(), followed,
         day](const Progress& progress) {
            const language::Names names = book->names();
            return dossier::digestOf({*evaluator, names, 0, day}, followed, progress);
        },
        this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    auto* seen = dialog->buttons().addButton(tr("All &seen"), QDialogButtonBox::AcceptRole);
    seen->setToolTip(tr("The next time tells what came after this day"));
    connect(seen, &QPushButton::clicked, dialog, [this, dialog, day] {
        desk_.work().edit(tr("Mark the news of those followed as seen"), [&](Work& work) {
            for (watchlists::Followed& each : work.weighing.edit().followed)
                each.seenTo = std::max(each.seenTo, day);
        });
        dialog->accept();
    });
    connect(dialog, &DossierDialog::failed, &desk_, &Desk::noticed);
    connect(&dialog->page(), &DossierPage::stockChosen, this,
            [this](std::size_t stock) { desk_.focus().select(stock); });
    connect(&desk_.market(), &OpenMarket::opened, dialog, &QDialog::close);
    dialog->show();
}

StockPages WeighPlace::pagesOf(std::vector<std::size_t> stocks, const QString& title) const
{
    return {.evaluator = desk_.market().evaluator(),
            .book = desk_.work().nameBook(),
            .stocks = std::move(stocks),
            .day = desk_.focus().day(),
            .title = title,
            .setUp = chart_->view().setUp(),
            .choices = generalChoices(),
            .list = dossier_->chosenList(),
            .work = desk_.work().now()};
}

/// While the question is open another market or day may come: the pages are of those asked about.
void WeighPlace::print(const StockPages& pages, const QString& name)
{
    const QString file = QFileDialog::getSaveFileName(
        this, tr("Write as PDF"), QStringLiteral("%1 %2.pdf").arg(name, text(pages.day.iso())),
        tr("PDF (*.pdf)"));
    if (!file.isEmpty())
        writePages(pages, file);
}

void WeighPlace::writePages(const StockPages& pages, const QString& file)
{
    printAsker_.ask(
        [pages, file](const Progress& progress) { return writeStockPages(file, pages, progress); },
        [this, file](int written) {
            Q_EMIT desk_.noticed(
                written == 1  ? tr("The page is in %1.").arg(file)
                : written > 1 ? tr("%1 pages are in %2.").arg(written).arg(file)
                              : tr("Nothing could be written to %1. Choose a folder that may be "
                                   "written to and has room.")
                                    .arg(file));
        });
}

void WeighPlace::printStock()
{
    if (shown_)
        print(pagesOf({*shown_}, {}),
              text(market::symbolOn(market_->instrument(*shown_), desk_.focus().day())));
}

/// Of those in hand that were not dropped, or of a list.
void WeighPlace::printBooklet()
{
    if (!market_)
        return;
    StockPages pages = pagesOf({}, tr("Candidates"));
    const QString inHand = tr("Those in hand, without the dropped");
    QStringList offered{inHand};
    for (const auto& list : pages.work.lists)
        offered << text(list->name);
    bool isChosen = false;
    const QString chosen = QInputDialog::getItem(this, tr("Booklet"), tr("A page a stock, of:"),
                                                 offered, 0, false, &isChosen);
    if (!isChosen)
        return;
    const market::Market& market = pages.evaluator->market();
    const auto add = [&](const auto& each) {
        if (const auto stock = stockOf(each, market))
            pages.stocks.push_back(*stock);
    };
    if (chosen == inHand)
        for (const watchlists::Card& card : pages.work.tray->cards()) {
            if (card.mark != watchlists::Mark::Dropped)
                add(card);
        }
    else
        for (const auto& list : pages.work.lists)
            if (text(list->name) == chosen) {
                pages.title = chosen;
                std::ranges::for_each(list->entries, add);
            }
    if (pages.stocks.empty())
        return Q_EMIT desk_.noticed(tr("There is no stock of which a page could be made."));
    print(pages, pages.title);
}

} // namespace sieve::app
