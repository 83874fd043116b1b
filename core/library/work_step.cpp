#include "core/library/work_step.h"

#include <algorithm>
#include <utility>

namespace sieve::library {

using watchlists::Tray;
using watchlists::Watchlist;

namespace {

/// Keeps of two runs of rows what differs.
template <class Row>
void note(RowsChange<Row>& change, const std::vector<Row>& before, const std::vector<Row>& after)
{
    const std::size_t most = std::min(before.size(), after.size());
    std::size_t first = 0;
    while (first < most && before[first] == after[first])
        ++first;
    std::size_t last = 0; // rows at the end that are the same
    while (last < most - first &&
           before[before.size() - 1 - last] == after[after.size() - 1 - last])
        ++last;
    const auto from = static_cast<std::ptrdiff_t>(first);
    const auto behind = static_cast<std::ptrdiff_t>(last);
    change.at = first;
    change.before.assign(before.begin() + from, before.end() - behind);
    change.after.assign(after.begin() + from, after.end() - behind);
}

/// The rows of one side, made from those of the other.
template <class Row>
std::vector<Row> exchanged(const std::vector<Row>& rows, const RowsChange<Row>& change, bool isBack)
{
    const std::vector<Row>& gone = isBack ? change.after : change.before;
    const std::vector<Row>& come = isBack ? change.before : change.after;
    const auto from = rows.begin() + static_cast<std::ptrdiff_t>(change.at);
    std::vector<Row> other(rows.begin(), from);
    other.reserve(rows.size() - gone.size() + come.size());
    other.insert(other.end(), come.begin(), come.end());
    other.insert(other.end(), from + static_cast<std::ptrdiff_t>(gone.size()), rows.end());
    return other;
}

} // namespace

WorkStep::WorkStep(const Work& before, const Work& after) : before_(before), after_(after)
{
    for (Shared<Watchlist>& list : before_.lists) {
        const auto other = std::ranges::find_if(
            after_.lists, [&list](const auto& each) { return each->id == list->id; });
        if (other == after_.lists.end() || other->pointer() == list.pointer())
            continue;
        ListChange& change = lists_.emplace_back();
        change.id = list->id;
        note(change.entries, list->entries, (*other)->entries);
        note(change.former, list->former, (*other)->former);
        list = Watchlist{list->id, list->name, {}, {}, list->head};
        *other = Watchlist{(*other)->id, (*other)->name, {}, {}, (*other)->head};
    }
    if (before_.tray.pointer() != after_.tray.pointer()) {
        note(tray_.emplace(), before_.tray->cards(), after_.tray->cards());
        before_.tray = after_.tray = Tray();
    }
    if (before_.drawings.pointer() != after_.drawings.pointer()) {
        note(drawings_.emplace(), *before_.drawings, *after_.drawings);
        before_.drawings = after_.drawings = std::vector<Shared<drawings::Drawing>>();
    }
    if (before_.verdicts.pointer() != after_.verdicts.pointer()) {
        note(verdicts_.emplace(), *before_.verdicts, *after_.verdicts);
        before_.verdicts = after_.verdicts = std::vector<Shared<watchlists::Verdict>>();
    }
    if (before_.alerts.pointer() != after_.alerts.pointer()) {
        note(alerts_.emplace(), *before_.alerts, *after_.alerts);
        before_.alerts = after_.alerts = std::vector<Shared<watchlists::Alert>>();
    }
    if (before_.runs.pointer() != after_.runs.pointer()) {
        note(runs_.emplace(), *before_.runs, *after_.runs);
        before_.runs = after_.runs = std::vector<Shared<studies::KeptRun>>();
    }
}

Work WorkStep::undone(const Work& after) const
{
    return withRows(before_, after, true);
}

Work WorkStep::done(const Work& before) const
{
    return withRows(after_, before, false);
}

/// One side without the rows that changed, filled up from the other side.
Work WorkStep::withRows(Work side, const Work& other, bool isBack) const
{
    for (const ListChange& change : lists_) {
        Watchlist& list = *side.editList(change.id);
        const Watchlist& from = *other.findList(change.id);
        list.entries = exchanged(from.entries, change.entries, isBack);
        list.former = exchanged(from.former, change.former, isBack);
    }
    if (tray_)
        side.tray = Tray(exchanged(other.tray->cards(), *tray_, isBack));
    if (drawings_)
        side.drawings = exchanged(*other.drawings, *drawings_, isBack);
    if (verdicts_)
        side.verdicts = exchanged(*other.verdicts, *verdicts_, isBack);
    if (alerts_)
        side.alerts = exchanged(*other.alerts, *alerts_, isBack);
    if (runs_)
        side.runs = exchanged(*other.runs, *runs_, isBack);
    return side;
}

std::size_t WorkStep::rowsHeld() const
{
    std::size_t rows = tray_ ? tray_->before.size() + tray_->after.size() : 0;
    rows += drawings_ ? drawings_->before.size() + drawings_->after.size() : 0;
    rows += verdicts_ ? verdicts_->before.size() + verdicts_->after.size() : 0;
    rows += alerts_ ? alerts_->before.size() + alerts_->after.size() : 0;
    rows += runs_ ? runs_->before.size() + runs_->after.size() : 0;
    for (const ListChange& change : lists_)
        rows += change.entries.before.size() + change.entries.after.size() +
                change.former.before.size() + change.former.after.size();
    return rows;
}

} // namespace sieve::library
