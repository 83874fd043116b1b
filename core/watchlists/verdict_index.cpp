#include "core/watchlists/verdict_index.h"

#include <algorithm>

namespace sieve::watchlists {

namespace {

Day dayOfVerdict(const Verdict* verdict)
{
    return verdict->on;
}

} // namespace

VerdictIndex::VerdictIndex(Verdicts verdicts, const market::Market& market)
{
    for (const auto& verdict : verdicts)
        if (const auto stock = market.find(verdict->symbol, verdict->on))
            ofStocks_[*stock].push_back(&*verdict);
    for (auto& [stock, all] : ofStocks_)
        std::ranges::stable_sort(all, {}, dayOfVerdict);
}

const Verdict* VerdictIndex::newest(std::size_t stock, Day day) const
{
    const auto own = ofStocks_.find(stock);
    if (own == ofStocks_.end())
        return nullptr;
    const auto after = std::ranges::upper_bound(own->second, day, {}, dayOfVerdict);
    return after == own->second.begin() ? nullptr : *(after - 1);
}

} // namespace sieve::watchlists
