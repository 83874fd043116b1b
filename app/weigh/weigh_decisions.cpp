#include "app/chart/chart_view.h"
#include "app/desk/desk.h"
#include "app/desk/focus.h"
#include "app/desk/in_hand.h"
#include "app/desk/library_keeper.h"
#include "app/desk/open_market.h"
#include "app/desk/settings.h"
#include "app/desk/workbench.h"
#include "app/parts/number_text.h"
#include "app/wall/chart_wall.h"
#include "app/weigh/dossier.h"
#include "app/weigh/reason_menu.h"
#include "app/weigh/sitting_dialog.h"
#include "app/weigh/verdict_shelf.h"
#include "app/weigh/weigh_place.h"
#include "core/library/pictures.h"
#include "core/watchlists/stocks.h"

#include <QBuffer>
#include <QImage>
#include <algorithm>
#include <fmt/format.h>

// What is decided in Weigh: through the candidates, kept, dropped, set aside, and why.

namespace sieve::app {

using watchlists::Mark;

namespace {

constexpr const char* sittingKey = "weigh.sitting";

}

/// What was counted before a restart goes on.
void WeighPlace::restoreSitting()
{
    const QStringList kept =
        text(desk_.settings().value(sittingKey)).split(QLatin1Char(' '), Qt::SkipEmptyParts);
    if (kept.size() == 2)
        sitting_ = {kept[0].toDouble(), kept[1].toInt()};
}

/// The reason of the decision in hand; where the stock is not in hand, that of its entry on the
/// list that takes what is kept.
QString WeighPlace::reasonOf(std::size_t stock) const
{
    const market::Market& market = *market_;
    const Work& work = desk_.work().now();
    if (const auto place = placeIn(*work.tray, market, stock))
        if (const std::string& reason = work.tray->cards()[*place].reason; !reason.empty())
            return text(reason);
    if (const auto* list = work.findList(dossier_->chosenList().value_or(0)))
        if (const auto place = placeOn(*list, market, stock))
            return text(list->entries[*place].reason);
    return {};
}

void WeighPlace::offerReasons()
{
    if (!shown_)
        return;
    auto* menu = new ReasonMenu(desk_, this);
    menu->setAttribute(Qt::WA_DeleteOnClose);
    connect(menu, &ReasonMenu::chosen, this, [this](const QString& reason) {
        dossier_->setReason(reason);
        saveReason(reason);
    });
    menu->popup(dossier_->mapToGlobal(QPoint(14, 100)));
}

void WeighPlace::showSitting()
{
    auto* dialog = new SittingDialog(desk_, sitting_.secondsEach(), this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    connect(dialog, &SittingDialog::goneThroughAgain, this, [this] {
        const auto& cards = desk_.work().now().tray->cards();
        const auto first = std::ranges::find(cards, Mark::Open, &watchlists::Card::mark);
        if (first == cards.end())
            return;
        if (const auto stock = stockOf(*first, desk_.market().data()))
            desk_.focus().select(*stock);
    });
    dialog->open();
}

/// Counts the time that a decision took, and shows what became of all when it was the last.
void WeighPlace::countDecision(std::size_t openBefore)
{
    constexpr double longest = 300.0;                          // a longer look was something else
    if (openBefore == desk_.work().now().tray->cards().size()) // the first one of a sitting
        sitting_ = {};
    if (shownSince_.isValid()) {
        sitting_.seconds += std::min(static_cast<double>(shownSince_.elapsed()) / 1000.0, longest);
        ++sitting_.decisions;
        desk_.settings().set(sittingKey,
                             fmt::format("{:.1f} {}", sitting_.seconds, sitting_.decisions));
    }
    if (openBefore > 0 && desk_.work().now().tray->counts().open == 0)
        showSitting();
}

void WeighPlace::step(int by)
{
    const auto& cards = desk_.work().now().tray->cards();
    if (cards.empty())
        return;
    const auto count = static_cast<std::ptrdiff_t>(cards.size());
    std::ptrdiff_t place = by > 0 ? 0 : count - 1;
    const auto now = shown_ ? placeIn(*desk_.work().now().tray, *market_, *shown_) : std::nullopt;
    if (now)
        place = (static_cast<std::ptrdiff_t>(*now) + by + count) % count;
    if (const auto stock = stockOf(cards[static_cast<std::size_t>(place)], desk_.market().data()))
        desk_.focus().select(*stock);
}

void WeighPlace::goOn(std::size_t from)
{
    const watchlists::Tray& tray = *desk_.work().now().tray;
    if (const auto next = tray.nextUndecided(from))
        if (const auto stock = stockOf(tray.cards()[*next], desk_.market().data()))
            desk_.focus().select(*stock);
}

void WeighPlace::decide(Mark mark)
{
    if (isOnWall())
        return wall_->decide(mark);
    if (!shown_)
        return;
    const bool isReasonTyped = dossier_->takeTypedReason(); // it is the decision's
    setFocus(); // the next key is a decision again, not a letter of the reason
    if (mark == Mark::Kept)
        return keepOnto(dossier_->chosenList(), isReasonTyped);
    const auto place = placeIn(*desk_.work().now().tray, *market_, *shown_);
    const std::size_t open = desk_.work().now().tray->counts().open;
    if (!place || !drop(*shown_, mark, dossier_->reason()))
        return;
    countDecision(open);
    goOn(*place);
}

/// Or sets aside one in hand. Says whether it was done.
bool WeighPlace::drop(std::size_t stock, Mark mark, const QString& reason)
{
    const auto place = placeIn(*desk_.work().now().tray, *market_, stock);
    return place && markInHand(desk_, stock, mark, {}, reason);
}

void WeighPlace::keepOntoPlace(std::size_t place)
{
    const auto lists = library::listsByHand(desk_.work().now());
    const bool isFirstOfAll = lists.empty() && place == 0;
    if (place >= lists.size() && !isFirstOfAll)
        return;
    const auto list = isFirstOfAll ? std::nullopt : std::optional(lists[place]->id);
    if (!isOnWall())
        return keepOnto(list, false);
    if (const auto stock = wall_->stockMeant())
        keep(*stock, list, utf8(reasonOf(*stock)), false);
}

void WeighPlace::keepOnto(std::optional<std::int64_t> list, bool isReasonTyped)
{
    if (!shown_)
        return;
    const auto place = placeIn(*desk_.work().now().tray, *market_, *shown_);
    const std::size_t open = desk_.work().now().tray->counts().open;
    if (!keep(*shown_, list, utf8(dossier_->reason()), isReasonTyped) || !place)
        return;
    countDecision(open);
    goOn(*place);
}

/// Keeps the chart as it is shown as a file; gives its name. Empty: that stock's is not shown, or
/// nothing is kept on the disk.
std::string WeighPlace::takePicture(std::size_t stock)
{
    const std::filesystem::path file = desk_.keeper().file();
    if (file.empty() || isOnWall() || shown_ != stock)
        return {};
    std::string name = "chart-" + std::to_string(desk_.work().newId()) + ".png";
    const QImage image = chart_->view().picture(1.0).toImage();
    desk_.keeper().enqueue([image, file, name](library::Library&) {
        QByteArray bytes;
        QBuffer buffer(&bytes);
        buffer.open(QIODevice::WriteOnly);
        image.save(&buffer, "PNG");
        library::writePicture(file, name, bytes.toStdString());
    });
    return name;
}

/// Onto the list of that number, or a new one where there is none yet. An entry that is on it
/// already keeps its reason, unless another was typed just now. Says whether it was done.
bool WeighPlace::keep(std::size_t stock, std::optional<std::int64_t> list,
                      const std::string& reason, bool isReasonTyped)
{
    const market::Market& market = *market_;
    const auto place = placeIn(*desk_.work().now().tray, market, stock);
    const watchlists::Watchlist* known = desk_.work().now().findList(list.value_or(0));
    const std::string picture =
        known && placeOn(*known, market, stock) ? std::string() : takePicture(stock);
    return desk_.work().edit(
        tr("Keep %1").arg(text(market.instrument(stock).symbol)), [&](Work& work) {
            if (!list)
                work.lists.emplace_back(watchlists::Watchlist{
                    list.emplace(desk_.work().newId()), utf8(tr("To watch")), {}, {}});
            if (place)
                work.tray.edit().mark(*place, Mark::Kept, reason);
            watchlists::Watchlist* onto = work.editList(*list);
            putOnto(*onto, market, std::span(&stock, 1), desk_.focus().day(), reason,
                    place ? work.tray->cards()[*place].source : std::string());
            watchlists::Entry& entry = onto->entries[*placeOn(*onto, market, stock)];
            if (isReasonTyped)
                entry.reason = reason;
            if (!picture.empty())
                entry.page.picture = picture;
            if (place && work.tray->cards()[*place].plan)
                watchlists::setPlan(entry, work.tray->cards()[*place].plan);
            verdicts_->recordIn(work, stock, desk_.focus().day());
        });
}

/// The reason of the decision in hand and of the entry on the list that takes what is kept. Entries
/// on other lists have reasons of their own.
void WeighPlace::saveReason(const QString& reason)
{
    if (!shown_ || reason == reasonOf(*shown_))
        return;
    const market::Market& market = *market_;
    const auto list = dossier_->chosenList();
    desk_.work().edit(
        tr("Give a reason for %1").arg(text(market.instrument(*shown_).symbol)), [&](Work& work) {
            if (const auto place = placeIn(*work.tray, market, *shown_))
                work.tray.edit().mark(*place, work.tray->cards()[*place].mark, utf8(reason));
            if (const auto* onto = work.findList(list.value_or(0)))
                if (const auto place = placeOn(*onto, market, *shown_))
                    work.editList(*list)->entries[*place].reason = utf8(reason);
        });
}

void WeighPlace::saveTypedReason()
{
    if (shown_ && dossier_->takeTypedReason())
        saveReason(dossier_->reason());
}

} // namespace sieve::app
