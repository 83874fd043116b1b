#include "core/conditions/reading.h"

#include "core/conditions/breadth.h"

namespace sieve::conditions {

Reading readMarket(expressions::Evaluator& evaluator, const Progress& progress)
{
    const market::Market& market = evaluator.market();
    Reading reading;
    reading.sessions.assign(market.sessions().begin(), market.sessions().end());
    for (const auto& [title, weight] :
         {std::pair("All shares, equal weight", market::Weight::Equal),
          std::pair("All shares, by capitalization", market::Weight::Capitalization)}) {
        Line line{title, market::makeComposite(market, weight), {}};
        for (const TrendRule& rule : trendRules())
            line.trends.push_back(trendHistory(line.composite, rule));
        reading.lines.push_back(std::move(line));
    }
    for (const auto& [title, condition] :
         {std::pair("Above their 200-day average", "close > sma(close, 200)"),
          std::pair("Above their 50-day average", "close > sma(close, 50)")})
        reading.breadth.push_back({title, condition, shareOver(evaluator, condition, progress)});
    return reading;
}

} // namespace sieve::conditions
