#pragma once

#include "core/base/day.h"
#include "core/base/missing.h"
#include "core/base/result.h"
#include "core/watchlists/trade_plan.h"

#include <array>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace sieve::watchlists {

/// A sign that a person gives an entry, told apart by its shape.
enum class Sign { None, Circle, Square, Triangle, Diamond, Cross };
inline constexpr std::array signs{Sign::None,     Sign::Circle,  Sign::Square,
                                  Sign::Triangle, Sign::Diamond, Sign::Cross};
std::string_view signName(Sign sign); ///< "none", "circle", …
std::optional<Sign> signNamed(std::string_view name);

/// What the person wrote on a day, with simple markup (Markdown without HTML).
struct Note {
    Day on = Day::fromSerial(0);
    std::string text;

    friend bool operator==(const Note&, const Note&) = default;
};

/// Shares that were bought or sold, as counted and priced on that day, in the stock's currency.
struct Trade {
    Day on = Day::fromSerial(0);
    double price = missing;
    double shares = 0.0; ///< below zero: sold
    std::string why = {};

    friend bool operator==(const Trade&, const Trade&) = default;
};

/// What a person keeps with an entry beside its plan. All may be empty.
struct EntryPage {
    std::string category; ///< of own naming, such as "breakout"
    std::vector<std::string> tags = {};
    Sign sign = Sign::None;
    std::optional<Day> reviewOn = {};
    std::vector<Note> notes = {};            ///< in the order in which they were written
    std::vector<std::string> links = {};     ///< addresses
    std::vector<Trade> trades = {};          ///< by day
    std::vector<TradePlan> formerPlans = {}; ///< by day, each before the one in force
    std::string picture =
        {}; ///< of the chart as it was: a file's name among the library's pictures

    friend bool operator==(const EntryPage&, const EntryPage&) = default;
};

/// A stock on a list. What it gained since is computed, never kept.
struct Entry {
    std::string symbol;               ///< that it bore on the day on which it was added
    Day addedOn = Day::fromSerial(0); ///< the as-of day on which it was added
    double priceThen = missing;       ///< close of that day as traded then
    std::string reason = {};
    std::string source = {}; ///< the screen or list it came from; empty: by hand
    std::optional<TradePlan> plan = {};
    EntryPage page = {};

    friend bool operator==(const Entry& a,
                           const Entry& b); ///< a missing price equals a missing one
};

/// Whether the person wrote anything to it, so that it must not be lost.
bool isWrittenTo(const Entry& entry);

/// Gives the entry another plan, or none. The one before stays among the former ones if it was made
/// on an earlier day, so that what it told until then stays true.
void setPlan(Entry& entry, std::optional<TradePlan> plan);

/// The plan that held on a day: the newest by it. Empty: there was none, or it was removed since.
std::optional<TradePlan> planInForce(const Entry& entry, Day day);

/// Puts a trade among the others, by day. Errors: why it cannot be (no price, no shares, more sold
/// than there are on that day or later); empty: it is done.
std::string addTrade(Entry& entry, Trade trade);

/// Tags as a person types them, parted by commas: tidied, each once.
std::vector<std::string> tagsIn(std::string_view text);

/// Why a text is no link that may be opened: only http, https and mailto are, without spaces or
/// control characters. Empty: it is one.
std::string faultOfLink(std::string_view link);

/// As TOML, and back. A page with nothing on it is an empty text.
/// Errors: located: no TOML, an unknown key, a note or trade without a day, a plan with a fault.
std::string toToml(const EntryPage& page);
Result<EntryPage> entryPageFromToml(std::string_view toml);

} // namespace sieve::watchlists
