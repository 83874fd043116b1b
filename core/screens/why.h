#pragma once

#include "core/language/explanation.h"
#include "core/screens/answers.h"

#include <cstddef>
#include <optional>
#include <vector>

namespace sieve::screens {

/// How one criterion stands for one stock.
struct CriterionWhy {
    /// A limit with the stock's figures on both of its sides.
    struct Side {
        Limit limit;
        double figure = missing;
        double bound = missing;
        double shortfall = missing; ///< 0 where it is met
    };
    std::optional<bool> passes; ///< empty: it cannot be said, for want of data or by a mistake
    bool isOn = true;
    std::vector<Side> sides;
    std::optional<LocatedError> error;
    std::optional<language::Explanation> parts; ///< every part with its value and its dates
};

/// Why a stock is in or out.
struct Why {
    bool isInUniverse = false;
    bool passes = false; ///< all that count
    std::vector<CriterionWhy> criteria;
};

/// Errors: those of the screen's texts stand with their criteria.
Why why(const Screen& screen, const language::Names& names, engine::Evaluator& evaluator,
        std::size_t stock, Day day, const Progress& progress = {});

} // namespace sieve::screens
