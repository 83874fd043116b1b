#include "core/conditions/reading.h"

namespace sieve::conditions {

Reading readMarket(engine::Evaluator& evaluator, const language::Names& names,
                   const MarketBook& book, const Progress& progress)
{
    Reading reading;
    reading.book = book;
    reading.isProvisional = evaluator.market().isLive();
    for (Line& line : marketLines(evaluator.market(), progress)) {
        LineReading& read = reading.lines.emplace_back();
        read.line = std::move(line);
        for (std::size_t i = 0; i < book.trends.size(); ++i)
            read.trends[i] = readTrend(evaluator, names, read.line, book.trends[i], progress);
    }
    reading.rules = ruleHistories(evaluator, names, reading.market(), book.rules, progress);
    reading.stance = stanceOver(book.rules, reading.rules, reading.market().bars().size());
    return reading;
}

} // namespace sieve::conditions
