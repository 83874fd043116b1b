#pragma once

#include "core/studies/following.h"
#include "core/studies/neighbours.h"
#include "core/studies/portfolio.h"
#include "core/studies/standings.h"

#include <span>
#include <string>
#include <vector>

namespace sieve::studies {

/// The figure that a caution weakens.
enum class About { Cases, Mean, Excess, Chance, Gain, Fall, Trades, Costs, Market };

/// What weakens a figure, as one plain sentence.
struct Caution {
    About about = About::Cases;
    std::string words;

    friend bool operator==(const Caution&, const Caution&) = default;
};

/// Fewer cases, trades or separate periods say too little.
inline constexpr std::size_t fewCases = 30;

/// What weakens the answer at one horizon; empty where nothing does.
std::vector<Caution> cautionsOf(const Following& following, std::size_t horizon);
/// What weakens the standing of one screen.
std::vector<Caution> cautionsOf(const Standings& standings, std::size_t screen);
std::vector<Caution> cautionsOf(const Portfolio& portfolio, const PortfolioTold& told);

/// That the idea was tried in so many variants, this one among them, and what remains of the answer
/// then (deflation.h); empty for a single one.
std::vector<Caution> cautionsOfTries(const Following& following, std::size_t horizon,
                                     std::size_t tries);
/// `sharpes`: the daily ratio of each variant, missing where it has none.
std::vector<Caution> cautionsOfTries(const Portfolio& portfolio, std::span<const double> sharpes);

/// What the neighbours of a screen's limits say of it.
std::vector<Caution> cautionsOf(const Neighbours& neighbours);

/// Periods that share no session: starts whose holdings overlap tell of one and the same time.
std::size_t separatePeriods(const Standings& standings);

} // namespace sieve::studies
