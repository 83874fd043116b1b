#pragma once

#include "core/conditions/reading.h"
#include "core/studies/following.h"
#include "core/studies/standings.h"

#include <string>
#include <vector>

namespace sieve::studies {

/// What the market was on each of its days, in words; empty where nobody could say.
struct DayNames {
    std::vector<Day> days;
    std::vector<std::string> names;
};
/// The state of the whole market at the medium horizon: "rising", "sideways", "falling".
DayNames statesOf(const conditions::Reading& reading);
/// "40 %": the share of the money that the person's rules have at work.
DayNames stancesOf(const conditions::Reading& reading);

/// The different names, in order, and for each start of standings its place among them (their
/// number where the day has none).
struct StartNames {
    std::vector<std::string> names;
    std::vector<std::size_t> places;
};
StartNames namesOfStarts(const Standings& standings, const DayNames& days);

} // namespace sieve::studies
