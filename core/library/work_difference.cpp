#include "core/library/work_difference.h"

#include "core/watchlists/alert_watch.h"

#include <algorithm>
#include <map>

namespace sieve::library {

namespace {

using Kind = KindDifference::Kind;

/// Things by what tells them apart, with their name and a text that says all of them.
struct Thing {
    std::string name;
    std::string all;
};
using Things = std::map<std::string, Thing>;

std::string toText(const watchlists::Watchlist& list)
{
    const watchlists::ListHead& head = list.head;
    std::string all = list.name + '\n' + head.folder + '\t' + head.screen + '\t' + head.columns +
                      (head.isArchived ? "\tarchived" : "");
    const auto add = [&](const watchlists::Entry& entry) {
        all += '\n' + entry.symbol + '\t' + entry.addedOn.iso() + '\t' +
               std::to_string(entry.priceThen) + '\t' + entry.reason + '\t' + entry.source +
               (entry.plan ? toToml(*entry.plan) : "") + toToml(entry.page);
    };
    std::ranges::for_each(list.entries, add);
    for (const watchlists::FormerEntry& former : list.former) {
        add(former.entry);
        all += "\tleft " + former.leftOn.iso() + '\t' + former.reasonLeft;
    }
    return all;
}

Things listsOf(const Work& work)
{
    Things things;
    for (const auto& list : work.lists)
        things[std::to_string(list->id)] = {list->name, toText(*list)};
    return things;
}

Things screensOf(const Work& work)
{
    Things things;
    for (const auto& kept : work.screens)
        things[std::to_string(kept->id)] = {kept->screen.name, toToml(kept->screen)};
    return things;
}

Things draftsOf(const Work& work)
{
    Things things;
    for (const auto& draft : work.drafts)
        things[draft->name] = {draft->name, toToml(*draft)};
    return things;
}

/// Things of which no two bear one name, with what toText(thing) says of each.
template <class All, class ToText> Things namedThings(const All& all, ToText toText)
{
    Things things;
    for (const auto& each : all)
        things[each.name] = {each.name, toText(each)};
    return things;
}

Things fieldsOf(const Work& work)
{
    return namedThings(work.fields->fields(),
                       [](const language::Field& field) { return toToml(field); });
}

Things candidatesOf(const Work& work)
{
    Things things;
    for (const watchlists::Card& card : work.tray->cards())
        things[card.symbol + card.takenOn.iso()] = {
            card.symbol, std::string(watchlists::markName(card.mark)) + card.reason +
                             (card.plan ? toToml(*card.plan) : "")};
    return things;
}

Things columnSetsOf(const Work& work)
{
    return namedThings(*work.columnSets, [](const screens::ColumnSet& set) {
        return screens::toToml(std::span(&set, 1));
    });
}

Things chartSetUpsOf(const Work& work)
{
    return namedThings(*work.chartSetUps,
                       [](const charts::SetUp& setUp) { return charts::toToml(setUp); });
}

Things weighingOf(const Work& work)
{
    Things things;
    for (const std::string& reason : work.weighing->reasons)
        things["reason " + reason] = {reason, {}};
    for (const watchlists::ChosenPeers& peers : work.weighing->peers) {
        std::string all;
        for (const std::string& symbol : peers.symbols)
            all += symbol + " ";
        things["peers " + peers.of] = {"peers of " + peers.of, all};
    }
    for (const watchlists::Followed& each : work.weighing->followed)
        things["followed " + each.of] = {"following " + each.of, each.seenTo.iso()};
    return things;
}

Things checklistsOf(const Work& work)
{
    return namedThings(*work.checklists, [](const watchlists::Checklist& list) {
        return watchlists::toToml(std::span(&list, 1));
    });
}

Things verdictsOf(const Work& work)
{
    Things things;
    for (const auto& verdict : *work.verdicts)
        things[std::to_string(verdict->id)] = {verdict->symbol + ", " + verdict->on.iso(),
                                               toToml(*verdict)};
    return things;
}

Things alertsOf(const Work& work)
{
    Things things;
    for (const auto& alert : *work.alerts)
        things[std::to_string(alert->id)] = {watchlists::sentenceOf(*alert, work.lists),
                                             toToml(*alert)};
    return things;
}

Things runsOf(const Work& work)
{
    Things things;
    for (const auto& run : *work.runs)
        things[std::to_string(run->id)] = {run->name, toToml(*run)};
    return things;
}

Things drawingsOf(const Work& work)
{
    Things things;
    for (const auto& drawing : *work.drawings) {
        const std::string what =
            drawing->name.empty() ? std::string(rowOf(drawing->tool).title) : drawing->name;
        things[std::to_string(drawing->id)] = {what + ", " + drawing->symbol, toToml(*drawing)};
    }
    return things;
}

KindDifference differenceOf(Kind kind, const Things& now, const Things& then)
{
    KindDifference difference{kind, {}, {}, {}};
    for (const auto& [key, thing] : then)
        if (const auto own = now.find(key); own == now.end())
            difference.comes.push_back(thing.name);
        else if (own->second.all != thing.all)
            difference.other.push_back(own->second.name);
    for (const auto& [key, thing] : now)
        if (!then.contains(key))
            difference.goes.push_back(thing.name);
    for (auto* names : {&difference.comes, &difference.goes, &difference.other})
        std::ranges::sort(*names);
    return difference;
}

} // namespace

std::vector<KindDifference> differences(const Work& now, const Work& then)
{
    std::vector<KindDifference> all{
        differenceOf(Kind::Lists, listsOf(now), listsOf(then)),
        differenceOf(Kind::Screens, screensOf(now), screensOf(then)),
        differenceOf(Kind::Drafts, draftsOf(now), draftsOf(then)),
        differenceOf(Kind::Fields, fieldsOf(now), fieldsOf(then)),
        differenceOf(Kind::Candidates, candidatesOf(now), candidatesOf(then)),
        differenceOf(Kind::ColumnSets, columnSetsOf(now), columnSetsOf(then)),
        differenceOf(Kind::ChartSetUps, chartSetUpsOf(now), chartSetUpsOf(then)),
        differenceOf(Kind::Drawings, drawingsOf(now), drawingsOf(then)),
        differenceOf(Kind::Weighing, weighingOf(now), weighingOf(then)),
        differenceOf(Kind::Checklists, checklistsOf(now), checklistsOf(then)),
        differenceOf(Kind::Alerts, alertsOf(now), alertsOf(then)),
        differenceOf(Kind::KeptRuns, runsOf(now), runsOf(then)),
        differenceOf(Kind::Verdicts, verdictsOf(now), verdictsOf(then))};
    if (now.marketBook != then.marketBook)
        all.push_back({Kind::MarketRules, {}, {}, {""}});
    if (now.terms != then.terms)
        all.push_back({Kind::TradingTerms, {}, {}, {""}});
    if (now.mail != then.mail)
        all.push_back({Kind::MailTerms, {}, {}, {""}});
    std::erase_if(all, [](const KindDifference& each) {
        return each.comes.empty() && each.goes.empty() && each.other.empty();
    });
    return all;
}

} // namespace sieve::library
