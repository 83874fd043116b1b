#pragma once

#include "core/base/day.h"
#include "core/base/missing.h"
#include "core/base/result.h"
#include "core/language/renaming.h"

#include <cstdint>
#include <optional>
#include <string>
#include <string_view>

namespace sieve::watchlists {

/// Something that the person wants to be told when it happens.
struct Alert {
    enum class What {
        Level,  ///< the price reaches a level, from the side on which it stood
        Rule,   ///< a condition of the language comes true
        State,  ///< a plan comes into another state
        Change, ///< somebody comes to a list or goes
        Report, ///< a report is near
        Review, ///< a day of review is there
        Market, ///< a rule of the market turns
    };
    /// Whom it is about, where it is about stocks.
    struct About {
        std::string symbol = {}; ///< of one stock, that it bore on `Alert::since`; or
        std::int64_t list = 0;   ///< each stock on a list; neither: on all lists

        friend bool operator==(const About&, const About&) = default;
    };
    enum class Repeat { Once, EachCrossing, OnceADay };

    std::int64_t id = 0; ///< of the library
    What what = What::Rule;
    About about = {};
    Day since = Day::fromSerial(0); ///< it was set at the close of that day
    double level = missing;         ///< of Level: as traded on `since`
    std::string rule = {};          ///< of Rule: the condition; of Market: the rule's title
    int days = 0;                   ///< of Report: so many weekdays ahead
    Repeat repeat = Repeat::Once;
    int holdOff = 0;        ///< sessions in which it is not told again, of one stock
    std::string words = {}; ///< the person's own, told with it
    bool isOn = true;
    std::optional<Day> quietTo = {}; ///< set aside: nothing is told up to this day

    friend bool operator==(const Alert& a, const Alert& b); ///< two missing levels are equal
};

std::string_view whatName(Alert::What what);       ///< "level", "rule", …
std::string_view repeatName(Alert::Repeat repeat); ///< "once", "each crossing", "once a day"

/// Why an alert cannot be: a level without a stock or price, a rule without a condition. Whether
/// the condition checks is asked of the language. Empty: it can.
std::string faultOf(const Alert& alert);

/// The alert with what is renamed by its new name.
Alert withRenamed(Alert alert, const language::Renaming& renaming);

/// As TOML, and back; the id is not part of it.
/// Errors: located: no TOML, an unknown key, an alert with a fault.
std::string toToml(const Alert& alert);
Result<Alert> alertFromToml(std::string_view toml);

/// What an alert told: when, of whom, and what set it off.
struct Raised {
    std::int64_t id = 0;    ///< of the library
    std::int64_t alert = 0; ///< its id; the alert may be gone by now
    Day on = Day::fromSerial(0);
    std::string symbol = {}; ///< that the stock bore on the day; empty: it is about none
    std::string words = {};  ///< what happened, in a sentence
    double value = missing;  ///< that set it off
    bool isLate = false;     ///< the program did not run on that day
    bool isSeen = false;     ///< acknowledged by the person

    friend bool operator==(const Raised& a, const Raised& b); ///< two missing values are equal
};

std::string toToml(const Raised& raised);
Result<Raised> raisedFromToml(std::string_view toml);

} // namespace sieve::watchlists
