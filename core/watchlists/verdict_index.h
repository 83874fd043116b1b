#pragma once

#include "core/watchlists/checklist.h"

#include <unordered_map>
#include <vector>

namespace sieve::watchlists {

/// Verdicts by the stock that they are on, for many questions: who is meant is looked up once.
/// Refers to the verdicts, which must live on.
class VerdictIndex {
public:
    VerdictIndex(Verdicts verdicts, const market::Market& market);

    /// The newest on a stock by a day, by any checklist; null: there is none.
    const Verdict* newest(std::size_t stock, Day day) const;

private:
    std::unordered_map<std::size_t, std::vector<const Verdict*>> ofStocks_; ///< each by day
};

} // namespace sieve::watchlists
