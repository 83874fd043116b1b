#include "core/conditions/breadth.h"

#include "core/expressions/checker.h"

#include <stdexcept>

namespace sieve::conditions {

std::vector<double> shareOver(expressions::Evaluator& evaluator, std::string_view condition,
                              const Progress& progress)
{
    expressions::Plan plan;
    const expressions::Names names{expressions::Vocabulary::builtIn(), std::nullopt};
    const auto checked = checkCondition(condition, names, plan);
    if (!checked)
        throw std::logic_error(sentence(checked.error()));
    const market::Market& market = evaluator.market();
    const auto columns = evaluator.columnsOver(plan, checked->node, market.sessions(), progress);
    std::vector<double> shares;
    for (const expressions::ColumnPtr& column : columns) {
        double yes = 0.0;
        double known = 0.0;
        for (std::size_t i = 0; i < column->size(); ++i) {
            if (market.instrument(i).kind != market::InstrumentKind::Share ||
                isMissing((*column)[i]))
                continue;
            known += 1.0;
            yes += (*column)[i];
        }
        shares.push_back(known > 0.0 ? yes / known : missing);
    }
    return shares;
}

} // namespace sieve::conditions
