#include "core/library/work.h"

#include "core/screens/renaming.h"
#include "core/screens/starter.h"

#include <algorithm>
#include <utility>

namespace sieve::library {

namespace {

using language::Renaming;

auto byName(std::string_view name)
{
    return [name](const Shared<KeptScreen>& kept) { return kept->screen.name == name; };
}

void insertScreen(Work& work, KeptScreen kept)
{
    const auto after = std::ranges::find_if(work.screens, [&](const Shared<KeptScreen>& each) {
        return kept.screen.name < each->screen.name;
    });
    work.screens.insert(after, std::move(kept));
}

/// The same value when no text of it asks for what is renamed, so that copies go on to share it.
template <class T> void rename(Shared<T>& value, const Renaming& renaming)
{
    if (names(*value, renaming.what, renaming.from))
        value = withRenamed(*value, renaming);
}

bool follow(watchlists::Entry& entry, const Renaming& renaming)
{
    const auto follows = [&](watchlists::TradePlan& plan) {
        return std::exchange(plan, withRenamed(plan, renaming)) != plan;
    };
    bool isOther = entry.plan && follows(*entry.plan);
    for (watchlists::TradePlan& plan : entry.page.formerPlans)
        isOther = follows(plan) || isOther;
    return isOther;
}

/// The screen that keeps it, and the rules of its plans.
void follow(Shared<watchlists::Watchlist>& list, const Renaming& renaming)
{
    watchlists::Watchlist renamed = *list;
    bool isOther = renaming.what == Renaming::What::Screen && renamed.head.screen == renaming.from;
    if (isOther)
        renamed.head.screen = renaming.to;
    for (watchlists::Entry& entry : renamed.entries)
        isOther = follow(entry, renaming) || isOther;
    if (isOther)
        list = std::move(renamed);
}

/// Gives what bears another name that name in all texts that ask for it.
void follow(Work& work, const Renaming& renaming)
{
    rename(work.screen, renaming);
    rename(work.marketBook, renaming);
    for (Shared<screens::Screen>& draft : work.drafts)
        rename(draft, renaming);
    for (Shared<KeptScreen>& kept : work.screens)
        if (names(kept->screen, renaming.what, renaming.from))
            kept.edit().screen = screens::withRenamed(kept->screen, renaming);
    // Sets of columns and of layers: few, so that all are gone through.
    auto columnSets = *work.columnSets;
    for (screens::ColumnSet& set : columnSets)
        for (std::string& column : set.columns)
            column = renaming.in(column);
    if (columnSets != *work.columnSets)
        work.columnSets = std::move(columnSets);
    auto checklists = *work.checklists;
    for (watchlists::Checklist& checklist : checklists)
        for (watchlists::Question& question : checklist.questions)
            question.rule = renaming.in(question.rule);
    if (checklists != *work.checklists)
        work.checklists = std::move(checklists);
    for (auto& list : work.lists)
        follow(list, renaming);
    for (std::size_t place = 0; place < work.tray->cards().size(); ++place)
        if (const auto& plan = work.tray->cards()[place].plan)
            if (auto renamed = withRenamed(*plan, renaming); renamed != *plan)
                work.tray.edit().setPlan(place, std::move(renamed));
    for (std::size_t place = 0; place < work.alerts->size(); ++place)
        if (auto alert = withRenamed(*(*work.alerts)[place], renaming);
            alert != *(*work.alerts)[place])
            work.alerts.edit()[place] = std::move(alert);
    auto setUps = *work.chartSetUps;
    for (charts::SetUp& setUp : setUps)
        setUp = withRenamed(std::move(setUp), renaming);
    if (setUps != *work.chartSetUps)
        work.chartSetUps = std::move(setUps);
}

bool isKept(const Work& work, const screens::Screen& screen)
{
    if (const KeptScreen* kept = work.findScreen(screen.name))
        return kept->screen == screen;
    const auto& ready = screens::starterScreens();
    return std::ranges::find(ready, screen) != ready.end();
}

std::vector<Shared<screens::Screen>>::iterator draftNamed(Work& work, std::string_view name)
{
    return std::ranges::find_if(work.drafts,
                                [name](const auto& each) { return each->name == name; });
}

/// The first one that has the id or a higher one.
template <class Things> auto numberedFrom(Things& things, std::int64_t id)
{
    return std::ranges::lower_bound(things, id, {}, [](const auto& each) { return each->id; });
}

/// In the place of the one of its id, if there is one; the same value as before is no change.
template <class Thing>
void keepNumbered(Shared<std::vector<Shared<Thing>>>& things, const Thing& thing)
{
    const auto own = numberedFrom(*things, thing.id);
    const bool isKnown = own != things->end() && (*own)->id == thing.id;
    if (isKnown && **own == thing)
        return;
    auto& all = things.edit();
    const auto place = numberedFrom(all, thing.id);
    if (isKnown)
        *place = thing;
    else
        all.insert(place, thing);
}

template <class Thing>
void removeNumbered(Shared<std::vector<Shared<Thing>>>& things, std::int64_t id)
{
    const auto own = numberedFrom(*things, id);
    if (own == things->end() || (*own)->id != id)
        return;
    auto& all = things.edit();
    all.erase(numberedFrom(all, id));
}

} // namespace

const Shared<language::OwnFields>& Work::noFields()
{
    static const Shared<language::OwnFields> none;
    return none;
}

const watchlists::Watchlist* Work::findList(std::int64_t id) const
{
    const auto found =
        std::ranges::find_if(lists, [id](const auto& list) { return list->id == id; });
    return found == lists.end() ? nullptr : &**found;
}

watchlists::Watchlist* Work::editList(std::int64_t id)
{
    const auto found =
        std::ranges::find_if(lists, [id](const auto& list) { return list->id == id; });
    return found == lists.end() ? nullptr : &found->edit();
}

std::vector<Shared<watchlists::Watchlist>> listsByHand(const Work& work)
{
    std::vector<Shared<watchlists::Watchlist>> lists;
    std::ranges::copy_if(work.lists, std::back_inserter(lists), [](const auto& list) {
        return !list->isKeptByRule() && !list->head.isArchived;
    });
    return lists;
}

const KeptScreen* Work::findScreen(std::string_view name) const
{
    const auto found = std::ranges::find_if(screens, byName(name));
    return found == screens.end() ? nullptr : &**found;
}

void keepScreen(Work& work, const screens::Screen& screen, std::int64_t newId)
{
    const auto found = std::ranges::find_if(work.screens, byName(screen.name));
    if (found != work.screens.end())
        found->edit().screen = screen;
    else
        insertScreen(work, {newId, screen});
    if (const auto draft = draftNamed(work, screen.name); draft != work.drafts.end())
        work.drafts.erase(draft);
}

void renameScreen(Work& work, const std::string& from, const screens::Screen& renamed)
{
    const std::int64_t id = work.findScreen(from)->id;
    removeScreen(work, from);
    insertScreen(work, {id, renamed});
    follow(work, {Renaming::What::Screen, from, renamed.name});
}

const drawings::Drawing* Work::findDrawing(std::int64_t id) const
{
    const auto place = numberedFrom(*drawings, id);
    return place == drawings->end() || (*place)->id != id ? nullptr : &**place;
}

const watchlists::Checklist* Work::findChecklist(std::string_view name) const
{
    const auto place = std::ranges::find(*checklists, name, &watchlists::Checklist::name);
    return place == checklists->end() ? nullptr : &*place;
}

void keepChecklist(Work& work, const std::string& from, const watchlists::Checklist& checklist)
{
    if (!from.empty() && from != checklist.name) {
        for (auto& verdict : work.verdicts.edit())
            if (verdict->checklist == from)
                verdict.edit().checklist = checklist.name;
        follow(work, {Renaming::What::Checklist, from, checklist.name});
    }
    auto& all = work.checklists.edit();
    std::erase_if(
        all, [&](const auto& each) { return each.name == from || each.name == checklist.name; });
    all.insert(std::ranges::lower_bound(all, checklist.name, {}, &watchlists::Checklist::name),
               checklist);
}

void removeChecklist(Work& work, std::string_view name)
{
    std::erase_if(work.checklists.edit(), [name](const auto& each) { return each.name == name; });
}

void keepVerdict(Work& work, const watchlists::Verdict& verdict)
{
    keepNumbered(work.verdicts, verdict);
}

void keepDrawing(Work& work, const drawings::Drawing& drawing)
{
    keepNumbered(work.drawings, drawing);
}

void removeDrawing(Work& work, std::int64_t id)
{
    removeNumbered(work.drawings, id);
}

const watchlists::Alert* Work::findAlert(std::int64_t id) const
{
    const auto place = numberedFrom(*alerts, id);
    return place == alerts->end() || (*place)->id != id ? nullptr : &**place;
}

const studies::KeptRun* Work::findRun(std::int64_t id) const
{
    const auto place = numberedFrom(*runs, id);
    return place == runs->end() || (*place)->id != id ? nullptr : &**place;
}

void keepRun(Work& work, const studies::KeptRun& run)
{
    keepNumbered(work.runs, run);
}

void removeRun(Work& work, std::int64_t id)
{
    removeNumbered(work.runs, id);
}

void keepAlert(Work& work, const watchlists::Alert& alert)
{
    keepNumbered(work.alerts, alert);
}

void removeAlert(Work& work, std::int64_t id)
{
    removeNumbered(work.alerts, id);
}

void keepSetUp(Work& work, const charts::SetUp& setUp)
{
    auto& all = work.chartSetUps.edit();
    const auto place = std::ranges::lower_bound(all, setUp.name, {}, &charts::SetUp::name);
    if (place != all.end() && place->name == setUp.name)
        *place = setUp;
    else
        all.insert(place, setUp);
}

void removeSetUp(Work& work, std::string_view name)
{
    std::erase_if(work.chartSetUps.edit(), [name](const auto& each) { return each.name == name; });
}

void removeScreen(Work& work, std::string_view name)
{
    std::erase_if(work.screens, byName(name));
}

void takeInHand(Work& work, const screens::Screen& wanted)
{
    const Shared<screens::Screen> former = work.screen;
    work.screen = wanted;
    if (const auto draft = draftNamed(work, wanted.name);
        draft != work.drafts.end() && wanted.name != former->name) {
        work.screen = *draft;
        work.drafts.erase(draft);
    }
    if (former->name == wanted.name || former->name.empty() || isKept(work, *former))
        return;
    work.drafts.insert(std::ranges::upper_bound(
                           work.drafts, former->name, {},
                           [](const auto& each) -> const auto& { return each->name; }),
                       former);
}

std::optional<LocatedError> renameField(Work& work, const std::string& from, const std::string& to)
{
    language::OwnFields fields = *work.fields;
    if (auto error = fields.rename(from, to))
        return error;
    work.fields = std::move(fields);
    follow(work, {Renaming::What::Field, from, to});
    return std::nullopt;
}

void followRenamedLists(const Work& before, Work& after)
{
    for (const auto& list : before.lists)
        if (const auto* now = after.findList(list->id); now && now->name != list->name)
            follow(after, {Renaming::What::List, list->name, now->name});
}

} // namespace sieve::library
