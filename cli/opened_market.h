#pragma once

#include "cli/commands.h"
#include "core/language/checker.h"
#include "core/engine/evaluator.h"
#include "core/screens/name_book.h"

#include <span>
#include <string>
#include <vector>

namespace sieve::cli {

/// The market of a request with what it takes to ask it. The command line knows the ready screens
/// by name; lists and own fields are the window's.
/// Errors: InputFault, with the place in the text where an expression is at fault.
class OpenedMarket {
public:
    explicit OpenedMarket(const Request& request);

    engine::Evaluator& evaluator() { return evaluator_; }
    const market::Market& market() const { return evaluator_.market(); }
    const engine::Plan& plan() const { return plan_; }
    const language::Names& names() const { return names_; }

    language::Checked check(const std::string& text);
    std::vector<language::Checked> check(const std::vector<std::string>& texts);
    std::size_t instrument(const std::string& symbol) const;
    /// The as-of day: the session on or before the one asked for, else the newest. Another than the
    /// one asked for is told.
    /// Errors: InputFault where the market begins later.
    Day day(const Request& request) const;
    /// The sessions from one day to another; empty days stand for the first and the newest. Days
    /// after the newest are told.
    /// Errors: InputFault where there are none.
    std::span<const Day> sessions(const Request& request) const;
    Cell cell(double value, Kind kind) const { return exports::cellOf(value, kind, market().texts()); }

private:
    engine::Evaluator evaluator_;
    engine::Plan plan_;
    screens::NameBook book_;
    language::Names names_;
};

} // namespace sieve::cli
