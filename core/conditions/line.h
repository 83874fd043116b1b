#pragma once

#include "core/engine/evaluator.h"
#include "core/language/checker.h"
#include "core/market/composite.h"

#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace sieve::conditions {

/// A line that stands for many shares: a composite, or an index that the data brings.
struct Line {
    std::string title;
    std::string shares;       ///< a condition of the language: the shares that it is about
    market::MarketPtr market; ///< the line as its only instrument
    bool hasRange = false;    ///< an index has highs and lows; a composite has closes only
    std::vector<market::Action> splits = {}; ///< of an index; its bars are free of them

    /// What its levels are multiplied by to be those that were known on a day: the splits after it.
    double scaleOn(Day day) const;
    const market::BarsView& bars() const { return market->bars(0); }
    /// Its newest bar by a day.
    std::optional<std::size_t> barBy(Day day) const;
};

/// The whole market at both weights, the benchmark and the other indexes, and, where there are
/// more than one, each exchange at equal weight. An index without a bar is left out; the whole
/// market never is.
std::vector<Line> marketLines(const market::Market& market, const Progress& progress = {});

/// A composite of given members, such as a sector's.
Line lineOf(const market::Market& market, std::string title, std::string shares,
            std::span<const market::Member> members, market::Weight weight,
            market::Return kind = market::Return::Price);
/// A list at equal weight, from the session before the first on which one of its stocks counts.
/// Requires: a name without quotation marks, which the language cannot say.
Line lineOfList(const market::Market& market, const std::string& name,
                const engine::ListMembers& list);

/// Conditions and figures put to a line: checked into one plan, with the line's shares as universe.
class LineQuestion {
public:
    /// Errors: std::logic_error when the line's own `shares` does not check.
    LineQuestion(const language::Names& names, const Line& line);

    /// Adds a text and says where it stands among the answers.
    Result<std::size_t> add(std::string_view text);
    Result<std::size_t> addCondition(std::string_view text);
    const language::Checked& checked(std::size_t at) const { return checked_[at]; }
    engine::Plan& plan() { return plan_; }
    const language::Names& names() const { return names_; }

    /// Every text over the line's bars up to `day`. Errors: Stopped.
    std::vector<std::vector<double>> histories(engine::Evaluator& evaluator, Day day,
                                               const Progress& progress = {}) const;

private:
    Result<std::size_t> add(const Result<language::Checked>& checked);

    const Line& line_;
    language::Names names_;
    engine::Plan plan_;
    std::vector<language::Checked> checked_;
};

} // namespace sieve::conditions
