#pragma once

// What is known of a company beside its statements: how many shares there are, who holds them, what
// analysts expect, and what is due. Every row tells the day on which it became known. The rows lie
// in files as they lie here: no padding, so that equal rows are equal bytes.

#include "core/base/day.h"
#include "core/base/missing.h"
#include "core/market/statements.h"

#include <cstdint>
#include <optional>
#include <string_view>

namespace sieve::market {

/// A row of shares.csv: counts as of `date`.
struct ShareCount {
    Day date;
    Day knownOn;
    double outstanding = missing;
    double freeFloat = missing;     ///< shares
    double shortInterest = missing; ///< shares
};
static_assert(sizeof(ShareCount) == 32);

enum class EstimateMeasure : std::uint32_t { EarningsPerShare, Revenue, DividendsPerShare };

/// "eps", "revenue", "dividends_per_share": the items that they become.
std::string_view estimateMeasureName(EstimateMeasure measure);
std::optional<EstimateMeasure> estimateMeasureNamed(std::string_view name);

/// A row of estimates.csv: what analysts expected from `knownOn` on, until the next such row.
struct EstimateRow {
    EstimateMeasure measure = EstimateMeasure::EarningsPerShare;
    Period period = Period::Year;
    Day periodEnd;
    Day knownOn;
    double mean = missing;
    double high = missing;
    double low = missing;
    double analysts = missing; ///< how many
};
static_assert(sizeof(EstimateRow) == 48);

enum class OwnerKind : std::uint32_t {
    Insiders,
    DomesticInstitutions,
    ForeignInstitutions,
    Funds,
    Public
};

/// "insiders", "domestic_institutions", "foreign_institutions", "funds", "public".
std::string_view ownerKindName(OwnerKind kind);
std::optional<OwnerKind> ownerKindNamed(std::string_view name);

/// A row of owners.csv: the part of the shares that a kind of owner held.
struct OwnerRow {
    OwnerKind kind = OwnerKind::Insiders;
    Day asOf;
    Day knownOn;
    std::int32_t holders = -1; ///< how many; -1 when not known
    double share = missing;    ///< of all shares, as a fraction
};
static_assert(sizeof(OwnerRow) == 24);

enum class CalendarKind : std::uint16_t { Report, Dividend, LockUpEnd };
enum class CalendarTime : std::uint16_t { NotKnown, BeforeOpen, DuringSession, AfterClose };

/// "report", "dividend", "lock-up end".
std::string_view calendarKindName(CalendarKind kind);
std::optional<CalendarKind> calendarKindNamed(std::string_view name);
/// "", "before open", "during session", "after close".
std::string_view calendarTimeName(CalendarTime time);
std::optional<CalendarTime> calendarTimeNamed(std::string_view name);

/// A row of calendar.csv: what is or was due on a day.
struct CalendarEntry {
    Day date;
    CalendarKind kind = CalendarKind::Report;
    CalendarTime when = CalendarTime::NotKnown;
};
static_assert(sizeof(CalendarEntry) == 8);

} // namespace sieve::market
