#include "core/watchlists/as_known.h"

#include "core/market/as_of.h"

namespace sieve::watchlists {

std::vector<std::vector<double>> historiesAsKnown(engine::Evaluator& evaluator,
                                                  const engine::Plan& plan,
                                                  std::span<const engine::NodeId> parts,
                                                  std::size_t stock, Day day, std::size_t from,
                                                  const Progress& progress)
{
    const market::Market& market = evaluator.market();
    std::vector<std::vector<double>> all(parts.size());
    const auto last = market::lastBarBy(market, stock, day);
    if (!last)
        return all;
    while (from <= *last) { // stretch by stretch between splits
        std::size_t end = from + 1;
        while (end <= *last && market.footing(stock, end) == market.footing(stock, from))
            ++end;
        const auto values = evaluator.histories(plan, parts, stock,
                                                market.bars(stock).days[end - 1], progress, from);
        for (std::size_t part = 0; part < parts.size(); ++part)
            all[part].insert(all[part].end(), values[part].begin(), values[part].end());
        from = end;
    }
    return all;
}

} // namespace sieve::watchlists
