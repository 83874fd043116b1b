#pragma once

#include "core/conditions/reading.h"
#include "core/watchlists/checklist.h"
#include "core/watchlists/plan_course.h"
#include "core/watchlists/stocks.h"

#include <array>
#include <optional>
#include <span>
#include <string>
#include <string_view>
#include <vector>

namespace sieve::watchlists {

// What became of ideas: of each stock that was put onto a list or dropped.

/// What was decided about it by the day.
enum class Decision { Kept, TakenOff, Dropped };
std::string_view decisionName(Decision decision); ///< "kept", "taken off", "dropped"

/// How a plan ended, had it been followed: bought when it said so, sold at its stop, its first
/// target or when its rule said to leave, whichever came first.
enum class PlanEnd { NoPlan, NotEntered, Open, Stop, Target, Rule };
std::string_view endName(PlanEnd end);

/// Spans after which a case is looked at, in bars of the stock.
inline constexpr std::array<int, 3> reviewSpans{5, 20, 60};

/// One idea and what became of it by a day. Gains are fractions of the price on the day on which
/// it came; splits are taken out, dividends and costs left out.
struct ReviewCase {
    std::size_t stock = 0;
    Day on = Day::fromSerial(0); ///< on which it was put onto the list, or taken in hand
    std::string list = {};       ///< empty: it was dropped
    std::string source = {};
    std::string reason = {};
    std::string category = {};
    std::string verdict = {};        ///< its words, by that day
    std::optional<int> checked = {}; ///< questions answered by yes, by that day
    std::string market = {};         ///< the state of the whole market over the medium horizon
    Decision decision = Decision::Kept;
    double gain = missing;                          ///< to the day of the review
    std::array<double, reviewSpans.size()> after{}; ///< missing: not over yet
    double best = missing;          ///< highest high on the way, at most the longest span on
    double worst = missing;         ///< lowest low, likewise
    double overAll = missing;       ///< gain less the median of all stocks since that day
    double overBenchmark = missing; ///< less that of the benchmark
    std::array<double, reviewSpans.size()> afterOverAll{};
    PlanEnd end = PlanEnd::NoPlan;
    double byPlan = missing;   ///< what following the plan gave; open ones to the day
    double byTrades = missing; ///< what the person's own trades gave, of what was paid
};

/// What is asked: lists (archived ones too, not those that screens keep), the tray for what was
/// dropped, the verdicts, the market's reading (null: its state is not told).
struct ReviewQuestion {
    std::span<const Shared<Watchlist>> lists;
    const Tray* tray = nullptr;
    Verdicts verdicts;
    const conditions::Reading* reading = nullptr;
    TradingTerms terms = {};
};

/// A case each, oldest first; those that came after the day, or whose stock the market does not
/// have, are left out. Errors: Stopped.
std::vector<ReviewCase> reviewOf(const ReviewQuestion& question, engine::Evaluator& evaluator,
                                 const language::Names& names, Day day,
                                 const Progress& progress = {});

/// By what cases are counted.
enum class ReviewBy {
    All,
    Source,
    Reason,
    Category,
    Verdict,
    Checked,
    Market,
    Decision,
    List,
    End
};
inline constexpr std::array reviewKinds{
    ReviewBy::All,     ReviewBy::Source, ReviewBy::Reason,   ReviewBy::Category, ReviewBy::Verdict,
    ReviewBy::Checked, ReviewBy::Market, ReviewBy::Decision, ReviewBy::List,     ReviewBy::End};
std::string_view reviewByName(ReviewBy by); ///< "all", "source", "reason", …

/// Cases that have something in common, summed up. Medians are of the cases that are known.
struct ReviewRow {
    std::string name; ///< empty: nothing was said
    std::vector<std::size_t> cases;
    std::size_t days = 0;    ///< different days on which they came
    double gained = missing; ///< share of them that stand above their price then
    double gain = missing;
    std::array<double, reviewSpans.size()> after{};
    std::array<double, reviewSpans.size()> afterOverAll{};
    double best = missing;
    double worst = missing;
    double overAll = missing;
    double overBenchmark = missing;
    double byPlan = missing;
    double byTrades = missing;
    /// Why little can be said: too few cases, or all of a few days; empty: enough of them.
    std::string warning = {};
};

/// The largest first, then by name.
std::vector<ReviewRow> rowsBy(std::span<const ReviewCase> cases, ReviewBy by);

inline constexpr std::size_t enoughCases = 30;
inline constexpr std::size_t enoughDays = 10;

} // namespace sieve::watchlists
