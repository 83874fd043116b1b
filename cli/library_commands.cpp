#include "cli/opened_market.h"
#include "core/briefing/brief_page.h"
#include "core/briefing/evening_mail.h"
#include "core/library/alert_log.h"
#include "core/library/kept_work.h"
#include "core/library/library.h"
#include "core/library/library_folder.h"
#include "core/library/name_books.h"
#include "core/library/pictures.h"
#include "core/watchlists/alert_watch.h"
#include "core/watchlists/list_sheet.h"

#include <algorithm>
#include <cstdlib>
#include <fmt/format.h>

// A person's library, read as it is; written to only where that is asked for.

namespace sieve::cli {

namespace {

std::filesystem::path libraryOf(const Request& request)
{
    std::filesystem::path file = request.library;
    if (file.empty()) {
        const char* data = std::getenv("XDG_DATA_HOME");
        const char* home = std::getenv("HOME");
        const std::filesystem::path folder =
            data && *data ? std::filesystem::path(data)
                          : std::filesystem::path(home ? home : ".") / ".local" / "share";
        file = folder / "wise-sieve" / "library.sqlite";
    }
    if (!std::filesystem::exists(file))
        throw InputFault(fmt::format("there is no library '{}'", file.string()));
    return file;
}

library::Work workIn(library::Library& library, const Request& request)
{
    library::LoadedWork loaded = library::loadWork(library);
    for (const auto& problem : loaded.problems)
        request.tell("left out of the library: " + sentence(problem.error));
    return std::move(loaded.work);
}

const watchlists::Watchlist& listNamed(const library::Work& work, const std::string& name)
{
    const auto found = std::ranges::find_if(
        work.lists, [&](const auto& list) { return list->name == name; });
    if (found == work.lists.end())
        throw InputFault(fmt::format("the library has no list '{}'", name));
    return **found;
}

} // namespace

Answer lists(const Request& request, const Progress& progress)
{
    const auto library = library::Library::copyOf(libraryOf(request));
    const library::Work work = workIn(*library, request);
    if (request.list.empty())
        return watchlists::sheetOf(work.lists);
    const watchlists::Watchlist& list = listNamed(work, request.list);
    if (request.market.empty()) {
        if (request.isMoves || list.isKeptByRule())
            throw InputFault("who is on a list that a screen keeps, and who came and went, is asked "
                             "of a market: give --market");
        watchlists::ListTold told;
        told.list = list;
        told.entries.resize(list.entries.size());
        return watchlists::sheetOf(told, nullptr);
    }
    OpenedMarket opened(request);
    const auto book = library::NameBooks().of(work);
    const Day day = opened.day(request);
    const auto told = watchlists::tell(list, opened.evaluator(), book->names(),
                                       {*work.terms, *work.verdicts}, day, progress);
    if (told.error)
        throw InputFault(*told.error);
    if (!request.isMoves)
        return watchlists::sheetOf(told, &opened.market());
    const auto days = watchlists::sessionsBefore(opened.market(), day);
    return watchlists::movesOf(
        told.stays ? *told.stays : watchlists::staysByHand(list, opened.market(), days),
        opened.market());
}

Answer alerts(const Request& request, const Progress& progress)
{
    const std::filesystem::path file = libraryOf(request);
    auto opened = request.isWrite ? library::Library::open(file) : library::Library::Opened();
    if (opened.isReadOnly)
        throw InputFault("another program has the library; nothing was written");
    const auto library =
        request.isWrite ? std::move(opened.library) : library::Library::copyOf(file);
    const library::Work work = workIn(*library, request);
    if (request.market.empty())
        return watchlists::sheetOf(library::alertLog(*library).raised);
    OpenedMarket market(request);
    const auto book = library::NameBooks().of(work);
    const conditions::Reading reading = conditions::readMarket(
        market.evaluator(), book->names(), *work.marketBook, progress);
    const Day to = market.day(request);
    const std::string& name = market.market().description().name;
    const auto checked = library::alertsCheckedTo(*library, name);
    auto watched = watchlists::watch({*work.alerts, work.lists, *work.terms, &reading},
                                     market.evaluator(), book->names(),
                                     request.from.value_or(checked.value_or(Day::fromSerial(0))),
                                     to, progress);
    for (const auto& [alert, error] : watched.errors)
        request.tell(fmt::format("alert {} cannot be asked: {}", alert, sentence(error)));
    const Day newest = market.market().sessions().back();
    for (watchlists::Raised& raised : watched.raised)
        raised.isLate = raised.on < newest;
    if (request.isWrite)
        return watchlists::sheetOf(library::addRaised(*library, watched.raised, name, to));
    return watchlists::sheetOf(watched.raised);
}

Answer libraryAsText(const Request& request)
{
    if (request.isWrite) {
        if (request.library.empty() || std::filesystem::exists(request.library))
            throw InputFault("give --library with the name of a file that is not there yet");
        const auto opened = library::Library::open(request.library);
        if (const auto fault = library::readFolder(*opened.library, request.folder)) {
            std::filesystem::remove(request.library);
            throw InputFault(*fault);
        }
    } else {
        const auto file = libraryOf(request);
        const auto copy = library::Library::copyOf(file);
        library::writeFolder(*copy, request.folder);
        const auto pictures = library::picturePath(file, "x").parent_path();
        if (std::filesystem::is_directory(pictures))
            std::filesystem::copy(pictures, request.folder / "pictures",
                                  std::filesystem::copy_options::recursive);
    }
    return {{"folder"}, {{request.folder.string()}}, {}};
}

Answer review(const Request& request, const Progress& progress)
{
    const auto library = library::Library::copyOf(libraryOf(request));
    const library::Work work = workIn(*library, request);
    OpenedMarket opened(request);
    const auto book = library::NameBooks().of(work);
    const conditions::Reading reading =
        conditions::readMarket(opened.evaluator(), book->names(), *work.marketBook, progress);
    const auto cases = watchlists::reviewOf(
        {work.lists, &*work.tray, *work.verdicts, &reading, *work.terms}, opened.evaluator(),
        book->names(), opened.day(request), progress);
    if (request.isTable)
        return watchlists::sheetOf(cases, opened.market());
    for (const watchlists::ReviewBy by : watchlists::reviewKinds)
        if (watchlists::reviewByName(by) == request.show)
            return watchlists::sheetOf(watchlists::rowsBy(cases, by));
    throw InputFault(fmt::format("nothing is reviewed by '{}'", request.show));
}

std::vector<std::string> reviewedBy()
{
    std::vector<std::string> names;
    for (const watchlists::ReviewBy by : watchlists::reviewKinds)
        names.emplace_back(watchlists::reviewByName(by));
    return names;
}

std::string briefText(const Request& request, const Progress& progress)
{
    const auto library = library::Library::copyOf(libraryOf(request));
    library::Work work = workIn(*library, request);
    OpenedMarket opened(request);
    engine::Evaluator& evaluator = opened.evaluator();
    const auto book = library::NameBooks().of(work);
    const conditions::Reading reading =
        conditions::readMarket(evaluator, book->names(), *work.marketBook, progress);
    const conditions::Groups groups = conditions::readGroups(evaluator, progress);
    const auto log = library::alertLog(*library);
    const Day day = opened.day(request);
    const Day since =
        request.from.value_or(briefing::sessionBefore(opened.market(), day).value_or(day));
    const briefing::BriefQuestion question{work, reading, groups, log.raised};
    if (request.show == "mail") {
        if (!request.text.empty())
            work.mail.edit().to = request.text;
        if (const auto fault = exports::faultOfAddress(work.mail->to); !fault.empty())
            throw InputFault(fault);
        const auto mail = briefing::eveningMail(
            question, evaluator, book->names(), since, day,
            std::chrono::floor<std::chrono::seconds>(std::chrono::system_clock::now()), progress);
        return mail ? exports::toEml(*mail) : std::string();
    }
    const briefing::Brief brief =
        briefing::makeBrief(question, evaluator, book->names(), since, day, progress);
    for (const std::string& fault : brief.faults)
        request.tell("could not be asked: " + fault);
    if (request.show == "text")
        return briefing::textOf(brief);
    if (request.show == "html")
        return briefing::pageOf(brief);
    const Answer sheet = briefing::sheetOf(brief);
    return request.show == "json" ? exports::toJson(sheet) : exports::toCsv(sheet);
}

std::vector<std::string> briefForms()
{
    return {"text", "html", "mail", "csv", "json"};
}

} // namespace sieve::cli
