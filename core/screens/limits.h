#pragma once

#include "core/engine/plan.h"
#include "core/language/checker.h"

#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace sieve::screens {

/// A bound that a criterion sets: `field` must stand on one side of `bound`.
struct Limit {
    std::string field; ///< as it is written, such as "rsi(close, 14)"
    std::string bound; ///< as it is written, such as "65" or "median(price_to_sales)"
    engine::NodeId fieldNode = 0;
    engine::NodeId boundNode = 0;
    engine::Op op = engine::Op::GreaterEqual;   ///< field op bound
    Unit unit = Unit::Plain;                    ///< of the field
    SourceRange where;                          ///< of the bound in the criterion's text
    std::optional<double> fixed = std::nullopt; ///< the bound, where it is one number for all

    bool wantsMore() const ///< the field must be large
    {
        return op == engine::Op::Greater || op == engine::Op::GreaterEqual;
    }
    /// By how much a figure must move to stand on the right side of `at`; 0 where it does, missing
    /// where either is.
    double shortfall(double figure, double at) const;
};

/// The limits of a criterion that compares figures: one for `x >= 5`, two for `1 <= x <= 5`; none
/// for what is no such comparison (a yes or no, a text, an `or`). A number stands as the bound; of
/// two expressions the right one does.
/// Requires: a text that check() takes.
std::vector<Limit> limitsOf(std::string_view criterion, const language::Names& names,
                            engine::Plan& plan);

/// The criterion with another number for the bound of one of its limits, written as the language
/// writes it: a share as percent, large amounts with k, M or B. The criterion as it was where the
/// limit is not this text's or its bound no number.
std::string withBound(std::string_view criterion, const Limit& limit, double bound);
/// A bound as the language writes it.
std::string boundText(double bound, Unit unit);

/// The criteria of a condition: the parts of its outermost `and`, as they are written.
std::vector<std::string> criteriaOf(std::string_view condition);

} // namespace sieve::screens
