#include "core/conditions/trend_state.h"

#include "core/conditions/on_off.h"

#include <algorithm>
#include <fmt/format.h>

namespace sieve::conditions {

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

TrendReading readTrend(expressions::Evaluator& evaluator, const expressions::Names& names,
                       const Line& line, const TrendRule& rule, const Progress& progress)
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
    const auto states = [&](std::size_t enter, std::optional<std::size_t> leave) {
        return onOff(values[enter],
                     leave ? std::span<const double>(values[*leave]) : std::span<const double>());
    };
    const auto up = states(*rising, risingEnds);
    const auto down = states(*falling, fallingEnds);
    for (std::size_t bar = 0; bar < up.size(); ++bar) {
        if (!up[bar] || !down[bar]) {
            reading.history.emplace_back();
            continue;
        }
        const bool isBoth = *up[bar] && *down[bar];
        reading.contradictions += isBoth ? 1 : 0;
        reading.history.emplace_back(isBoth || *up[bar] == *down[bar] ? Trend::Sideways
                                     : *up[bar]                       ? Trend::Rising
                                                                      : Trend::Falling);
    }
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
