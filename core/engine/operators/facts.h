#pragma once

#include "core/engine/operators/families.h"

#include <algorithm>
#include <limits>

namespace sieve::engine {

/// Bars [from, from + out.size()) of one instrument, for what is known about it besides its bars.
/// It changes on few days only, and those are found instead of asking on each.
class Facts {
public:
    Facts(Series& series, const Run& run, std::size_t from, std::size_t to)
        : node(*series.node), market(*run.frame.market), instrument(run.frame.instrument),
          frame_(run.frame), days_(run.frame.days.subspan(from, to - from)),
          out_(series.out(from, to))
    {
    }

    const Node& node;
    const market::Market& market;
    const std::size_t instrument;

    const market::Instrument& listing() const { return market.instrument(instrument); }
    /// What a price of a day is multiplied by to stand on the footing asked for.
    double factorOf(Day day) const { return market.priceFactor(instrument, day, frame_.footing); }
    std::size_t footing() const { return frame_.footing; } ///< asked for
    /// The first day on which the instrument traded.
    Day firstDay() const { return frame_.days.front(); }

    /// The same value on all bars.
    bool all(double value)
    {
        std::ranges::fill(out_, value);
        return true;
    }

    /// of(day) on each day.
    template <class Of> bool eachDay(Of of)
    {
        for (std::size_t i = 0; i < out_.size(); ++i) {
            const bool isSame = i > 0 && days_[i] == days_[i - 1];
            out_[i] = isSame ? out_[i - 1] : of(days_[i]);
        }
        return true;
    }

    /// of(day), asked anew only on days on which statements became known or that `changes` names:
    /// changes(consider) calls consider(day) for each of them.
    template <class Of, class Changes> bool whileKnown(Of of, Changes changes)
    {
        for (std::size_t i = 0; i < out_.size();) {
            const auto left = days_.subspan(i);
            const std::size_t count =
                left.size() == 1 ? 1 : daysBefore(left, nextChange(left.front(), changes));
            std::ranges::fill(out_.subspan(i, count), of(left.front()));
            i += count;
        }
        return true;
    }
    template <class Of> bool whileKnown(Of of)
    {
        return whileKnown(of, [](const auto&) {});
    }

private:
    /// How many of the days lie before `change`, which is after the first of them. Five of seven
    /// are sessions, but for holidays: from there it is mostly a few steps.
    static std::size_t daysBefore(std::span<const Day> days, Day change)
    {
        constexpr std::size_t few = 8;
        if (days.back() < change)
            return days.size();
        const auto apart = static_cast<std::size_t>(change.serial() - days.front().serial());
        std::size_t end = std::min(apart * 5 / 7 + 1, days.size() - 1);
        if (days[end] < change)
            return static_cast<std::size_t>(std::ranges::lower_bound(days, change) - days.begin());
        for (std::size_t step = 0; step < few && days[end - 1] >= change; ++step)
            --end;
        const auto next = days[end - 1] < change ? days.begin() + static_cast<std::ptrdiff_t>(end)
                                                 : std::ranges::lower_bound(days, change);
        return static_cast<std::size_t>(next - days.begin());
    }

    /// The first day after `day` on which the value may be another.
    template <class Changes> Day nextChange(Day day, const Changes& changes)
    {
        Day next = Day::fromSerial(std::numeric_limits<std::int32_t>::max());
        const auto consider = [&](Day change) {
            if (change > day)
                next = std::min(next, change);
        };
        const auto reports = market.statements(instrument).reports();
        if (reported_ == 0)
            reported_ = static_cast<std::size_t>(
                std::ranges::upper_bound(reports, day, {}, &market::Report::knownOn) -
                reports.begin());
        while (reported_ < reports.size() && reports[reported_].knownOn <= day)
            ++reported_; // days are asked for in order
        if (reported_ < reports.size())
            consider(reports[reported_].knownOn);
        changes(consider);
        return next;
    }

    const BarFrame& frame_;
    std::span<const Day> days_;
    std::span<double> out_;
    std::size_t reported_ = 0; ///< reports by the day last asked about
};

/// The fill of an operator that is a function of Facts.
template <bool (*of)(Facts&)>
bool ofFacts(Series& series, const Run& run, std::size_t from, std::size_t to)
{
    Facts facts(series, run, from, to);
    return of(facts);
}

/// The dates of a row that was known, if any.
template <class Row> ValueDates datesOf(const std::optional<Row>& known, Day Row::*periodEnd)
{
    return known ? ValueDates{{}, (*known).*periodEnd, known->knownOn} : ValueDates{};
}

} // namespace sieve::engine
