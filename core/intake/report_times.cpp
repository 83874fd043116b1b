#include "core/intake/report_times.h"

#include <algorithm>
#include <tuple>
#include <vector>

namespace sieve::intake {

namespace {

using market::StatementRow;

/// The days on which the company reported after the close, ascending.
std::vector<Day> lateReports(const market::InstrumentRecord& record)
{
    std::vector<Day> days;
    for (const market::CalendarEntry& entry : record.calendar)
        if (entry.kind == market::CalendarKind::Report &&
            entry.when == market::CalendarTime::AfterClose)
            days.push_back(entry.date);
    std::ranges::sort(days);
    return days;
}

} // namespace

void knowAfterClose(market::InstrumentRecord& record)
{
    const std::vector<Day> late = lateReports(record);
    if (late.empty())
        return;
    struct Filed {
        StatementRow row;
        Day on;
    };
    std::vector<Filed> all;
    for (StatementRow row : record.statements) {
        const Day filed = row.knownOn;
        if (std::ranges::binary_search(late, filed))
            row.knownOn = filed.plusDays(1);
        all.push_back({row, filed});
    }
    const auto keyOf = [](const Filed& each) {
        return std::tuple(each.row.item, each.row.period, each.row.periodEnd, each.row.knownOn);
    };
    std::ranges::stable_sort(all, {}, [&](const Filed& each) {
        return std::tuple_cat(keyOf(each), std::tuple(each.on));
    });
    record.statements.clear();
    for (std::size_t i = 0; i < all.size(); ++i) // of two known on one day the later filed counts
        if (i + 1 == all.size() || keyOf(all[i]) != keyOf(all[i + 1]))
            record.statements.push_back(all[i].row);
}

void knowAsFiled(market::InstrumentRecord& record)
{
    const std::vector<Day> late = lateReports(record);
    for (StatementRow& row : record.statements)
        if (std::ranges::binary_search(late, row.knownOn.plusDays(-1)))
            row.knownOn = row.knownOn.plusDays(-1);
}

} // namespace sieve::intake
