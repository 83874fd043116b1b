#include "core/library/kept_work.h"

#include "core/library/library.h"
#include "core/library/lists.h"
#include "core/library/numbered.h"
#include "core/library/own_fields.h"
#include "core/library/screens.h"
#include "core/library/settings.h"
#include "core/screens/starter.h"

#include <algorithm>
#include <optional>
#include <utility>

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
constexpr const char* runTable = "kept_run";
constexpr const char* firstScreen = "Pullback in an uptrend"; ///< what a new person begins from

void addProblems(LoadedWork& loaded, What what, const std::vector<LocatedError>& errors)
{
    for (const LocatedError& error : errors)
        loaded.problems.push_back({what, error});
}

} // namespace

namespace {

/// Loads the work kind by kind, each by the name of its table.
class Loading {
public:
    Loading(Library& library, Work known)
        : library_(library), unread_([this](TextOf what, const LocatedError& error,
                                            const std::string& text) { keep(what, error, text); })
    {
        loaded_.work = std::move(known);
    }

    void loadTray() { work().tray = library::loadTray(library_, unread_); }
    /// All of them, or the heads of all and the entries of some: those of the others are known.
    void loadLists(const std::set<std::int64_t>* some)
    {
        const auto known = std::exchange(work().lists, library::loadLists(library_, unread_, some));
        if (!some)
            return;
        for (Shared<watchlists::Watchlist>& list : work().lists)
            for (const auto& former : known)
                if (former->id == list->id && !some->contains(list->id))
                    list = former;
    }
    void loadScreens()
    {
        LoadedScreens screens = library::loadScreens(library_);
        work().screens = std::move(screens.screens);
        addProblems(loaded_, What::Screen, screens.problems);
    }
    void loadDrafts()
    {
        const LoadedScreens drafts = library::loadDrafts(library_);
        work().drafts.clear();
        for (const auto& draft : drafts.screens)
            work().drafts.emplace_back(draft->screen);
        addProblems(loaded_, What::Screen, drafts.problems);
    }
    void loadFields()
    {
        LoadedFields fields = loadOwnFields(library_);
        work().fields = std::move(fields.fields);
        addProblems(loaded_, What::Field, fields.problems);
    }
    void loadDrawings()
    {
        readAll(What::Drawing, drawingTable, drawings::drawingFromToml, work().drawings);
    }
    void loadVerdicts()
    {
        readAll(What::Verdict, verdictTable, watchlists::verdictFromToml, work().verdicts);
    }
    void loadAlerts()
    {
        readAll(What::Alert, alertTable, watchlists::alertFromToml, work().alerts);
    }
    void loadRuns() { readAll(What::KeptRun, runTable, studies::keptRunFromToml, work().runs); }
    /// What is one text; where there is none, what a new person begins from.
    void loadTexts()
    {
        const Work fresh;
        for (const screens::Screen& screen : screens::starterScreens())
            if (screen.name == firstScreen)
                work().screen = screen;
        work().marketBook = fresh.marketBook;
        work().columnSets = fresh.columnSets;
        work().chartSetUps = fresh.chartSetUps;
        work().weighing = fresh.weighing;
        work().checklists = fresh.checklists;
        work().terms = fresh.terms;
        work().mail = fresh.mail;
        read(What::ScreenInHand, screenKey, screens::screenFromToml, work().screen);
        read(What::MarketBook, bookKey, conditions::bookFromToml, work().marketBook);
        read(What::ColumnSets, columnSetsKey, screens::columnSetsFromToml, work().columnSets);
        read(What::ChartSetUps, chartSetUpsKey, charts::setUpsFromToml, work().chartSetUps);
        read(What::Weighing, weighingKey, watchlists::weighingFromToml, work().weighing);
        read(What::Checklists, checklistsKey, watchlists::checklistsFromToml, work().checklists);
        read(What::TradingTerms, termsKey, watchlists::tradingTermsFromToml, work().terms);
        read(What::MailTerms, mailKey, watchlists::mailTermsFromToml, work().mail);
    }
    LoadedWork take() { return std::move(loaded_); }

private:
    Work& work() { return loaded_.work; }

    template <class Thing> void readAll(What what, const char* table,
                                        Result<Thing> (*reader)(std::string_view),
                                        Shared<std::vector<Shared<Thing>>>& into)
    {
        auto loaded = loadNumbered(library_, table, reader);
        into = std::move(loaded.things);
        addProblems(loaded_, what, loaded.problems);
    }
    /// A text that cannot be read is kept as a file before anything can be written over it.
    template <class Read, class Thing>
    void read(What what, const char* key, Read reader, Shared<Thing>& into)
    {
        const std::optional<std::string> text = setting(library_, key);
        if (!text)
            return;
        if (auto value = reader(*text))
            into = *std::move(value);
        else
            loaded_.problems.push_back({what, value.error(), library_.setAside(key, *text)});
    }
    void keep(TextOf what, const LocatedError& error, const std::string& text)
    {
        const bool isPlan = what == TextOf::Plan;
        loaded_.problems.push_back({isPlan ? What::Plan : What::EntryPage, error,
                                    library_.setAside(isPlan ? "plan" : "entry", text)});
    }

    Library& library_;
    LoadedWork loaded_;
    UnreadText unread_;
};

} // namespace

LoadedWork loadWork(Library& library)
{
    Loading loading(library, {});
    loading.loadTray();
    loading.loadLists(nullptr);
    loading.loadScreens();
    loading.loadDrafts();
    loading.loadFields();
    loading.loadDrawings();
    loading.loadVerdicts();
    loading.loadAlerts();
    loading.loadRuns();
    loading.loadTexts();
    return loading.take();
}

LoadedWork loadTouched(Library& library, const Work& known, const Touched& touched)
{
    Loading loading(library, known);
    const auto isTouched = [&touched](const char* table) { return touched.tables.contains(table); };
    if (isTouched("card"))
        loading.loadTray();
    if (isTouched("watchlist") || isTouched("entry") || isTouched("former_entry"))
        loading.loadLists(&touched.lists);
    if (isTouched("screen"))
        loading.loadScreens();
    if (isTouched("draft"))
        loading.loadDrafts();
    if (isTouched("own_field"))
        loading.loadFields();
    if (isTouched(drawingTable))
        loading.loadDrawings();
    if (isTouched(verdictTable))
        loading.loadVerdicts();
    if (isTouched(alertTable))
        loading.loadAlerts();
    if (isTouched(runTable))
        loading.loadRuns();
    if (isTouched("setting"))
        loading.loadTexts();
    return loading.take();
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
    if (before.runs != after.runs)
        saveNumbered<studies::KeptRun>(library, runTable, *before.runs, *after.runs);
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
