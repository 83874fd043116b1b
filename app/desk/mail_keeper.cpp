#include "app/desk/mail_keeper.h"

#include "app/desk/alert_keeper.h"
#include "app/desk/desk.h"
#include "app/desk/library_keeper.h"
#include "app/desk/market_reader.h"
#include "app/desk/open_market.h"
#include "app/desk/workbench.h"
#include "app/parts/number_text.h"
#include "core/briefing/evening_mail.h"
#include "core/library/outbox.h"

#include <algorithm>
#include <chrono>

namespace sieve::app {

MailKeeper::MailKeeper(Desk& desk) : QObject(&desk), desk_(desk), asker_(this)
{
    connect(&asker_, &Asker::failed, this, &MailKeeper::failed);
    connect(&desk_.alerts(), &AlertKeeper::settled, this, &MailKeeper::check);
    connect(&desk_.conditions(), &MarketReader::changed, this, &MailKeeper::check);
    connect(&desk_.work(), &Workbench::mailChanged, this, &MailKeeper::check);
}

/// A mail tells what alerts told and how the groups stand, so that both must be known.
void MailKeeper::check()
{
    const bool isReady = desk_.market().isOpen() && desk_.work().isLoaded() &&
                         desk_.conditions().reading() && desk_.conditions().groups() &&
                         desk_.alerts().isSettled();
    if (!isReady || isAsking_ || desk_.keeper().isReadOnly() || desk_.keeper().file().empty())
        return;
    const watchlists::MailTerms& terms = *desk_.work().now().mail;
    const auto sessions = desk_.market().data().sessions();
    const auto wanted = std::find_if(sessions.rbegin(), sessions.rend(),
                                     [&](Day day) { return isWanted(terms, day); });
    if (wanted == sessions.rend())
        return;
    askMailedTo([this, day = *wanted](std::optional<Day> mailedTo) {
        if (!mailedTo || *mailedTo < day)
            write(mailedTo, day, Asked::ByTerms);
    });
}

void MailKeeper::writeNow()
{
    const bool isReady = desk_.market().isOpen() && desk_.conditions().reading() &&
                         desk_.conditions().groups() && !desk_.work().now().mail->to.empty();
    if (!isReady || desk_.market().data().sessions().empty())
        return Q_EMIT failed(tr("No mail was written: there is no address, or no market that is "
                                "read."));
    if (desk_.keeper().isReadOnly() || desk_.keeper().file().empty())
        return Q_EMIT failed(tr("No mail was written: nothing of this session is kept."));
    // Since the last mail, as any other: what it tells is told by no later one.
    askMailedTo([this, day = desk_.market().data().sessions().back()](std::optional<Day> mailedTo) {
        write(mailedTo && *mailedTo < day ? mailedTo : std::nullopt, day, Asked::ByPerson);
    });
}

void MailKeeper::askMailedTo(std::function<void(std::optional<Day>)> then)
{
    isAsking_ = true;
    desk_.keeper().ask(
        this,
        [market = desk_.market().data().description().name](library::Library& library) {
            return library::mailedTo(library, market);
        },
        [this, then = std::move(then)](const std::optional<Day>& mailedTo) {
            isAsking_ = false;
            then(mailedTo);
        },
        [this](const QString& why) {
            isAsking_ = false;
            Q_EMIT failed(why);
        });
}

void MailKeeper::write(std::optional<Day> since, Day day, Asked asked)
{
    if (!desk_.market().isOpen() || !desk_.conditions().reading() || !desk_.conditions().groups())
        return;
    const Day from =
        since.value_or(briefing::sessionBefore(desk_.market().data(), day).value_or(day));
    asker_.ask(
        [evaluator = desk_.market().evaluator(), book = desk_.work().nameBook(),
         work = desk_.work().now(), reading = desk_.conditions().reading(),
         groups = desk_.conditions().groups(), raised = desk_.alerts().log(), from,
         day](const Progress& progress) {
            const auto now =
                std::chrono::floor<std::chrono::seconds>(std::chrono::system_clock::now());
            const auto mail = briefing::eveningMail({work, *reading, *groups, raised}, *evaluator,
                                                    book->names(), from, day, now, progress);
            return mail ? exports::toEml(*mail) : std::string();
        },
        [this, day, from, asked](const std::string& mail) {
            if (mail.empty() && asked == Asked::ByPerson)
                Q_EMIT told(tr("No mail was written: there is nothing to tell since %1.")
                                .arg(dayText(from)));
            keep(day, mail);
        });
}

void MailKeeper::keep(Day day, const std::string& mail)
{
    desk_.keeper().ask(
        this,
        [market = desk_.market().data().description().name, day, mail](library::Library& library) {
            return library::keepMail(library, market, day, mail);
        },
        [this](const std::filesystem::path& path) {
            if (!path.empty())
                Q_EMIT told(tr("A mail waits in %1").arg(text(path.string())));
        },
        [this](const QString& why) {
            Q_EMIT failed(tr("A mail could not be written: %1").arg(why));
        });
}

} // namespace sieve::app
