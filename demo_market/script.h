#pragma once

#include <cstddef>
#include <map>
#include <string_view>
#include <vector>

namespace sieve::demo_market {

/// A stretch of sessions over which a price goes straight to a level.
struct Leg {
    int sessions = 1;
    double to = 1.0;     ///< multiple of the price at which the script begins
    double volume = 1.0; ///< multiple of the usual
};

/// A part of a stock's life that is written out, so that it is there to be found: a shape of its
/// chart, a gap, a halt.
struct Script {
    std::string_view what; ///< for the map in docs/demo-market.md
    std::vector<Leg> legs;
    double noise = 0.004;        ///< of a session, about the legs
    std::map<int, double> gaps;  ///< overnight jumps by session of the script
    int marked = 0;              ///< the session that the map names
    std::vector<int> halts = {}; ///< sessions without trade
    bool isReport = false;       ///< a report before the open of the marked session makes its gap

    int sessions() const;
    double levelAt(int session) const;
    double volumeAt(int session) const;
};

/// The shapes that the demo market holds, one stock each.
const std::vector<Script>& scripts();

} // namespace sieve::demo_market
