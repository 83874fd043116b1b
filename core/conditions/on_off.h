#pragma once

#include "core/base/missing.h"

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

} // namespace sieve::conditions
