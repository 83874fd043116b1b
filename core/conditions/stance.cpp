#include "core/conditions/stance.h"

#include "core/base/require.h"

#include <algorithm>
#include <cmath>
#include <map>

namespace sieve::conditions {

std::vector<double> stanceOver(std::span<const TimingRule> rules,
                               std::span<const RuleHistory> histories, std::size_t bars)
{
    require(rules.size() == histories.size(), "stance: a history a rule");
    std::vector<double> stance(bars, missing);
    for (std::size_t bar = 0; bar < bars; ++bar) {
        double sum = 0.0;
        bool isKnown = false;
        bool standsAside = false;
        for (std::size_t rule = 0; rule < rules.size(); ++rule) {
            if (bar >= histories[rule].on.size() || !histories[rule].on[bar])
                continue;
            isKnown = true;
            const bool isOn = *histories[rule].on[bar];
            if (rules[rule].standsAside)
                standsAside = standsAside || isOn;
            else if (isOn)
                sum += rules[rule].share / 100.0;
        }
        if (isKnown)
            stance[bar] = standsAside ? 0.0 : std::min(sum, 1.0);
    }
    return stance;
}

std::vector<StanceSpell> stanceSpells(std::span<const double> stance,
                                      std::span<const double> closes, std::size_t bar)
{
    struct Sum {
        StanceSpell spell;
        double logChange = 0.0;
        double followed = 0.0; ///< sessions
    };
    std::map<long, Sum, std::greater<>> sums; // by thousandths: sums of shares have no exact equals
    const std::size_t end = std::min({bar + 1, stance.size(), closes.size()});
    for (std::size_t at = 0; at < end; ++at) {
        if (isMissing(stance[at]))
            continue;
        Sum& sum = sums[std::lround(stance[at] * 1000.0)];
        sum.spell.stance = stance[at];
        ++sum.spell.sessions;
        if (at == 0 || isMissing(stance[at - 1]) || std::fabs(stance[at - 1] - stance[at]) > 5e-4)
            ++sum.spell.spells;
        if (at + 1 < end && closes[at] > 0.0 && closes[at + 1] > 0.0) {
            sum.logChange += std::log(closes[at + 1] / closes[at]);
            sum.followed += 1.0;
        }
    }
    std::vector<StanceSpell> spells;
    for (auto& [key, sum] : sums) {
        if (sum.followed > 0.0) {
            sum.spell.change = std::expm1(sum.logChange);
            sum.spell.changeAYear = std::expm1(sum.logChange / sum.followed * 252.0);
        }
        spells.push_back(sum.spell);
    }
    return spells;
}

} // namespace sieve::conditions
