#include "core/library/work_step.h"

#include <algorithm>

namespace sieve::library {

using watchlists::Tray;
using watchlists::Watchlist;

template <class Row> WorkStep::Change<Row> WorkStep::changeOf(const std::vector<Row>& before,
                                                              const std::vector<Row>& after)
{
    const auto [differs, differsAfter] = std::ranges::mismatch(before, after);
    const auto at = static_cast<std::size_t>(differs - before.begin());
    std::size_t same = 0; // at the end
    while (same < before.size() - at && same < after.size() - at &&
           before[before.size() - 1 - same] == after[after.size() - 1 - same])
        ++same;
    const auto behind = static_cast<std::ptrdiff_t>(same);
    return {at, {differs, before.end() - behind}, {differsAfter, after.end() - behind}};
}

template <class Row>
std::vector<Row> WorkStep::exchanged(const std::vector<Row>& rows, std::size_t at,
                                     const std::vector<Row>& gone, const std::vector<Row>& come)
{
    const auto from = rows.begin() + static_cast<std::ptrdiff_t>(at);
    std::vector<Row> other(rows.begin(), from);
    other.reserve(rows.size() - gone.size() + come.size());
    other.insert(other.end(), come.begin(), come.end());
    other.insert(other.end(), from + static_cast<std::ptrdiff_t>(gone.size()), rows.end());
    return other;
}

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
        lists_.push_back({list->id, changeOf(list->entries, (*other)->entries),
                          changeOf(list->former, (*other)->former)});
        list = Watchlist{list->id, list->name, {}, {}};
        *other = Watchlist{(*other)->id, (*other)->name, {}, {}};
    }
    if (before_.tray.pointer() == after_.tray.pointer())
        return;
    tray_ = changeOf(before_.tray->cards(), after_.tray->cards());
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
