#include "core/conditions/own_screens.h"

#include "core/base/require.h"

#include <algorithm>
#include <fmt/format.h>

namespace sieve::conditions {

namespace {

std::string matchedAgo(const std::string& screen, int sessions)
{
    return fmt::format("prior(passes(\"{}\"), {})", screen, sessions);
}

std::string matchesOf(std::span<const std::string> screens, int sessions)
{
    std::string sum;
    for (const std::string& screen : screens)
        sum +=
            fmt::format("{}count_of({})", sum.empty() ? "" : " + ", matchedAgo(screen, sessions));
    return sum;
}

/// What a part of the day says on each day, by a stock that traded on it.
std::vector<double> overDays(engine::Evaluator& evaluator, const engine::Plan& plan,
                             engine::NodeId node, std::span<const Day> days,
                             const Progress& progress)
{
    const market::Market& market = evaluator.market();
    const auto columns = evaluator.columnsOver(plan, node, days, progress);
    std::vector<double> values;
    for (std::size_t day = 0; day < days.size(); ++day) {
        double value = missing;
        for (std::size_t stock = 0; stock < market.size() && isMissing(value); ++stock)
            if (std::ranges::binary_search(market.bars(stock).days, days[day]))
                value = (*columns[day])[stock];
        values.push_back(value);
    }
    return values;
}

} // namespace

std::string gainedShare(std::span<const std::string> screens, int sessions)
{
    require(!screens.empty(), "gainedShare: no screen");
    std::string sum;
    for (const std::string& screen : screens)
        sum += fmt::format("{}count_of({} and close > prior(close, {}))", sum.empty() ? "" : " + ",
                           matchedAgo(screen, sessions), sessions);
    return fmt::format("({}) / ({})", sum, matchesOf(screens, sessions));
}

OwnScreensReading readOwnScreens(engine::Evaluator& evaluator, const language::Names& names,
                                 std::span<const std::string> screens, Day day,
                                 std::size_t sessions, const Progress& progress)
{
    OwnScreensReading reading;
    const std::span<const Day> all = evaluator.market().sessions();
    const auto end = static_cast<std::size_t>(std::ranges::upper_bound(all, day) - all.begin());
    const std::size_t count = std::min(sessions, end);
    reading.days.assign(all.begin() + static_cast<std::ptrdiff_t>(end - count),
                        all.begin() + static_cast<std::ptrdiff_t>(end));
    reading.gained1.assign(count, missing);
    reading.gained5.assign(count, missing);
    std::vector<std::string> sound;
    for (const std::string& screen : screens) {
        engine::Plan plan;
        if (screen.find('"') == screen.npos &&
            checkCondition(fmt::format("passes(\"{}\")", screen), names, plan))
            sound.push_back(screen);
    }
    if (sound.empty() || count == 0)
        return reading;
    engine::Plan plan;
    const auto over = [&](const std::string& text) {
        const auto checked = check(text, names, plan);
        if (!checked) // too many screens for one expression
            return std::vector<double>(count, missing);
        return overDays(evaluator, plan, checked->node, reading.days, progress);
    };
    reading.gained1 = over(gainedShare(sound, 1));
    reading.gained5 = over(gainedShare(sound, 5));
    const double matches = over(matchesOf(sound, 5)).back();
    reading.matches5 = isMissing(matches) ? 0.0 : matches;
    return reading;
}

} // namespace sieve::conditions
