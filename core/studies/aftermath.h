#pragma once

#include "core/studies/occurrences.h"

#include <array>
#include <optional>
#include <span>

namespace sieve::studies {

/// What is asked of each case. It is bought at the open of the bar after the one at whose close the
/// condition was known.
struct Terms {
    static constexpr std::size_t spanCount = 3;

    std::array<int, spanCount> spans{5, 20, 60}; ///< bars after which its change is told
    double stop = 0.08;                          ///< so far below the price it is sold
    double target = 0.20;                        ///< so far above it, too
    int within = 60;                             ///< bars after which it is sold anyway

    friend bool operator==(const Terms&, const Terms&) = default;
};

/// How a case ended by stop, target and time.
enum class End {
    Reached, ///< the target
    Stopped,
    Neither, ///< within the time, or by the day on which the stock was delisted
    Open     ///< not yet by the as-of day
};
std::string_view endName(End end); ///< "reached", "stopped", "neither", "open"

/// What followed one occurrence.
struct Aftermath {
    Occurrence of;
    Day day = Day::fromSerial(0); ///< at whose close the condition was known
    double bought = missing;      ///< the price, on the footing of the as-of day
    std::array<double, Terms::spanCount> changes{missing, missing, missing}; ///< a span
    /// The mean of the same over all stocks that traded on the day.
    std::array<double, Terms::spanCount> others{missing, missing, missing};
    End end = End::Open;
    int bars = 0;               ///< it was held, up to its end or the as-of day
    double result = missing;    ///< change from the price to what it was sold at, or is worth now
    double worst = missing;     ///< change to the lowest price while it was held; 0 or less
    bool isIndependent = false; ///< none of the same stock was still held within the time
};

/// What followed each of them, as known on a day, in their order.
/// `changes`: of the close so many bars later, the bar after the occurrence counted as the first;
///            of a stock delisted before that, of its last close; missing where the day has not
///            come.
/// Exits:     a stop is looked at before a target on the same bar; a bar that opens beyond either
/// is
///            sold at its open.
/// Missing:   `bought` and all with it where there is no next bar yet.
/// Requires:  occurrences by stock and bar; spans and time from 1; a stop from 0 to 1 and a target
///            above 0. Errors: Stopped.
std::vector<Aftermath> aftermathOf(std::span<const Occurrence> occurrences, const Terms& terms,
                                   const market::Market& market, Day day,
                                   const Progress& progress = {});

/// The same cases by another stop, target and time: what does not depend on them is not asked
/// again. Requires: cases of aftermathOf for that day and market, and the same spans. Errors:
/// Stopped.
std::vector<Aftermath> withOtherExits(std::span<const Aftermath> cases, const Terms& terms,
                                      const market::Market& market, Day day,
                                      const Progress& progress = {});

/// The closes around a case, each against the price at which it was bought: from so many bars
/// before the next one on. The value at `before` is that of the bar of the purchase.
/// Missing: bars that are not there, and all where it was not bought yet.
std::vector<double> pathOf(const Aftermath& followed, int before, int after,
                           const market::Market& market, Day day);

/// Many cases in sum.
struct Summary {
    struct Span {
        std::size_t known = 0;
        double mean = missing;
        double lowerQuarter = missing;
        double median = missing;
        double upperQuarter = missing;
        double shareUp = missing;
        double others = missing; ///< mean of `Aftermath::others` over the same cases
    };
    std::size_t cases = 0;
    std::size_t independent = 0;
    /// Stretches of time: cases of many stocks in the same weeks tell of one and the same market.
    std::size_t periods = 0;
    std::array<Span, Terms::spanCount> spans;
    std::size_t reached = 0;
    std::size_t stopped = 0;
    std::size_t neither = 0;
    std::size_t open = 0;
    double meanResult = missing; ///< of those that ended
    double meanBars = missing;   ///< likewise
    double medianWorst = missing;
    double worst = missing;
};

/// In sum over all of them, or those of one stock.
Summary summaryOf(std::span<const Aftermath> cases, const Terms& terms,
                  std::optional<std::size_t> stock = std::nullopt);

} // namespace sieve::studies
