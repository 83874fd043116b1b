#include "core/watchlists/agenda.h"

#include "core/watchlists/stocks.h"

#include <algorithm>
#include <array>
#include <fmt/format.h>
#include <map>
#include <tuple>

namespace sieve::watchlists {

namespace {

using Due = AgendaItem::What;

Due whatOf(market::CalendarKind kind)
{
    switch (kind) {
    case market::CalendarKind::Report:
        return Due::Report;
    case market::CalendarKind::Dividend:
        return Due::Dividend;
    case market::CalendarKind::LockUpEnd:
        break;
    }
    return Due::LockUpEnd;
}

/// Items by what tells them apart, so that a stock on several lists has one.
class Agenda {
public:
    Agenda(const market::Market& market, Day asOf, Day from, Day to)
        : market_(market), asOf_(asOf), from_(from), to_(to)
    {
    }

    void add(const Entry& entry, const std::string& list)
    {
        const auto stock = stockOf(entry, market_);
        const std::string symbol =
            stock ? market::symbolOn(market_.instrument(*stock), asOf_) : entry.symbol;
        if (entry.page.reviewOn)
            add({*entry.page.reviewOn, Due::Review, stock, symbol, entry.reason}, list);
        if (!stock)
            return;
        for (const market::CalendarEntry& due : market_.calendar(*stock))
            if (due.date <= asOf_.plusDays(agendaAhead))
                add({due.date, whatOf(due.kind), stock, symbol,
                     due.when == market::CalendarTime::NotKnown
                         ? std::string()
                         : std::string(market::calendarTimeName(due.when))},
                    list);
    }
    std::vector<AgendaItem> items() const
    {
        std::vector<AgendaItem> items;
        for (const auto& [key, item] : items_)
            items.push_back(item);
        return items;
    }

private:
    void add(AgendaItem item, const std::string& list)
    {
        if (item.on < from_ || item.on > to_)
            return;
        AgendaItem& known =
            items_.emplace(std::tuple(item.on, item.what, item.symbol), item).first->second;
        if (std::ranges::find(known.lists, list) == known.lists.end())
            known.lists.push_back(list);
        if (known.words.empty())
            known.words = item.words;
    }

    const market::Market& market_;
    Day asOf_;
    Day from_;
    Day to_;
    std::map<std::tuple<Day, Due, std::string>, AgendaItem> items_;
};

} // namespace

std::string_view whatName(Due what)
{
    constexpr std::array<std::string_view, 4> names{"report", "dividend", "lock-up end", "review"};
    return names.at(static_cast<std::size_t>(what));
}

std::vector<AgendaItem> agendaOf(std::span<const Shared<Watchlist>> lists,
                                 const market::Market& market, Day asOf, Day from, Day to)
{
    Agenda agenda(market, asOf, from, to);
    for (const auto& list : lists) {
        if (list->isKeptByRule() || list->head.isArchived)
            continue;
        for (const Entry& entry : list->entries)
            if (entry.addedOn <= asOf)
                agenda.add(entry, list->name);
    }
    return agenda.items();
}

std::vector<exports::CalendarEvent> eventsOf(std::span<const AgendaItem> items)
{
    std::vector<exports::CalendarEvent> events;
    for (const AgendaItem& item : items) {
        std::string text = fmt::format("On {}", fmt::join(item.lists, ", "));
        if (!item.words.empty())
            text += "\n" + item.words;
        events.push_back({item.on,
                          fmt::format("{}-{}-{}@wise-sieve", item.on.iso(),
                                      static_cast<int>(item.what), item.symbol),
                          fmt::format("{}: {}", item.symbol, whatName(item.what)), text,
                          std::string(whatName(item.what))});
    }
    return events;
}

} // namespace sieve::watchlists
