#pragma once

#include "core/watchlists/trade_plan.h"

#include <cstddef>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace sieve::watchlists {

/// What was decided about a candidate.
enum class Mark { Open, Kept, Dropped, Later };

std::string_view markName(Mark mark); ///< "open", "kept", "dropped", "later"
std::optional<Mark> markNamed(std::string_view name);

struct Card {
    std::string symbol; ///< that the stock bore on the day on which it was taken in hand
    Day takenOn = Day::fromSerial(0); ///< the as-of day of that
    Mark mark = Mark::Open;
    std::string source = {}; ///< the screen it came from
    std::string reason = {}; ///< why it was kept, dropped or set aside
    std::optional<TradePlan> plan = {};

    friend bool operator==(const Card&, const Card&) = default;
};

struct TrayCounts {
    std::size_t open = 0;
    std::size_t kept = 0;
    std::size_t dropped = 0;
    std::size_t later = 0;
};

/// The candidates in hand, in the order in which they are gone through.
class Tray {
public:
    Tray() = default;
    explicit Tray(std::vector<Card> cards) : cards_(std::move(cards)) {}

    const std::vector<Card>& cards() const { return cards_; }
    bool isEmpty() const { return cards_.empty(); }
    TrayCounts counts() const;

    void add(const std::vector<Card>& cards); ///< behind the others
    void clear() { cards_.clear(); }
    void mark(std::size_t place, Mark mark, const std::string& reason);
    void setPlan(std::size_t place, std::optional<TradePlan> plan);
    /// The next candidate after `place`, going round, on which nothing is decided yet; those set
    /// aside for later come last. Empty when all are decided.
    std::optional<std::size_t> nextUndecided(std::size_t place) const;

    friend bool operator==(const Tray&, const Tray&) = default;

private:
    std::vector<Card> cards_;
};

} // namespace sieve::watchlists
