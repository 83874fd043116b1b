#include "core/language/coverage.h"

namespace sieve::language {

std::vector<double> coverage(engine::Evaluator& evaluator, const Names& names,
                             std::span<const Field> fields, Day day, const Progress& progress)
{
    engine::Plan plan;
    std::vector<engine::NodeId> targets;
    std::vector<std::size_t> asked; // places of the fields
    for (std::size_t i = 0; i < fields.size(); ++i)
        if (const auto checked = check(fields[i].name, names, plan)) {
            targets.push_back(checked->node);
            asked.push_back(i);
        }
    const std::vector<engine::ColumnPtr> columns = evaluator.columns(plan, targets, day, progress);
    const market::Market& market = evaluator.market();
    std::vector<std::size_t> known(fields.size(), 0);
    std::size_t stocks = 0;
    for (std::size_t stock = 0; stock < market.size(); ++stock) {
        if (!market.isListed(stock, day) || market.isIndex(stock))
            continue;
        ++stocks;
        for (std::size_t i = 0; i < columns.size(); ++i)
            known[asked[i]] += isMissing((*columns[i])[stock]) ? 0U : 1U;
    }
    std::vector<double> shares(fields.size(), 0.0);
    for (std::size_t i = 0; i < shares.size() && stocks > 0; ++i)
        shares[i] = static_cast<double>(known[i]) / static_cast<double>(stocks);
    return shares;
}

} // namespace sieve::language
