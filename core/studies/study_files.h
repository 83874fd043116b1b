#pragma once

#include "core/studies/following.h"
#include "core/studies/portfolio.h"
#include "core/studies/standings.h"

#include <functional>
#include <optional>
#include <string>
#include <string_view>

namespace sieve::studies {

/// Later than every day of a market: what a question that names no end asks to.
Day lastDay();

/// The person's or a ready screen of that name.
using ScreenNamed = std::function<std::optional<screens::Screen>(std::string_view)>;

/// A question as TOML, the form of files (docs/studies.md). What it does not say is as in
/// FollowingQuestion; `screen` is a name, or else the criteria stand in the file.
/// Errors: located: no TOML, a key that is unknown or of another type, no such screen.
Result<FollowingQuestion> followingFromToml(std::string_view toml, const ScreenNamed& screenNamed);
/// Reading it gives the question again; the screen's criteria stand in it.
std::string toToml(const FollowingQuestion& question);

/// From when to when screens are put to the market: what becomes a StandingsQuestion once a market
/// is open (questionOf).
struct StandingsTerms {
    std::vector<std::string> screens; ///< by name; empty: all, or those that are written out
    /// Whole screens, so that the file asks the same when one of that name has changed.
    std::vector<screens::Screen> writtenOut = {};
    std::optional<Day> from;
    std::optional<Day> to;
    bool isOneStart = false;   ///< the first day alone
    std::optional<int> newest; ///< starts that many sessions before the end, in place of `from`
    int every = 1;             ///< sessions from start to start
    std::optional<int> held;
    int best = 0;
    std::string weights;
    Dividends dividends = Dividends::Reinvested;
    int picks = 199;
    std::uint64_t seed = 1;

    friend bool operator==(const StandingsTerms&, const StandingsTerms&) = default;
};
Result<StandingsTerms> standingsFromToml(std::string_view toml);
std::string toToml(const StandingsTerms& terms);
/// A rule with its [[step]]s, [rebalancing], [exits] and [trading]; a step's screen is named or
/// stands in it.
Result<PortfolioRule> portfolioFromToml(std::string_view toml, const ScreenNamed& screenNamed);
std::string toToml(const PortfolioRule& rule);
/// As known on a day; without `from` or `newest` over the newest 250 sessions.
StandingsQuestion questionOf(const StandingsTerms& terms, std::vector<screens::Screen> screens,
                             const market::Market& market, Day day);

} // namespace sieve::studies
