#include "demo_market/chronicle.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <fmt/format.h>

namespace sieve::demo_market {

namespace {

using market::OwnerKind;
using market::RatingAction;

constexpr std::array<std::string_view, 6> houses{"Harbour Research", "Longreef Partners",
                                                 "Tallow & Quay",    "Northsound Securities",
                                                 "Beacon Row",       "Mizzen Capital"};

double inThousandths(double share)
{
    return std::floor(share * 10'000.0 + 0.5) / 10'000.0;
}

double inHundredths(double figure)
{
    return std::floor(figure * 1'000.0 + 0.5) / 1'000.0;
}

} // namespace

Chronicle::Chronicle(market::InstrumentRecord& record, bool isFollowed, double drift, Dice dice)
    : record_(record), isFollowed_(isFollowed), drift_(drift), dice_(dice),
      insiders_(dice_.between(0.04, 0.34)), domestic_(dice_.between(0.10, 0.30)),
      foreign_(dice_.between(0.03, 0.15)), funds_(dice_.between(0.04, 0.16)),
      hopedGrowth_(dice_.between(-0.04, 0.22))
{
}

void Chronicle::expect(Day day, const Prospect& prospect, double error)
{
    if (!isFollowed_)
        return;
    const auto analysts = static_cast<double>(3 + dice_.below(14));
    const auto add = [&](market::EstimateMeasure measure, market::Period period, Day end,
                         double actual, double unit) {
        const double mean = std::floor(actual * (1.0 + error) / unit + 0.5) * unit;
        const double spread = std::fabs(mean) * dice_.between(0.03, 0.14) + unit;
        const double high = std::floor((mean + spread) / unit + 1.0) * unit;
        const double low = std::floor((mean - spread) / unit) * unit;
        record_.estimates.push_back({measure, period, end, day, mean, high, low, analysts});
    };
    add(market::EstimateMeasure::EarningsPerShare, market::Period::Quarter, prospect.quarterEnd,
        prospect.earningsPerShare, 0.001);
    add(market::EstimateMeasure::Revenue, market::Period::Quarter, prospect.quarterEnd,
        prospect.revenue, 1'000.0);
    // Of the year that follows, analysts know no more than that this one goes on.
    const Day nextYearEnd = prospect.yearEnd.plusMonths(12);
    const double yearEarnings = prospect.yearEarningsPerShare;
    const double nextEarnings = yearEarnings + std::fabs(yearEarnings) * hopedGrowth_;
    const double yearRevenue = 4.0 * prospect.revenue;
    add(market::EstimateMeasure::EarningsPerShare, market::Period::Year, prospect.yearEnd,
        yearEarnings, 0.001);
    add(market::EstimateMeasure::EarningsPerShare, market::Period::Year, nextYearEnd, nextEarnings,
        0.001);
    add(market::EstimateMeasure::Revenue, market::Period::Year, prospect.yearEnd, yearRevenue,
        1'000.0);
    add(market::EstimateMeasure::Revenue, market::Period::Year, nextYearEnd,
        yearRevenue * (1.0 + 0.6 * hopedGrowth_), 1'000.0);
    if (prospect.payout <= 0.0 || yearEarnings <= 0.0)
        return;
    // Fewer look at what will be paid out.
    const auto addDividends = [&](Day end, double earnings) {
        constexpr double unit = 0.001;
        const double mean =
            std::floor(prospect.payout * earnings * (1.0 + error) / unit + 0.5) * unit;
        const double spread = std::ceil(0.06 * mean / unit) * unit;
        record_.estimates.push_back({market::EstimateMeasure::DividendsPerShare,
                                     market::Period::Year, end, day, mean, mean + spread,
                                     mean - spread, std::ceil(analysts / 2.0)});
    };
    addDividends(prospect.yearEnd, yearEarnings);
    addDividends(nextYearEnd, nextEarnings);
}

void Chronicle::reported(Day day, market::CalendarTime when, Day quarterEnd, double surprise,
                         double price)
{
    const std::string& name = record_.instrument.name;
    const char* what = surprise > 0.7    ? "earns more than it was expected to"
                       : surprise < -0.7 ? "falls short of what was expected"
                                         : "reports a quarter as expected";
    const int minute = when == market::CalendarTime::AfterClose ? 20 * 60 + 15 : 7 * 60 + 15;
    tell(day, minute, fmt::format("{} {}", name, what),
         fmt::format("The report covers the quarter to {}.", quarterEnd.iso()));
    rate(day, surprise, price);
    count(quarterEnd, day.plusDays(static_cast<int>(dice_.below(12))));
}

void Chronicle::rate(Day day, double surprise, double price)
{
    if (!isFollowed_ || !dice_.chance(0.35))
        return;
    const RatingAction action = surprise > 0.8      ? RatingAction::Raises
                                : surprise < -0.8   ? RatingAction::Lowers
                                : dice_.chance(0.2) ? RatingAction::Starts
                                                    : RatingAction::Keeps;
    const std::string_view house = houses.at(dice_.below(houses.size()));
    const double target = inHundredths(price * (1.08 + 0.08 * surprise));
    record_.notices.ratings.push_back(
        {day.plusDays(1), std::string(house), action, std::max(target, 0.01)});
}

void Chronicle::count(Day asOf, Day knownOn)
{
    const double moves = drift_ * dice_.between(0.3, 1.7);
    const double step = 0.012 * moves;
    insiders_ = std::clamp(insiders_ - 0.8 * step, 0.005, 0.60);
    domestic_ = std::clamp(domestic_ - step, 0.02, 0.40);
    foreign_ = std::clamp(foreign_ - 0.6 * step + 0.002 * dice_.bell(), 0.005, 0.25);
    funds_ = std::clamp(funds_ - 0.7 * step + 0.002 * dice_.bell(), 0.005, 0.25);
    const double held = insiders_ + domestic_ + foreign_ + funds_;
    if (held > 0.95)
        return;
    const auto holders = [this](double share, double each) {
        return static_cast<std::int32_t>(1.0 + share * each * dice_.between(0.8, 1.2));
    };
    const std::array<std::tuple<OwnerKind, double, double>, 5> rows{
        {{OwnerKind::Insiders, insiders_, 40.0},
         {OwnerKind::DomesticInstitutions, domestic_, 200.0},
         {OwnerKind::ForeignInstitutions, foreign_, 150.0},
         {OwnerKind::Funds, funds_, 300.0},
         {OwnerKind::Public, 1.0 - held, 20'000.0}}};
    for (const auto& [kind, share, each] : rows)
        record_.owners.push_back(
            {kind, asOf, std::max(knownOn, asOf), holders(share, each), inThousandths(share)});
}

void Chronicle::due(Day day, market::CalendarKind kind, market::CalendarTime when)
{
    const bool isKnown = std::ranges::any_of(record_.calendar, [&](const auto& entry) {
        return entry.date == day && entry.kind == kind;
    });
    if (!isKnown)
        record_.calendar.push_back({day, kind, when});
}

void Chronicle::tell(Day day, int minute, std::string title, std::string summary)
{
    if (day < newsFrom_)
        return;
    record_.notices.news.push_back({Minute::of(day, minute),
                                    fmt::format("{}-{}", record_.instrument.symbol, ++told_),
                                    std::move(title),
                                    std::move(summary),
                                    {}});
}

void Chronicle::moved(Day day, double change)
{
    constexpr std::array<std::string_view, 5> good{
        "wins an order for three years", "opens a second works", "finds a partner abroad",
        "raises what it expects of the year", "is said to be sought by a rival"};
    constexpr std::array<std::string_view, 5> bad{
        "loses its largest customer", "halts a works after a storm",
        "is asked to explain its books", "lowers what it expects of the year",
        "sees its head of finance leave"};
    if (!dice_.chance(0.8))
        return; // some moves nobody explains
    const std::string_view what =
        change > 0.0 ? good.at(dice_.below(good.size())) : bad.at(dice_.below(bad.size()));
    tell(day, 8 * 60 + 5, fmt::format("{} {}", record_.instrument.name, what), {});
}

} // namespace sieve::demo_market
