#pragma once

// How the market is read, line by line:
//   market_book.h  the person's rules          line.h     composites and indexes
//   trend_state.h  rising, sideways, falling   panes.h    breadth and other series of a line
//   timing.h       rules on and off            stance.h   how much money may be at work
//   divergence.h   price against breadth       groups.h   sectors and industries, ranked
//   reading.h      all of it for one market

#include "core/base/result.h"
#include "core/language/renaming.h"

#include <array>
#include <string>
#include <string_view>
#include <vector>

namespace sieve::conditions {

enum class Horizon { Short, Medium, Long };
inline constexpr std::array horizons{Horizon::Short, Horizon::Medium, Horizon::Long};
std::string_view horizonName(Horizon horizon); ///< "short", "medium", "long"

/// When a line counts as rising or falling over a horizon: conditions of the language, one to enter
/// a state and one to leave it. Where the latter is empty a state ends when it would not be
/// entered. One state at a time: it lasts until its own end; where both would be entered at once it
/// is neither.
struct TrendRule {
    std::string rising;
    std::string risingEnds = {};
    std::string falling = {};
    std::string fallingEnds = {};

    friend bool operator==(const TrendRule&, const TrendRule&) = default;
};

/// A rule by which money may be at work: on from the day on which `enter` holds to the day on which
/// `leave` does (empty: while `enter` holds).
struct TimingRule {
    std::string title;
    std::string enter;
    std::string leave = {};
    double share = 0.0;       ///< of the money, in percent, that may be at work while it is on
    bool standsAside = false; ///< instead: no money at all while it is on

    friend bool operator==(const TimingRule&, const TimingRule&) = default;
};

/// All rules and panes. They are kept as text, so that one can be kept before it is right.
struct MarketBook {
    std::array<TrendRule, 3> trends; ///< a horizon, in the order of `horizons`
    std::vector<TimingRule> rules;
    std::vector<std::string> panes; ///< figures of the language that are drawn under a line

    friend bool operator==(const MarketBook&, const MarketBook&) = default;
};

/// The book with a field, screen or list by another name in all its texts.
MarketBook withRenamed(MarketBook book, const language::Renaming& renaming);

/// Whether any of its texts names that field, screen or list.
bool names(const MarketBook& book, language::Renaming::What what, std::string_view name);

/// The rules that the program brings.
const MarketBook& standardBook();

/// The book as TOML. Reading it gives the book again.
std::string toToml(const MarketBook& book);
/// Errors: located: no TOML, an unknown key, a horizon that is missing or named twice, a share that
///         is not from 0 to 100, a rule without a title or condition.
Result<MarketBook> bookFromToml(std::string_view toml);

} // namespace sieve::conditions
