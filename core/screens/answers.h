#pragma once

#include "core/base/missing.h"
#include "core/engine/evaluator.h"
#include "core/screens/limits.h"
#include "core/screens/screen.h"
#include "core/screens/stock_bits.h"

#include <cstddef>
#include <optional>
#include <vector>

namespace sieve::screens {

/// A limit with the figures on both of its sides, an instrument each.
struct LimitFigures {
    Limit limit;
    engine::ColumnPtr field;
    engine::ColumnPtr bound;

    double shortfall(std::size_t stock) const
    {
        return limit.shortfall((*field)[stock], (*bound)[stock]);
    }

    /// What a picture of the limit is drawn in: the field itself where the bound is one number for
    /// all, else by how much it stands above its bound, as a share of it (missing unless that is
    /// above 0): "close > sma(close, 150)" is a limit of 0 % on the distance.
    double shown(std::size_t stock) const
    {
        const double figure = (*field)[stock];
        const double against = (*bound)[stock];
        if (limit.fixed)
            return figure;
        return against > 0.0 ? figure / against - 1.0 : missing;
    }
    double shownBound() const { return limit.fixed.value_or(0.0); }
    Unit shownUnit() const { return limit.fixed ? limit.unit : Unit::Percent; }
};

/// What was evaluated for one criterion.
struct CriterionAnswer {
    engine::ColumnPtr column; ///< yes, no or missing; null when it has an error
    bool isOn = true;
    std::vector<LimitFigures> limits;
    std::optional<LocatedError> error;
    std::vector<LocatedError> warnings;
    StockBits passing; ///< by place in the universe: whom it lets pass

    /// Whether it lets the stock pass; one that is off or has an error lets all.
    bool passes(std::size_t stock) const { return !column || !isOn || (*column)[stock] == 1.0; }
};

/// A screen as it was answered on one day: what counts, near misses and guidance are made of.
struct Answers {
    std::vector<std::size_t> stocks; ///< in the universe
    std::vector<CriterionAnswer> criteria;
    engine::ColumnPtr rank; ///< null when there is none
    std::optional<LocatedError> universeError;
    std::optional<LocatedError> rankError;

    // By place in the universe, found when all is answered
    std::vector<StockBits> left; ///< who is left before each criterion, and after the last one
    StockBits missedOne;         ///< whom just one criterion keeps out

    /// Whom this criterion alone keeps out.
    StockBits keptOutBy(std::size_t criterion) const
    {
        return missedOne - criteria[criterion].passing;
    }
};

/// Evaluates a screen for all stocks listed on `day` (indexes are none). `names.universe` is set to
/// the screen's own.
/// Errors: Stopped, when `progress` says so; the screen's own stand in the answers.
Answers answer(const Screen& screen, language::Names names, engine::Evaluator& evaluator, Day day,
               const Progress& progress = {});

} // namespace sieve::screens
