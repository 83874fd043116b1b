#include "app/desk/alert_keeper.h"

#include "app/desk/desk.h"
#include "app/desk/library_keeper.h"
#include "app/desk/market_reader.h"
#include "app/desk/open_market.h"
#include "app/desk/workbench.h"
#include "app/parts/number_text.h"
#include "core/library/alert_log.h"
#include "core/watchlists/alert_watch.h"

#include <algorithm>

namespace sieve::app {

using watchlists::Raised;

AlertKeeper::AlertKeeper(Desk& desk) : QObject(&desk), desk_(desk), asker_(this)
{
    connect(&asker_, &Asker::failed, this, &AlertKeeper::failed);
    connect(&desk_.work(), &Workbench::loaded, this, &AlertKeeper::load);
    connect(&desk_.work(), &Workbench::loaded, this, &AlertKeeper::check);
    // Rules of the market are asked too, so that it must have been read.
    connect(&desk_.conditions(), &MarketReader::changed, this, &AlertKeeper::check);
    connect(&desk_.work(), &Workbench::alertsChanged, this, &AlertKeeper::check);
}

std::size_t AlertKeeper::unseen() const
{
    return static_cast<std::size_t>(
        std::ranges::count_if(log_, [](const Raised& each) { return !each.isSeen; }));
}

void AlertKeeper::load()
{
    desk_.keeper().ask(
        this, [](library::Library& library) { return library::alertLog(library); },
        [this](const library::AlertLog& log) {
            log_ = log.raised;
            Q_EMIT logChanged();
        },
        [this](const QString& why) { Q_EMIT failed(why); });
}

/// Once for each newest session of a market.
void AlertKeeper::check()
{
    if (!desk_.market().isOpen() || !desk_.work().isLoaded() || !desk_.conditions().reading())
        return;
    const market::Market& market = desk_.market().data();
    if (market.sessions().empty())
        return;
    if (desk_.work().now().alerts->empty())
        return settle();
    const std::string name = market.description().name;
    const Day newest = market.sessions().back();
    if (checkedMarket_ == name && checkedTo_ >= newest)
        return;
    isSettled_ = false;
    checkedMarket_ = name;
    checkedTo_ = newest;
    desk_.keeper().ask(
        this, [name](library::Library& library) { return library::alertsCheckedTo(library, name); },
        [this, newest](const std::optional<Day>& known) {
            if (!known || *known < newest)
                put(known.value_or(Day::fromSerial(0)));
            else
                settle();
        },
        [this](const QString& why) { Q_EMIT failed(why); });
}

void AlertKeeper::put(Day after)
{
    if (!desk_.market().isOpen())
        return;
    const Work& work = desk_.work().now();
    const Day newest = desk_.market().data().sessions().back();
    asker_.ask(
        [evaluator = desk_.market().evaluator(), book = desk_.work().nameBook(),
         alerts = work.alerts, lists = work.lists, terms = *work.terms,
         reading = desk_.conditions().reading(), after, newest](const Progress& progress) {
            auto watched = watchlists::watch({*alerts, lists, terms, reading.get()}, *evaluator,
                                             book->names(), after, newest, progress);
            for (Raised& each : watched.raised)
                each.isLate = each.on < newest;
            return watched;
        },
        [this, newest,
         market = desk_.market().data().description().name](const watchlists::Watched& watched) {
            QStringList faults;
            for (const auto& [alert, error] : watched.errors)
                faults << text(sentence(error));
            faults.removeDuplicates();
            if (!faults.isEmpty())
                Q_EMIT failed(tr("%1 alerts cannot be asked: %2")
                                  .arg(watched.errors.size())
                                  .arg(faults.join(QLatin1Char(' '))));
            desk_.keeper().ask(
                this,
                [raised = watched.raised, market, newest](library::Library& library) {
                    return library::addRaised(library, raised, market, newest);
                },
                [this](const std::vector<Raised>& fresh) { take(fresh); },
                [this](const QString& why) {
                    checkedTo_ = Day::fromSerial(0); // it is tried again
                    Q_EMIT failed(tr("What alerts told could not be kept: %1").arg(why));
                });
        });
}

void AlertKeeper::take(const std::vector<Raised>& fresh)
{
    if (!fresh.empty()) {
        log_.insert(log_.end(), fresh.begin(), fresh.end());
        Q_EMIT logChanged();
        Q_EMIT raised(fresh);
    }
    settle();
}

void AlertKeeper::settle()
{
    isSettled_ = true;
    Q_EMIT settled();
}

void AlertKeeper::setSeen(const std::vector<std::int64_t>& ids)
{
    for (Raised& each : log_)
        if (std::ranges::find(ids, each.id) != ids.end())
            each.isSeen = true;
    Q_EMIT logChanged();
    desk_.keeper().ask(
        this,
        [ids](library::Library& library) {
            library::setSeen(library, ids);
            return 0;
        },
        [](int) {}, [this](const QString& why) { Q_EMIT failed(why); });
}

} // namespace sieve::app
