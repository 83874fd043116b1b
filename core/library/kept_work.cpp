#include "core/library/kept_work.h"

#include "core/library/library.h"
#include "core/library/lists.h"
#include "core/library/numbered.h"
#include "core/library/own_fields.h"
#include "core/library/screens.h"
#include "core/library/settings.h"
#include "core/screens/starter.h"

#include <algorithm>

namespace sieve::library {

namespace {

using What = LoadedWork::Problem::What;

constexpr const char* screenKey = "screen_in_hand";
constexpr const char* bookKey = "market_book";
constexpr const char* columnSetsKey = "column_sets";
constexpr const char* weighingKey = "weighing";
constexpr const char* checklistsKey = "checklists";
constexpr const char* termsKey = "trading_terms";
constexpr const char* mailKey = "mail_terms";
constexpr const char* chartSetUpsKey = "chart_set_ups";
constexpr const char* drawingTable = "drawing";
constexpr const char* verdictTable = "verdict";
constexpr const char* alertTable = "alert";
constexpr const char* firstScreen = "Pullback in an uptrend"; ///< what a new person begins from

/// Reads a thing that is kept as one text, if there is one. A text that cannot be read is kept as a
/// file before anything can be written over it.
template <class Read, class Take> void readText(Library& library, LoadedWork& loaded, What what,
                                                const char* key, Read read, Take take)
{
    const std::optional<std::string> text = setting(library, key);
    if (!text)
        return;
    if (auto value = read(*text))
        take(*std::move(value));
    else
        loaded.problems.push_back({what, value.error(), library.setAside(key, *text)});
}

void addProblems(LoadedWork& loaded, What what, const std::vector<LocatedError>& errors)
{
    for (const LocatedError& error : errors)
        loaded.problems.push_back({what, error});
}

} // namespace

LoadedWork loadWork(Library& library)
{
    LoadedWork loaded;
    Work& work = loaded.work;
    const UnreadText unread = [&](TextOf what, const LocatedError& error, const std::string& text) {
        const bool isPlan = what == TextOf::Plan;
        loaded.problems.push_back({isPlan ? What::Plan : What::EntryPage, error,
                                   library.setAside(isPlan ? "plan" : "entry", text)});
    };
    work.tray = loadTray(library, unread);
    work.lists = loadLists(library, unread);
    LoadedScreens screens = loadScreens(library);
    work.screens = std::move(screens.screens);
    addProblems(loaded, What::Screen, screens.problems);
    const LoadedScreens drafts = loadDrafts(library);
    for (const auto& draft : drafts.screens)
        work.drafts.emplace_back(draft->screen);
    addProblems(loaded, What::Screen, drafts.problems);
    LoadedFields fields = loadOwnFields(library);
    work.fields = std::move(fields.fields);
    addProblems(loaded, What::Field, fields.problems);
    auto drawn = loadNumbered(library, drawingTable, drawings::drawingFromToml);
    work.drawings = std::move(drawn.things);
    addProblems(loaded, What::Drawing, drawn.problems);
    auto judged = loadNumbered(library, verdictTable, watchlists::verdictFromToml);
    work.verdicts = std::move(judged.things);
    addProblems(loaded, What::Verdict, judged.problems);
    auto alerts = loadNumbered(library, alertTable, watchlists::alertFromToml);
    work.alerts = std::move(alerts.things);
    addProblems(loaded, What::Alert, alerts.problems);
    for (const screens::Screen& screen : screens::starterScreens())
        if (screen.name == firstScreen)
            work.screen = screen;
    readText(library, loaded, What::ScreenInHand, screenKey, screens::screenFromToml,
             [&](screens::Screen screen) { work.screen = std::move(screen); });
    readText(library, loaded, What::MarketBook, bookKey, conditions::bookFromToml,
             [&](conditions::MarketBook book) { work.marketBook = std::move(book); });
    readText(library, loaded, What::ColumnSets, columnSetsKey, screens::columnSetsFromToml,
             [&](std::vector<screens::ColumnSet> sets) { work.columnSets = std::move(sets); });
    readText(library, loaded, What::ChartSetUps, chartSetUpsKey, charts::setUpsFromToml,
             [&](std::vector<charts::SetUp> setUps) { work.chartSetUps = std::move(setUps); });
    readText(library, loaded, What::Weighing, weighingKey, watchlists::weighingFromToml,
             [&](watchlists::Weighing weighing) { work.weighing = std::move(weighing); });
    readText(library, loaded, What::Checklists, checklistsKey, watchlists::checklistsFromToml,
             [&](std::vector<watchlists::Checklist> lists) { work.checklists = std::move(lists); });
    readText(library, loaded, What::TradingTerms, termsKey, watchlists::tradingTermsFromToml,
             [&](watchlists::TradingTerms terms) { work.terms = std::move(terms); });
    readText(library, loaded, What::MailTerms, mailKey, watchlists::mailTermsFromToml,
             [&](watchlists::MailTerms terms) { work.mail = std::move(terms); });
    return loaded;
}

void writeWork(Library& library, const Work& before, const Work& after)
{
    if (before.tray != after.tray)
        saveTray(library, *after.tray);
    if (before.lists != after.lists)
        saveLists(library, before.lists, after.lists);
    if (before.screens != after.screens)
        saveScreens(library, before.screens, after.screens);
    if (before.drafts != after.drafts)
        saveDrafts(library, after.drafts);
    if (before.fields != after.fields)
        saveOwnFields(library, *before.fields, *after.fields);
    if (before.drawings != after.drawings)
        saveNumbered<drawings::Drawing>(library, drawingTable, *before.drawings, *after.drawings);
    if (before.verdicts != after.verdicts)
        saveNumbered<watchlists::Verdict>(library, verdictTable, *before.verdicts, *after.verdicts);
    if (before.alerts != after.alerts)
        saveNumbered<watchlists::Alert>(library, alertTable, *before.alerts, *after.alerts);
    if (before.screen != after.screen)
        setSetting(library, screenKey, toToml(*after.screen));
    if (before.columnSets != after.columnSets)
        setSetting(library, columnSetsKey, screens::toToml(*after.columnSets));
    if (before.chartSetUps != after.chartSetUps)
        setSetting(library, chartSetUpsKey, charts::toToml(*after.chartSetUps));
    if (before.weighing != after.weighing)
        setSetting(library, weighingKey, watchlists::toToml(*after.weighing));
    if (before.checklists != after.checklists)
        setSetting(library, checklistsKey, watchlists::toToml(*after.checklists));
    if (before.terms != after.terms)
        setSetting(library, termsKey, watchlists::toToml(*after.terms));
    if (before.mail != after.mail)
        setSetting(library, mailKey, watchlists::toToml(*after.mail));
    if (before.marketBook != after.marketBook)
        setSetting(library, bookKey, toToml(*after.marketBook));
}

void saveWork(Library& library, const Work& before, const Work& after)
{
    library.inTransaction([&] { writeWork(library, before, after); });
}

} // namespace sieve::library
