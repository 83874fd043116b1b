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

/// The rows with others in the place of some.
template <class Row> std::vector<Row> exchanged(const std::vector<Row>& rows, std::size_t at,
                                                const std::vector<Row>& gone,
                                                const std::vector<Row>& come)
{
    const auto from = rows.begin() + static_cast<std::ptrdiff_t>(at);
    std::vector<Row> other(rows.begin(), from);
    other.reserve(rows.size() - gone.size() + come.size());
    other.insert(other.end(), come.begin(), come.end());
    other.insert(other.end(), from + static_cast<std::ptrdiff_t>(gone.size()), rows.end());
    return other;
}

} // namespace

WorkStep::WorkStep(const Work& before, const Work& after) : before_(before), after_(after)
{
    takeRowsOut();
}

void WorkStep::takeRowsOut()
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
        list = Watchlist{list->id, list->name, {}, {}};
        *other = Watchlist{(*other)->id, (*other)->name, {}, {}};
    }
    if (before_.tray.pointer() == after_.tray.pointer())
        return;
    note(tray_.emplace(), before_.tray->cards(), after_.tray->cards());
    before_.tray = after_.tray = Tray();
}

Work WorkStep::undone(const Work& after) const
{
    Work work = before_;
    for (const ListChange& change : lists_) {
        Watchlist& list = *work.editList(change.id);
        const Watchlist& now = *after.findList(change.id);
        list.entries =
            exchanged(now.entries, change.entries.at, change.entries.after, change.entries.before);
        list.former =
            exchanged(now.former, change.former.at, change.former.after, change.former.before);
    }
    if (tray_) {
        auto cards = exchanged(after.tray->cards(), tray_->at, tray_->after, tray_->before);
        work.tray = Tray(std::move(cards));
    }
    return work;
}

Work WorkStep::done(const Work& before) const
{
    Work work = after_;
    for (const ListChange& change : lists_) {
        Watchlist& list = *work.editList(change.id);
        const Watchlist& now = *before.findList(change.id);
        list.entries =
            exchanged(now.entries, change.entries.at, change.entries.before, change.entries.after);
        list.former =
            exchanged(now.former, change.former.at, change.former.before, change.former.after);
    }
    if (tray_) {
        auto cards = exchanged(before.tray->cards(), tray_->at, tray_->before, tray_->after);
        work.tray = Tray(std::move(cards));
    }
    return work;
}

std::size_t WorkStep::rowsHeld() const
{
    std::size_t rows = tray_ ? tray_->before.size() + tray_->after.size() : 0;
    for (const ListChange& change : lists_)
        rows += change.entries.before.size() + change.entries.after.size() +
                change.former.before.size() + change.former.after.size();
    return rows;
}

} // namespace sieve::library
