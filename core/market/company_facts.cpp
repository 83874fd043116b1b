#include "core/market/company_facts.h"

#include "core/base/words.h"

namespace sieve::market {

namespace {

constexpr Words<EstimateMeasure, 3> measures{
    {{{EstimateMeasure::EarningsPerShare, "eps"},
      {EstimateMeasure::Revenue, "revenue"},
      {EstimateMeasure::DividendsPerShare, "dividends_per_share"}}}};

constexpr Words<OwnerKind, 5> owners{{{{OwnerKind::Insiders, "insiders"},
                                       {OwnerKind::DomesticInstitutions, "domestic_institutions"},
                                       {OwnerKind::ForeignInstitutions, "foreign_institutions"},
                                       {OwnerKind::Funds, "funds"},
                                       {OwnerKind::Public, "public"}}}};

constexpr Words<CalendarKind, 3> events{{{{CalendarKind::Report, "report"},
                                          {CalendarKind::Dividend, "dividend"},
                                          {CalendarKind::LockUpEnd, "lock-up end"}}}};

constexpr Words<CalendarTime, 4> times{{{{CalendarTime::NotKnown, ""},
                                         {CalendarTime::BeforeOpen, "before open"},
                                         {CalendarTime::DuringSession, "during session"},
                                         {CalendarTime::AfterClose, "after close"}}}};

} // namespace

std::string_view estimateMeasureName(EstimateMeasure measure)
{
    return measures.word(measure);
}

std::optional<EstimateMeasure> estimateMeasureNamed(std::string_view name)
{
    return measures.value(name);
}

std::string_view ownerKindName(OwnerKind kind)
{
    return owners.word(kind);
}

std::optional<OwnerKind> ownerKindNamed(std::string_view name)
{
    return owners.value(name);
}

std::string_view calendarKindName(CalendarKind kind)
{
    return events.word(kind);
}

std::optional<CalendarKind> calendarKindNamed(std::string_view name)
{
    return events.value(name);
}

std::string_view calendarTimeName(CalendarTime time)
{
    return times.word(time);
}

std::optional<CalendarTime> calendarTimeNamed(std::string_view name)
{
    return times.value(name);
}

} // namespace sieve::market
