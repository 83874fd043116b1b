#pragma once

#include "core/market/market.h"
#include "demo_market/dice.h"

#include <string>
#include <string_view>

namespace sieve::demo_market {

/// What a company's next report will tell, which only the generator knows.
struct Prospect {
    Day quarterEnd = Day::fromSerial(0);
    double earningsPerShare = 0.0;
    double revenue = 0.0;
    double yearEarningsPerShare = 0.0;
    Day yearEnd = Day::fromSerial(0);
    double surprise = 0.0; ///< of the margin, in deviations
    double payout = 0.0;   ///< share of the earnings that is paid out
};

/// Writes down what others know of a company while it lives: analysts' estimates and ratings, who
/// owns it, what is due, and the news.
class Chronicle {
public:
    /// `drift` is what owners do over the quarters: above 0 shares go from insiders and
    /// institutions to the public, below 0 the other way.
    Chronicle(market::InstrumentRecord& record, bool isFollowed, double drift, Dice dice);

    void newsFrom(Day day) { newsFrom_ = day; } ///< earlier news are not kept
    void expect(Day day, const Prospect& prospect, double error);
    void reported(Day day, market::CalendarTime when, Day quarterEnd, double surprise,
                  double price);
    void due(Day day, market::CalendarKind kind, market::CalendarTime when);
    void tell(Day day, int minute, std::string title, std::string summary);
    void moved(Day day, double change); ///< a large move that nothing else explains

private:
    void rate(Day day, double surprise, double price);
    void count(Day asOf, Day knownOn);

    market::InstrumentRecord& record_;
    bool isFollowed_;
    double drift_;
    Dice dice_;
    Day newsFrom_ = Day::fromSerial(0);
    double insiders_;
    double domestic_;
    double foreign_;
    double funds_;
    double hopedGrowth_; ///< by which analysts expect each next year to do better
    std::size_t told_ = 0;
};

} // namespace sieve::demo_market
