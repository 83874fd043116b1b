#include "core/screens/why.h"

#include <algorithm>

namespace sieve::screens {

Why why(const Screen& screen, const language::Names& names, engine::Evaluator& evaluator,
        std::size_t stock, Day day, const Progress& progress)
{
    const Answers answers = answer(screen, names, evaluator, day, progress);
    Why why;
    why.isInUniverse = std::ranges::binary_search(answers.stocks, stock);
    why.passes = why.isInUniverse;
    for (std::size_t i = 0; i < answers.criteria.size(); ++i) {
        const CriterionAnswer& answer = answers.criteria[i];
        CriterionWhy& criterion = why.criteria.emplace_back();
        criterion.isOn = answer.isOn;
        criterion.error = answer.error;
        why.passes = why.passes && answer.passes(stock);
        if (!answer.column)
            continue;
        const double said = (*answer.column)[stock];
        if (!isMissing(said))
            criterion.passes = said == 1.0;
        for (const LimitFigures& limit : answer.limits)
            criterion.sides.push_back({limit.limit, (*limit.field)[stock], (*limit.bound)[stock],
                                       limit.shortfall(stock)});
        auto parts = explain(screen.criteria[i].text, names, evaluator, stock, day);
        if (parts)
            criterion.parts = *std::move(parts);
    }
    return why;
}

} // namespace sieve::screens
