#pragma once

#include "core/base/missing.h"

#include <cstddef>
#include <optional>
#include <span>
#include <vector>

namespace sieve::conditions {

/// A state with a condition to enter it and one to leave it, bar by bar: on from the bar on which
/// `enter` holds to the one on which `leave` does. With an empty `leave` it is on while `enter`
/// holds. What holds on both counts as left.
/// Shape:    enter[n], leave[n] or empty -> n; nothing where `enter` is missing, or `leave` while
///           it is on: then nobody can say, and it begins anew.
inline std::vector<std::optional<bool>> onOff(std::span<const double> enter,
                                              std::span<const double> leave)
{
    std::vector<std::optional<bool>> states;
    states.reserve(enter.size());
    bool isOn = false;
    for (std::size_t bar = 0; bar < enter.size(); ++bar) {
        const bool cannotSay =
            isMissing(enter[bar]) || (isOn && !leave.empty() && isMissing(leave[bar]));
        if (cannotSay) {
            isOn = false;
            states.emplace_back();
            continue;
        }
        if (leave.empty())
            isOn = enter[bar] == 1.0;
        else
            isOn = (isOn || enter[bar] == 1.0) && leave[bar] != 1.0;
        states.emplace_back(isOn);
    }
    return states;
}

/// What such a state was over its bars.
struct OnOffSummary {
    std::size_t known = 0; ///< bars on which it can be said
    std::size_t on = 0;
    std::size_t turns = 0; ///< bars on which it came on after one on which it was off
};

inline OnOffSummary summaryOf(std::span<const std::optional<bool>> states)
{
    OnOffSummary summary;
    for (std::size_t bar = 0; bar < states.size(); ++bar) {
        const bool isOn = states[bar] == true;
        summary.known += states[bar] ? 1U : 0U;
        summary.on += isOn ? 1U : 0U;
        summary.turns += isOn && bar > 0 && states[bar - 1] == false ? 1U : 0U;
    }
    return summary;
}

} // namespace sieve::conditions
