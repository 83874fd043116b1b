#include "core/watchlists/trading_terms.h"

#include "core/base/toml_table.h"

#include <cmath>
#include <fmt/format.h>

namespace sieve::watchlists {

namespace {

double shareUnder(const toml::table& table, std::string_view key, double usual, double most)
{
    const toml::node* node = table.get(key);
    if (!node)
        return usual;
    const auto number = node->value<double>();
    if (!number || !node->is_number() || !(*number > 0.0) || *number > most)
        failAt(node->source(), fmt::format("'{}' is no number above 0 and up to {}", key, most),
               fmt::format("write {} = {}", key, usual));
    return *number;
}

} // namespace

std::string toToml(const TradingTerms& terms)
{
    std::string toml = fmt::format("account = {}\nrisk = {}\nnear = {}\ntoo_far = {}\n",
                                   terms.plan.account, terms.plan.risk, terms.near, terms.tooFar);
    if (!terms.leavingRule.empty())
        toml += fmt::format("leaving_rule = {}\n", quotedToml(terms.leavingRule));
    return toml;
}

Result<TradingTerms> tradingTermsFromToml(std::string_view toml)
{
    return readToml(toml, "write account = 100000", [](const toml::table& file) {
        refuseOthers(file, "trading terms", {"account", "risk", "near", "too_far", "leaving_rule"});
        const TradingTerms usual;
        constexpr double mostMoney = 1e15;
        return TradingTerms{{shareUnder(file, "account", usual.plan.account, mostMoney),
                             shareUnder(file, "risk", usual.plan.risk, 1.0)},
                            shareUnder(file, "near", usual.near, 1.0),
                            shareUnder(file, "too_far", usual.tooFar, 10.0),
                            valueOr<std::string>(file, "leaving_rule", {})};
    });
}

} // namespace sieve::watchlists
