#pragma once

// What changed between two days, told to the person on one page:
//   brief.h       what it says            brief_page.h  as HTML, as plain text and as a sheet
//   evening_mail.h  the mail of an evening, with the brief and what alerts told

#include "core/base/progress.h"
#include "core/conditions/reading.h"
#include "core/library/work.h"
#include "core/watchlists/alert.h"

#include <cstdint>
#include <optional>
#include <span>
#include <string>
#include <vector>

namespace sieve::briefing {

/// The thing that a line is about, to go to.
struct Lead {
    enum class To { Nothing, Market, Group, Stock, List, Screen, Alerts, Agenda };
    To to = To::Nothing;
    std::string name = {}; ///< of a group or screen; a symbol as borne on the brief's day
    std::int64_t list = 0; ///< of a list, or the one on which a stock is: its id; 0: none

    friend bool operator==(const Lead&, const Lead&) = default;
};

/// One thing that changed.
struct Line {
    std::string subject; ///< whom it is about, in a word or two
    std::string words;
    std::optional<Day> on = {}; ///< when it changed or is due; empty: over the whole time
    Lead lead = {};

    friend bool operator==(const Line&, const Line&) = default;
};

struct Part {
    std::string title;
    std::vector<Line> lines;
    std::size_t more = 0; ///< lines that are left out, so that the page stays short
    Lead lead = {};       ///< where all of it stands

    friend bool operator==(const Part&, const Part&) = default;
};

/// No line says that something stayed as it was, and no part is empty.
struct Brief {
    std::string market;
    Day since = Day::fromSerial(0); ///< the session with which the day is compared
    Day day = Day::fromSerial(0);   ///< the session as of which it is
    std::vector<Part> parts;
    std::vector<std::string> faults = {}; ///< what could not be asked, and why

    friend bool operator==(const Brief&, const Brief&) = default;
};

/// How many lines a part has at most, and how far ahead the coming days are looked at, in days.
inline constexpr std::size_t mostLines = 12;
inline constexpr int daysAhead = 7;

/// What a brief is made of.
struct BriefQuestion {
    const library::Work& work;
    const conditions::Reading& reading;
    const conditions::Groups& groups;
    std::span<const watchlists::Raised> raised = {}; ///< what alerts told
};

/// The brief of the time after `since` up to `day`, all as known on its day. Days without a session
/// count as the session before them; where there is none, since the market's first one.
///
///   - The market: how its lines moved, and the horizons whose state is another one.
///   - The stance, the rules that turned, and the rule to leave the market.
///   - Your stocks: plans of entries that stand otherwise, on lists that are not archived.
///   - Alerts: what they told.
///   - Reported: the followed, and those on lists kept by hand, whose report became known.
///   - Coming days: reports, dividends, lock-up ends and reviews within `daysAhead` days; reviews
///     that fell due.
///   - Lists that a screen keeps: who came and who went.
///   - Groups that rose in rank by their change over a month: at least an eighth of the places (and
///     two), and into the better third.
///   - Your screens: how many stocks pass, before the best are taken, where it is another number.
/// Requires: a market with a session. Errors: Stopped.
Brief makeBrief(const BriefQuestion& question, engine::Evaluator& evaluator,
                const language::Names& names, Day since, Day day, const Progress& progress = {});

/// The session before the one of a day: since when a brief is told to somebody who reads every one.
std::optional<Day> sessionBefore(const market::Market& market, Day day);

} // namespace sieve::briefing
