#include "core/conditions/trend_state.h"

#include "core/expressions/checker.h"
#include "core/expressions/evaluator.h"

#include <stdexcept>

namespace sieve::conditions {

namespace {

constexpr std::array rules{
    TrendRule{Horizon::Short,
              "close > ema(close, 10) and ema(close, 10) > prior(ema(close, 10), 3)",
              "close < ema(close, 10) and ema(close, 10) < prior(ema(close, 10), 3)"},
    TrendRule{Horizon::Medium,
              "close > sma(close, 50) and sma(close, 50) > prior(sma(close, 50), 10)",
              "close < sma(close, 50) and sma(close, 50) < prior(sma(close, 50), 10)"},
    TrendRule{Horizon::Long,
              "close > sma(close, 200) and sma(close, 200) > prior(sma(close, 200), 20)",
              "close < sma(close, 200) and sma(close, 200) < prior(sma(close, 200), 20)"},
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

std::string_view horizonName(Horizon horizon)
{
    switch (horizon) {
    case Horizon::Short:
        return "short";
    case Horizon::Medium:
        return "medium";
    case Horizon::Long:
        break;
    }
    return "long";
}

std::span<const TrendRule> trendRules()
{
    return rules;
}

TrendHistory trendHistory(const market::Composite& line, const TrendRule& rule)
{
    if (line.days.empty())
        return {};
    expressions::Evaluator evaluator(market::marketOf(line));
    expressions::Plan plan;
    const expressions::Names names{expressions::Vocabulary::builtIn(), std::nullopt};
    const auto series = [&](std::string_view condition) {
        const auto checked = checkCondition(condition, names, plan);
        if (!checked)
            throw std::logic_error(sentence(checked.error()));
        return evaluator.history(plan, checked->node, 0, line.days.back());
    };
    const std::vector<double> rising = series(rule.rising);
    const std::vector<double> falling = series(rule.falling);
    TrendHistory history;
    for (std::size_t i = 0; i < rising.size(); ++i) {
        if (isMissing(rising[i]) || isMissing(falling[i]))
            history.emplace_back();
        else
            history.emplace_back(rising[i] == 1.0    ? Trend::Rising
                                 : falling[i] == 1.0 ? Trend::Falling
                                                     : Trend::Sideways);
    }
    return history;
}

std::size_t ageInSessions(const TrendHistory& history, std::size_t session)
{
    if (!history.at(session))
        return 0;
    std::size_t age = 1;
    while (age <= session && history[session - age] == history[session])
        ++age;
    return age;
}

} // namespace sieve::conditions
