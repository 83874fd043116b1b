#include "core/valuation/fair_value.h"

#include <fmt/format.h>

namespace sieve::valuation {

std::vector<FairValue> fairValues()
{
    struct BasisRow {
        Basis basis;
        std::string_view name;
        std::string_view title;
        std::string_view Driver::*perShare;
    };
    constexpr std::array bases{
        BasisRow{Basis::Last, "last", "four quarters", &Driver::last},
        BasisRow{Basis::Trend, "trend", "next year by trend", &Driver::trend},
        BasisRow{Basis::Expected, "expected", "next year expected", &Driver::expected}};
    std::vector<FairValue> all;
    for (std::size_t i = 0; i < drivers.size(); ++i)
        for (const BasisRow& basis : bases)
            for (const bool isUsual : {true, false}) {
                const std::string_view perShare = drivers[i].*basis.perShare;
                if (perShare == "no_data" || (basis.basis == Basis::Last && !isUsual))
                    continue;
                all.push_back({i, basis.basis, isUsual,
                               fmt::format("fair_{}_{}_{}", drivers[i].name, basis.name,
                                           isUsual ? "usual" : "now"),
                               std::string(perShare),
                               std::string(isUsual ? drivers[i].usual : drivers[i].multiple),
                               fmt::format("{}, {}", basis.title,
                                           isUsual ? "usual multiple" : "today's multiple")});
            }
    return all;
}

} // namespace sieve::valuation
