#include "core/library/name_books.h"

#include "core/drawings/stock.h"
#include "core/screens/run.h"
#include "core/screens/starter.h"

#include <utility>

namespace sieve::library {

namespace {

std::shared_ptr<const engine::ListMembers> membersOf(const watchlists::Watchlist& list)
{
    auto members = std::make_shared<engine::ListMembers>();
    for (const watchlists::Entry& entry : list.entries)
        members->stays.push_back({entry.symbol, entry.addedOn});
    for (const watchlists::FormerEntry& former : list.former)
        members->stays.push_back({former.entry.symbol, former.entry.addedOn, former.leftOn});
    return members;
}

} // namespace

screens::NameBookPtr NameBooks::of(const Work& work)
{
    auto book = std::make_shared<screens::NameBook>();
    book->fields = work.fields.pointer();
    for (const screens::Screen& screen : screens::starterScreens())
        book->screens[screen.name] = screens::conditionOf(screen);
    for (const auto& kept : work.screens)
        book->screens[kept->screen.name] = screens::conditionOf(kept->screen);
    decltype(members_) members; // of a list that did not change they are those of before
    for (const auto& list : work.lists) {
        if (list->isKeptByRule())
            book->listScreens[list->name] = list->head.screen;
        const auto known = members_.find(list.pointer());
        book->lists[list->name] =
            members
                .emplace(list.pointer(), known == members_.end() ? membersOf(*list) : known->second)
                .first->second;
    }
    members_ = std::move(members);
    std::map<std::string, drawings::Named, std::less<>> named;
    for (const auto& drawing : *work.drawings)
        if (!drawing->name.empty())
            named[drawing->name].drawings.push_back(drawing.pointer());
    for (auto& [name, drawings] : named)
        book->drawings[name] = std::make_shared<const drawings::Named>(std::move(drawings));
    if (checklistsOf_ != work.checklists.pointer() || verdictsOf_ != work.verdicts.pointer()) {
        checklists_.clear();
        for (const watchlists::Checklist& checklist : *work.checklists)
            checklists_[checklist.name] = watchlists::meaningOf(checklist, *work.verdicts);
        checklistsOf_ = work.checklists.pointer();
        verdictsOf_ = work.verdicts.pointer();
    }
    book->checklists = checklists_;
    return book;
}

} // namespace sieve::library
