#pragma once

#include "core/library/work.h"

#include <string>
#include <vector>

namespace sieve::library {

/// What is other in one kind of the person's things.
struct KindDifference {
    enum class Kind {
        Lists,
        Screens,
        Drafts,
        Fields,
        Candidates,
        ColumnSets,
        ChartSetUps,
        Drawings,
        Weighing,
        Checklists,
        Verdicts,
        Alerts,
        KeptRuns,
        TradingTerms,
        MailTerms,
        MarketRules
    };
    Kind kind = Kind::Lists;
    std::vector<std::string> comes; ///< names of what would be there again
    std::vector<std::string> goes;  ///< names of what would be gone
    std::vector<std::string> other; ///< names of what would be changed
};

/// What would change if `then` took the place of `now`; kinds that stay the same are left out. Each
/// thing is known by its name, lists and screens by their numbers too. The market's rules are one
/// thing, without a name; so are the trading terms.
std::vector<KindDifference> differences(const Work& now, const Work& then);

} // namespace sieve::library
