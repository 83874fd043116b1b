#pragma once

#include "core/base/shared.h"
#include "core/engine/operators/notices.h"
#include "core/exports/calendar_file.h"
#include "core/market/market.h"
#include "core/watchlists/watchlist.h"

#include <optional>
#include <span>
#include <string>
#include <string_view>
#include <vector>

namespace sieve::watchlists {

/// Something that is due for a stock on a list.
struct AgendaItem {
    enum class What { Report, Dividend, LockUpEnd, Review };

    Day on = Day::fromSerial(0);
    What what = What::Report;
    std::optional<std::size_t> stock = {}; ///< empty: the market does not have it
    std::string symbol;                    ///< by now
    std::string words = {};                ///< of a report: when; of a review: the reason
    std::vector<std::string> lists = {};   ///< the names of those on which it stands

    friend bool operator==(const AgendaItem&, const AgendaItem&) = default;
};
std::string_view whatName(AgendaItem::What what); ///< "report", "dividend", "lock-up end", "review"

/// How far ahead of the as-of day the dates of companies count as announced, in days: as far as for
/// next_report of the language.
inline constexpr int agendaAhead = engine::announcedDays;

/// What is due from one day to another (both included) for the stocks that stand on hand-kept lists
/// (archived ones left out) as of a day: by day, kind, symbol; each once, with all its lists. What
/// companies are due for more than `agendaAhead` days after the as-of day is not known yet.
std::vector<AgendaItem> agendaOf(std::span<const Shared<Watchlist>> lists,
                                 const market::Market& market, Day asOf, Day from, Day to);

/// For a calendar program.
std::vector<exports::CalendarEvent> eventsOf(std::span<const AgendaItem> items);

} // namespace sieve::watchlists
