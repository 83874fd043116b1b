#pragma once

#include "core/library/work.h"

#include <cstdint>
#include <optional>
#include <vector>

namespace sieve::library {

/// The rows in which two lists differ: on one side so many stand where on the other stand others.
template <class Row> struct RowsChange {
    std::size_t at = 0;
    std::vector<Row> before;
    std::vector<Row> after;
};

/// What a step changes of the rows of one list.
struct ListChange {
    std::int64_t id = 0;
    RowsChange<watchlists::Entry> entries;
    RowsChange<watchlists::FormerEntry> former;
};

/// One step from a state of the work to another, that can be taken back and done again. It shares
/// with both what the step left alone; of a list, the tray, the drawings, the verdicts, the
/// alerts or the kept answers, which may be long, it holds only the rows that changed.
class WorkStep {
public:
    WorkStep(const Work& before, const Work& after);

    Work undone(const Work& after) const; ///< Requires: the state that the step leads to.
    Work done(const Work& before) const;  ///< Requires: the state that it begins from.
    std::size_t rowsHeld() const;         ///< of all that

private:
    Work withRows(Work side, const Work& other, bool isBack) const;

    Work before_; ///< what changed of all that stands without its rows
    Work after_;
    std::vector<ListChange> lists_;
    std::optional<RowsChange<watchlists::Card>> tray_;
    std::optional<RowsChange<Shared<drawings::Drawing>>> drawings_;
    std::optional<RowsChange<Shared<watchlists::Verdict>>> verdicts_;
    std::optional<RowsChange<Shared<watchlists::Alert>>> alerts_;
    std::optional<RowsChange<Shared<studies::KeptRun>>> runs_;
};

} // namespace sieve::library
