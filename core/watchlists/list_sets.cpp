#include "core/watchlists/list_sets.h"

#include "core/base/require.h"
#include "core/watchlists/stocks.h"

#include <algorithm>
#include <map>
#include <numeric>
#include <set>
#include <string>
#include <utility>

namespace sieve::watchlists {

namespace {

/// What tells stocks apart: the market's number, or the symbol and day of one that it does not
/// have.
using Identity = std::pair<std::size_t, std::string>;

Identity identityOf(const Entry& entry, const market::Market* market)
{
    constexpr std::size_t nobody = static_cast<std::size_t>(-1);
    if (const auto stock = market ? stockOf(entry, *market) : std::nullopt)
        return {*stock, {}};
    return {nobody, entry.symbol};
}

template <class T> void addMissing(std::vector<T>& to, const std::vector<T>& from)
{
    for (const T& each : from)
        if (std::ranges::find(to, each) == to.end())
            to.push_back(each);
}

void addWords(std::string& to, const std::string& words)
{
    if (!words.empty() && to.find(words) == std::string::npos)
        to += to.empty() ? words : "; " + words;
}

void mergePage(EntryPage& into, const EntryPage& other)
{
    if (into.category.empty())
        into.category = other.category;
    if (into.sign == Sign::None)
        into.sign = other.sign;
    if (!into.reviewOn)
        into.reviewOn = other.reviewOn;
    if (into.picture.empty())
        into.picture = other.picture;
    addMissing(into.tags, other.tags);
    addMissing(into.links, other.links);
    addMissing(into.notes, other.notes);
    std::ranges::stable_sort(into.notes, {}, &Note::on);
    addMissing(into.trades, other.trades);
    std::ranges::stable_sort(into.trades, {}, &Trade::on);
}

} // namespace

bool isSameEntry(const Entry& a, const Entry& b)
{
    return a.symbol == b.symbol && a.addedOn == b.addedOn;
}

Entry merged(Entry into, const Entry& other)
{
    const bool isOtherFirst = other.addedOn < into.addedOn;
    const Entry& second = isOtherFirst ? into : other;
    Entry first = isOtherFirst ? other : into;
    addWords(first.reason, second.reason);
    addWords(first.source, second.source);
    mergePage(first.page, second.page);
    if (!first.plan) {
        first.plan = second.plan;
        first.page.formerPlans = second.page.formerPlans;
    }
    return first;
}

std::vector<Entry> combined(std::span<const Watchlist* const> lists, SetOf how,
                            const market::Market* market)
{
    std::vector<Entry> all;
    std::map<Identity, std::size_t> places;
    std::map<Identity, std::set<std::size_t>> on; // which lists each stock stands on
    for (std::size_t list = 0; list < lists.size(); ++list)
        for (const Entry& entry : lists[list]->entries) {
            const Identity identity = identityOf(entry, market);
            on[identity].insert(list);
            if (const auto [place, isNew] = places.emplace(identity, all.size()); isNew)
                all.push_back(entry);
            else
                all[place->second] = merged(std::move(all[place->second]), entry);
        }
    std::erase_if(all, [&](const Entry& entry) {
        const std::set<std::size_t>& standsOn = on.at(identityOf(entry, market));
        return how == SetOf::All         ? standsOn.size() < lists.size()
               : how == SetOf::FirstOnly ? standsOn != std::set<std::size_t>{0}
                                         : false;
    });
    return all;
}

void append(Watchlist& list, std::span<const Entry> entries, const market::Market* market)
{
    const Watchlist others{0, {}, {entries.begin(), entries.end()}};
    const Watchlist* both[] = {&list, &others};
    list.entries = combined(both, SetOf::Any, market);
}

void moveEntries(Watchlist& list, std::vector<std::size_t> places, std::size_t before)
{
    std::ranges::sort(places);
    std::vector<Entry> moved;
    std::vector<Entry> others;
    std::size_t at = 0; // where the moved ones come among the others
    for (std::size_t place = 0; place < list.entries.size(); ++place) {
        const bool isMoved = std::ranges::binary_search(places, place);
        if (!isMoved && place < before)
            ++at;
        (isMoved ? moved : others).push_back(std::move(list.entries[place]));
    }
    others.insert(others.begin() + static_cast<std::ptrdiff_t>(at),
                  std::make_move_iterator(moved.begin()), std::make_move_iterator(moved.end()));
    list.entries = std::move(others);
}

void sortEntries(Watchlist& list, std::span<const double> figures, bool isRising)
{
    require(figures.size() == list.entries.size(), "a figure an entry");
    std::vector<std::size_t> order(figures.size());
    std::iota(order.begin(), order.end(), std::size_t{0});
    std::ranges::stable_sort(order, [&](std::size_t a, std::size_t b) {
        if (isMissing(figures[a]) || isMissing(figures[b]))
            return !isMissing(figures[a]) && isMissing(figures[b]);
        return isRising ? figures[a] < figures[b] : figures[b] < figures[a];
    });
    std::vector<Entry> sorted;
    for (const std::size_t place : order)
        sorted.push_back(std::move(list.entries[place]));
    list.entries = std::move(sorted);
}

} // namespace sieve::watchlists
