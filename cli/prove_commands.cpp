#include "cli/opened_market.h"
#include "core/screens/limits.h"
#include "core/screens/starter.h"
#include "core/storage/file_aside.h"
#include "core/studies/study_sheets.h"
#include "core/studies/cautions.h"
#include "core/studies/market_states.h"
#include "core/studies/return_series.h"
#include "core/studies/study_files.h"

#include <algorithm>
#include <fmt/format.h>

// Does it work? Studies from the command line.

namespace sieve::cli {

namespace {

std::optional<screens::Screen> starterNamed(std::string_view name)
{
    const auto& all = screens::starterScreens();
    const auto found = std::ranges::find(all, name, &screens::Screen::name);
    return found == all.end() ? std::nullopt : std::optional(*found);
}

screens::Screen screenNamed(const std::string& name)
{
    const auto found = starterNamed(name);
    if (!found)
        throw InputFault(fmt::format("there is no ready screen '{}'", name));
    return *found;
}

studies::FollowingQuestion followingAsked(const Request& request)
{
    if (!request.file.empty()) {
        const std::string text = storage::readWhole(request.file);
        auto read = studies::followingFromToml(text, starterNamed);
        if (!read)
            throw InputFault(read.error(), text);
        return *std::move(read);
    }
    studies::FollowingQuestion question = request.studies.following;
    if (!request.studies.screens.empty())
        question.screen = screenNamed(request.studies.screens.front());
    if (!request.text.empty()) {
        if (const auto tree = language::parse(request.text); !tree)
            throw InputFault(tree.error(), request.text);
        for (const std::string& criterion : screens::criteriaOf(request.text))
            question.screen.criteria.push_back({criterion});
    }
    if (!request.group.empty())
        question.screen.universe = request.group;
    question.from = request.from.value_or(Day::fromSerial(0));
    question.to = request.to.value_or(studies::lastDay());
    return question;
}

studies::CaseGroups groupsAsked(const studies::Following& following, const std::string& by,
                                OpenedMarket& opened, const Progress& progress)
{
    if (by == "year")
        return studies::byYear(following);
    if (by == "sector")
        return studies::byText(following, opened.market(), market::TextField::Sector, by);
    if (by == "industry")
        return studies::byText(following, opened.market(), market::TextField::Industry, by);
    if (by == "state" || by == "stance") {
        const auto reading = conditions::readMarket(opened.evaluator(), opened.names(),
                                                    conditions::standardBook(), progress);
        const auto told =
            by == "stance" ? studies::stancesOf(reading) : studies::statesOf(reading);
        return studies::byDays(following, by, told.days, told.names);
    }
    return studies::byStrength(following, 0);
}

studies::StandingsTerms standingsAsked(const Request& request)
{
    if (request.file.empty()) {
        studies::StandingsTerms terms = request.studies.standings;
        terms.screens = request.studies.screens;
        terms.from = request.from;
        terms.to = request.to;
        return terms;
    }
    const std::string text = storage::readWhole(request.file);
    auto read = studies::standingsFromToml(text);
    if (!read)
        throw InputFault(read.error(), text);
    return *std::move(read);
}

/// What weakens the answer is told beside it.
void tellAll(const Request& request, const std::string& of,
             const std::vector<studies::Caution>& cautions)
{
    for (const studies::Caution& caution : cautions)
        request.tell(of + caution.words);
}

/// The stocks of every screen and start: each is asked again, so that there may not be too many.
Answer stocksBought(const studies::Standings& told, OpenedMarket& opened, const Progress& progress)
{
    constexpr std::size_t most = 300;
    const std::size_t asked = told.of.size() * told.question.starts.size();
    if (asked > most)
        throw InputFault(fmt::format("the stocks of {} screens on {} starts are too many to tell: "
                                     "name screens, or ask with --one-start",
                                     told.of.size(), told.question.starts.size()));
    Answer answer{{"screen", "start", "symbol", "weight", "gain"}, {}};
    for (std::size_t screen = 0; screen < told.of.size(); ++screen)
        for (std::size_t start = 0; start < told.question.starts.size(); ++start) {
            const auto picks = studies::picksOn(told.question, screen, start, opened.names(),
                                                opened.evaluator(), progress);
            if (picks)
                studies::addPicks(answer, told.question.screens[screen].name,
                                  told.question.starts[start], *picks, opened.market());
        }
    return answer;
}

} // namespace

Answer measures(const Request& request)
{
    const auto table = imports::readTable(request.file);
    if (!table)
        throw InputFault(table.error());
    const auto series = studies::readReturns(
        *table, request.studies.isWorths ? studies::Told::Worths : studies::Told::Returns);
    if (!series)
        throw InputFault(series.error());
    return request.studies.isCurve ? studies::curvesSheet(*series)
                                   : studies::measuresSheet(*series, request.studies.benchmark);
}

Answer standings(const Request& request, const Progress& progress)
{
    OpenedMarket opened(request);
    const studies::StandingsTerms terms = standingsAsked(request);
    std::vector<screens::Screen> screens = terms.writtenOut;
    for (const std::string& name : terms.screens)
        screens.push_back(screenNamed(name));
    if (screens.empty())
        screens = screens::starterScreens();
    const auto question =
        studies::questionOf(terms, std::move(screens), opened.market(), opened.day(request));
    const auto told =
        studies::standingsOf(question, opened.names(), opened.evaluator(), progress);
    if (!told)
        throw InputFault(told.error());
    if (request.studies.isStocks)
        return stocksBought(*told, opened, progress);
    if (request.isTable)
        return studies::startsSheet(*told);
    if (request.studies.isCurve)
        return studies::curvesSheet(*told);
    if (request.studies.by.empty())
        return studies::sheetOf(*told);
    if (request.studies.by == "health")
        return studies::healthSheet(*told);
    const auto reading = conditions::readMarket(opened.evaluator(), opened.names(),
                                                conditions::standardBook(), progress);
    const auto starts = studies::namesOfStarts(
        *told, request.studies.by == "stance" ? studies::stancesOf(reading)
                                              : studies::statesOf(reading));
    return studies::gainsBySheet(*told, starts.places, starts.names);
}

Answer neighbours(const Request& request, const Progress& progress)
{
    OpenedMarket opened(request);
    studies::NeighbourQuestion question;
    question.of = followingAsked(request);
    question.steps = request.studies.steps;
    const auto movable = studies::movableLimits(question.of.screen, opened.names());
    for (const std::size_t limit : request.studies.limits)
        if (limit < 1 || limit > movable.size())
            throw InputFault(fmt::format("there is no limit {}: {} limits of it are numbers", limit,
                                         movable.size()));
    question.across = movable[request.studies.limits.at(0) - 1];
    question.down = movable[request.studies.limits.at(1) - 1];
    const auto told = studies::neighboursOf(question, opened.names(), opened.evaluator(),
                                            opened.day(request), progress);
    if (!told)
        throw InputFault(told.error());
    tellAll(request, "", studies::cautionsOf(*told));
    return request.studies.by == "year" ? studies::walkSheet(*told) : studies::sheetOf(*told);
}

/// The day by which figures are told apart: the one that was given, or, where nothing else is asked
/// for, the one that the study sets aside.
std::optional<Day> partedBy(const Request& request, std::optional<Day> setAside, bool isPlain)
{
    return request.studies.split || !isPlain ? request.studies.split : setAside;
}

Answer portfolio(const Request& request, const Progress& progress)
{
    const std::string text = storage::readWhole(request.file);
    const auto rule = studies::portfolioFromToml(text, starterNamed);
    if (!rule)
        throw InputFault(rule.error(), text);
    OpenedMarket opened(request);
    const Day day = opened.day(request);
    studies::PortfolioRule asked = *rule;
    asked.from = request.from.value_or(asked.from);
    asked.to = request.to.value_or(asked.to);
    const auto made =
        studies::runPortfolio(asked, opened.names(), opened.evaluator(), day, progress);
    if (!made)
        throw InputFault(made.error());
    const std::string& show = request.show;
    if (show == "curve")
        return studies::curveSheet(*made);
    if (show == "trades")
        return studies::tradesSheet(*made, opened.market());
    if (show == "fills")
        return studies::fillsSheet(*made, opened.market());
    const studies::PortfolioTold told = studies::toldOf(*made);
    tellAll(request, "", studies::cautionsOf(*made, told));
    if (const auto split = partedBy(request, asked.setAside, show.empty()))
        return studies::sheetOf(studies::splitMeasures(*made, *split));
    if (show == "months")
        return studies::monthsSheet(told);
    if (show == "stocks")
        return studies::contributionsSheet(told, opened.market(), day);
    return studies::sheetOf(*made, told);
}

Answer aftermath(const Request& request, const Progress& progress)
{
    OpenedMarket opened(request);
    studies::FollowingQuestion question = followingAsked(request);
    const std::string& by = request.studies.by;
    const bool isKnown = by.empty() || by == "year" || by == "sector" || by == "industry" ||
                         by == "state" || by == "stance";
    if (!isKnown)
        question.strengths = {by};
    const auto following = studies::followingOf(question, opened.names(), opened.evaluator(),
                                                opened.day(request), progress);
    if (!following)
        throw InputFault(following.error());
    for (std::size_t at = 0; at < following->horizons.size(); ++at)
        tellAll(request, fmt::format("after {}: ", following->horizons[at].bars),
                studies::cautionsOf(*following, at));
    if (request.isTable)
        return studies::casesSheet(*following, opened.market());
    if (const auto split = partedBy(request, question.setAside, by.empty()))
        return studies::groupsSheet(*following, studies::bySplit(*following, *split));
    if (by.empty())
        return studies::sheetOf(*following);
    return studies::groupsSheet(*following, groupsAsked(*following, by, opened, progress));
}

} // namespace sieve::cli
