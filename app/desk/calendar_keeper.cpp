#include "app/desk/calendar_keeper.h"

#include "app/desk/desk.h"
#include "app/desk/library_keeper.h"
#include "app/desk/open_market.h"
#include "app/desk/settings.h"
#include "app/desk/workbench.h"
#include "app/parts/number_text.h"
#include "core/storage/file_aside.h"
#include "core/watchlists/agenda.h"

#include <filesystem>

namespace sieve::app {

namespace {

constexpr const char* fileKey = "calendar_file";
constexpr int afterEdits = 2000; ///< milliseconds

/// All that is announced from a day on; gives back how many events, and writes nothing where the
/// file holds them already.
std::size_t writeCalendar(const std::vector<Shared<watchlists::Watchlist>>& lists,
                          const market::Market& market, Day asOf, const std::filesystem::path& path)
{
    constexpr int yearAhead = 370; // reviews may lie further ahead than what is announced
    const auto items = watchlists::agendaOf(lists, market, asOf, asOf, asOf.plusDays(yearAhead));
    const std::string text = exports::toICalendar("Wise Sieve", watchlists::eventsOf(items), asOf);
    std::error_code none;
    if (!std::filesystem::exists(path, none) || storage::readWhole(path) != text)
        storage::writeWhole(path, text);
    return items.size();
}

} // namespace

CalendarKeeper::CalendarKeeper(Desk& desk)
    : QObject(&desk), desk_(desk), asker_(this), keptAsker_(this)
{
    for (const Asker* asker : {&asker_, &keptAsker_})
        connect(asker, &Asker::failed, this, [this](const QString& why) {
            Q_EMIT failed(tr("The calendar could not be written: %1").arg(why));
        });
    soon_.setSingleShot(true);
    soon_.setInterval(afterEdits);
    connect(&soon_, &QTimer::timeout, this, &CalendarKeeper::writeKept);
    connect(&desk_.market(), &OpenMarket::settled, this, [this] { soon_.start(); });
    connect(&desk_.work(), &Workbench::listsChanged, this, [this] { soon_.start(); });
}

QString CalendarKeeper::keptFile() const
{
    return text(desk_.settings().value(fileKey));
}

void CalendarKeeper::keep(const QString& file)
{
    desk_.settings().set(fileKey, utf8(file));
    writeKept();
}

void CalendarKeeper::write(const QString& file)
{
    ask(asker_, file, [this, file](std::size_t count) {
        Q_EMIT told(tr("%1 events saved in %2").arg(count).arg(file));
    });
}

/// Without a word: it is what was asked for once.
void CalendarKeeper::writeKept()
{
    // A window that only reads the library may show lists as they were.
    if (const QString file = keptFile(); !file.isEmpty() && !desk_.keeper().isReadOnly())
        ask(keptAsker_, file, [](std::size_t) {});
}

void CalendarKeeper::ask(Asker& asker, const QString& file, std::function<void(std::size_t)> take)
{
    if (!desk_.work().isLoaded() || !desk_.market().isOpen() ||
        desk_.market().data().sessions().empty())
        return;
    asker.ask(
        [market = desk_.market().evaluator()->marketPtr(), lists = desk_.work().now().lists,
         path = std::filesystem::path(file.toStdString())](const Progress&) {
            return writeCalendar(lists, *market, market->sessions().back(), path);
        },
        std::move(take));
}

} // namespace sieve::app
