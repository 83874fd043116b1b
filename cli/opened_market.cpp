#include "cli/opened_market.h"

#include "core/intake/take_in.h"
#include "core/screens/run.h"
#include "core/screens/starter.h"

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

market::MarketPtr open(const std::filesystem::path& folder)
{
    Result<intake::Intake> intake = intake::openFolder(folder);
    if (!intake)
        throw InputFault(intake.error());
    return intake->market;
}

} // namespace

OpenedMarket::OpenedMarket(const Request& request)
    : evaluator_(open(request.market)), book_(starterBook()), names_(book_.names())
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
    return request.day ? market().sessionOnOrBefore(*request.day) : market().sessions().back();
}

} // namespace sieve::cli
