#include "core/watchlists/sitting.h"

#include <algorithm>
#include <map>

namespace sieve::watchlists {

std::vector<ReasonCount> reasonsOf(const Tray& tray)
{
    std::map<std::string, ReasonCount> byReason;
    for (const Card& card : tray.cards()) {
        if (card.mark == Mark::Open)
            continue;
        ReasonCount& count = byReason[card.reason];
        count.reason = card.reason;
        (card.mark == Mark::Kept      ? count.kept
         : card.mark == Mark::Dropped ? count.dropped
                                      : count.later) += 1;
    }
    std::vector<ReasonCount> all;
    for (auto& [reason, count] : byReason)
        all.push_back(std::move(count));
    std::ranges::stable_sort(all, [](const ReasonCount& a, const ReasonCount& b) {
        return a.reason.empty() != b.reason.empty() ? b.reason.empty() : a.all() > b.all();
    });
    return all;
}

std::size_t takeLaterAgain(Tray& tray)
{
    std::size_t taken = 0;
    for (std::size_t place = 0; place < tray.cards().size(); ++place)
        if (const Card card = tray.cards()[place]; card.mark == Mark::Later) {
            tray.mark(place, Mark::Open, card.reason);
            ++taken;
        }
    return taken;
}

} // namespace sieve::watchlists
