#include "cli/opened_market.h"

#include "core/intake/take_in.h"
#include "core/screens/run.h"
#include "core/screens/starter.h"

#include <algorithm>
#include <fmt/format.h>

namespace sieve::cli {

namespace {

screens::NameBook starterBook()
{
    screens::NameBook book;
    for (const screens::Screen& screen : screens::starterScreens())
        book.screens[screen.name] = screens::conditionOf(screen);
    return book;
}

market::MarketPtr open(const Request& request)
{
    Result<intake::Intake> intake = intake::openFolder(request.market);
    if (!intake)
        throw InputFault(intake.error());
    if (!intake->standing.empty())
        request.tell("the market stands as it was: " + intake->standing);
    return intake->market;
}

} // namespace

OpenedMarket::OpenedMarket(const Request& request)
    : evaluator_(open(request)), book_(starterBook()), names_(book_.names())
{
}

language::Checked OpenedMarket::check(const std::string& text)
{
    Result<language::Checked> checked = language::check(text, names_, plan_);
    if (!checked)
        throw InputFault(checked.error(), text);
    return *std::move(checked);
}

std::vector<language::Checked> OpenedMarket::check(const std::vector<std::string>& texts)
{
    std::vector<language::Checked> all;
    for (const std::string& text : texts)
        all.push_back(check(text));
    return all;
}

std::size_t OpenedMarket::instrument(const std::string& symbol) const
{
    const auto found = market().find(symbol);
    if (!found)
        throw InputFault(fmt::format("no instrument has the symbol '{}'", symbol));
    return *found;
}

Day OpenedMarket::day(const Request& request) const
{
    const auto all = market().sessions();
    if (!request.day)
        return all.back();
    const auto session = market().sessionOnOrBefore(*request.day);
    if (!session)
        throw InputFault(fmt::format("the market begins on {}; nothing is known on {}",
                                     all.front().iso(), request.day->iso()));
    if (*session != *request.day)
        request.tell(fmt::format("as of {}, the newest session by {}", session->iso(),
                                 request.day->iso()));
    return *session;
}

std::span<const Day> OpenedMarket::sessions(const Request& request) const
{
    const auto all = market().sessions();
    const auto first = std::ranges::lower_bound(all, request.from.value_or(all.front()));
    const auto last = std::ranges::upper_bound(all, request.to.value_or(all.back()));
    if (first >= last)
        throw InputFault(fmt::format("the market has no session from {} to {}; it begins on {} and "
                                     "ends on {}",
                                     request.from ? request.from->iso() : "the first",
                                     request.to ? request.to->iso() : "the newest",
                                     all.front().iso(), all.back().iso()));
    if (request.to && *request.to > all.back())
        request.tell(fmt::format("the newest session is {}", all.back().iso()));
    return {first, last};
}

} // namespace sieve::cli
