#include "core/intake/symbols.h"

#include <algorithm>

namespace sieve::intake {

void Symbols::addInstrument(std::string symbol)
{
    instruments_.insert(std::move(symbol));
}

void Symbols::removeInstrument(std::string_view symbol)
{
    if (const auto found = instruments_.find(symbol); found != instruments_.end())
        instruments_.erase(found);
}

bool Symbols::isInstrument(std::string_view symbol) const
{
    return instruments_.contains(symbol);
}

void Symbols::addRename(std::string before, std::string after, Day day)
{
    auto& list = renames_[std::move(before)];
    const auto place = std::ranges::upper_bound(list, day, {}, &Rename::day);
    list.insert(place, {std::move(after), day});
}

std::string Symbols::resolve(std::string_view symbol, Day day) const
{
    std::string name(symbol);
    for (std::size_t steps = 0; steps <= renames_.size(); ++steps) { // renames in a circle end too
        const auto found = renames_.find(name);
        if (found == renames_.end())
            return name;
        const std::vector<Rename>& list = found->second;
        const auto next = std::ranges::upper_bound(list, day, {}, &Rename::day);
        if (next != list.end()) {
            name = next->after;
            day = next->day;
        } else if (steps == 0 && !isInstrument(name)) { // a row that came late under the old name
            name = list.back().after;
            day = list.back().day;
        } else {
            return name;
        }
    }
    return name;
}

std::vector<std::string> Symbols::thoseWhoGaveUp(std::string_view symbol) const
{
    std::vector<std::string> newest;
    if (const auto found = renames_.find(symbol); found != renames_.end())
        for (const Rename& rename : found->second)
            newest.push_back(resolve(symbol, rename.day.plusDays(-1)));
    return newest;
}

bool Symbols::hasRename(std::string_view before, std::string_view after, Day day) const
{
    const auto found = renames_.find(before);
    return found != renames_.end() && std::ranges::any_of(found->second, [&](const Rename& rename) {
               return rename.after == after && rename.day == day;
           });
}

std::map<std::string, std::vector<market::FormerSymbol>, std::less<>> Symbols::formerSymbols() const
{
    std::map<std::string, std::vector<market::FormerSymbol>, std::less<>> former;
    for (const auto& [before, list] : renames_)
        for (const Rename& rename : list) {
            const std::string newest = resolve(before, rename.day.plusDays(-1));
            if (newest != before)
                former[newest].push_back({before, rename.day});
        }
    for (auto& [newest, list] : former)
        std::ranges::stable_sort(list, {}, &market::FormerSymbol::until);
    return former;
}

} // namespace sieve::intake
