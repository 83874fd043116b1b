#include "core/conditions/trend_state.h"

#include <algorithm>
#include <fmt/format.h>

namespace sieve::conditions {

namespace {

bool holds(double answer)
{
    return answer == 1.0;
}

/// One state at a time: it lasts until its own end, and only then may another be entered.
struct TrendStates {
    std::span<const double> rising;
    std::span<const double> risingEnds; ///< empty: when it would not be entered
    std::span<const double> falling;
    std::span<const double> fallingEnds;
    std::size_t contradictions = 0;
    Trend state = Trend::Sideways;

    std::optional<Trend> next(std::size_t bar)
    {
        const std::span<const double> ends = state == Trend::Rising    ? risingEnds
                                             : state == Trend::Falling ? fallingEnds
                                                                       : std::span<const double>();
        const bool cannotSay = isMissing(rising[bar]) || isMissing(falling[bar]) ||
                               (!ends.empty() && isMissing(ends[bar]));
        if (cannotSay) {
            state = Trend::Sideways;
            return std::nullopt;
        }
        if (state != Trend::Sideways) {
            const double entered = state == Trend::Rising ? rising[bar] : falling[bar];
            const bool isOver = ends.empty() ? !holds(entered) : holds(ends[bar]);
            if (isOver)
                state = Trend::Sideways;
        }
        if (holds(rising[bar]) && holds(falling[bar])) {
            ++contradictions;
            state = Trend::Sideways;
        } else if (state == Trend::Sideways) {
            if (holds(rising[bar]) && !endsAtOnce(risingEnds, bar))
                state = Trend::Rising;
            else if (holds(falling[bar]) && !endsAtOnce(fallingEnds, bar))
                state = Trend::Falling;
        }
        return state;
    }

    static bool endsAtOnce(std::span<const double> ends, std::size_t bar)
    {
        return !ends.empty() && holds(ends[bar]);
    }
};

} // namespace

std::string_view trendName(Trend trend)
{
    switch (trend) {
    case Trend::Rising:
        return "rising";
    case Trend::Sideways:
        return "sideways";
    case Trend::Falling:
        break;
    }
    return "falling";
}

TrendReading readTrend(engine::Evaluator& evaluator, const language::Names& names, const Line& line,
                       const TrendRule& rule, const Progress& progress)
{
    TrendReading reading;
    LineQuestion question(names, line);
    const auto add = [&](const char* what,
                         const std::string& condition) -> std::optional<std::size_t> {
        if (condition.empty() || reading.error)
            return std::nullopt;
        const auto place = question.addCondition(condition);
        if (place)
            return *place;
        reading.error = place.error();
        reading.errorIn = what;
        return std::nullopt;
    };
    const auto rising = add("rising", rule.rising);
    const auto risingEnds = add("rising_ends", rule.risingEnds);
    const auto falling = add("falling", rule.falling);
    const auto fallingEnds = add("falling_ends", rule.fallingEnds);
    if (reading.error || !rising || !falling || line.bars().days.empty())
        return reading;
    const auto values = question.histories(evaluator, line.bars().days.back(), progress);
    const auto leaving = [&](std::optional<std::size_t> place) {
        return place ? std::span<const double>(values[*place]) : std::span<const double>();
    };
    TrendStates states{values[*rising], leaving(risingEnds), values[*falling],
                       leaving(fallingEnds)};
    for (std::size_t bar = 0; bar < values[*rising].size(); ++bar)
        reading.history.push_back(states.next(bar));
    reading.contradictions = states.contradictions;
    return reading;
}

std::size_t ageInBars(const TrendHistory& history, std::size_t bar)
{
    if (bar >= history.size() || !history[bar])
        return 0;
    std::size_t age = 1;
    while (age <= bar && history[bar - age] == history[bar])
        ++age;
    return age;
}

std::vector<TrendChange> changesOf(const TrendHistory& history, std::size_t bar)
{
    std::vector<TrendChange> changes;
    for (std::size_t at = std::min(bar + 1, history.size()); at-- > 1;)
        if (history[at] != history[at - 1])
            changes.push_back({at, history[at - 1], history[at]});
    return changes;
}

TrendSummary summaryOf(const TrendHistory& history)
{
    if (history.empty())
        return {};
    const auto share = [&](Trend trend) {
        return static_cast<double>(std::ranges::count(history, std::optional(trend))) /
               static_cast<double>(history.size());
    };
    return {share(Trend::Rising), share(Trend::Falling),
            changesOf(history, history.size() - 1).size()};
}

std::string remarkOn(const TrendReading& reading)
{
    if (reading.error || reading.history.empty())
        return {};
    if (reading.contradictions > 0)
        return fmt::format("Rising and falling both hold on {} of {} sessions; these count as "
                           "sideways.",
                           reading.contradictions, reading.history.size());
    for (const Trend trend : {Trend::Rising, Trend::Falling})
        if (std::ranges::find(reading.history, std::optional(trend)) == reading.history.end())
            return fmt::format("By this rule the line was never {}.", trendName(trend));
    return {};
}

} // namespace sieve::conditions
