#pragma once

#include "core/base/missing.h"

#include <cstddef>
#include <cstdint>
#include <optional>
#include <span>
#include <vector>

namespace sieve::studies {

/// Numbers by chance from a stated seed: the same on every machine and with any number of threads.
/// Source: SplitMix64 (Steele, Lea, Flood 2014, "Fast splittable pseudorandom number generators").
class Chance {
public:
    explicit Chance(std::uint64_t seed) : state_(seed) {}
    /// One for each of many parts that are worked out in any order.
    Chance(std::uint64_t seed, std::uint64_t part) : state_(mixed(seed ^ mixed(part + 1))) {}

    std::uint64_t next() { return mixed(state_ += 0x9E37'79B9'7F4A'7C15ULL); }
    /// From 0 to `count` - 1. Requires: count from 1.
    std::size_t below(std::size_t count)
    {
        __extension__ using Wide = unsigned __int128;
        return static_cast<std::size_t>((static_cast<Wide>(next()) * count) >> 64U);
    }

private:
    static std::uint64_t mixed(std::uint64_t value)
    {
        value = (value ^ (value >> 30U)) * 0xBF58'476D'1CE4'E5B9ULL;
        value = (value ^ (value >> 27U)) * 0x94D0'49BB'1331'11EBULL;
        return value ^ (value >> 31U);
    }

    std::uint64_t state_;
};

/// Places 0 to count - 1 in an order by chance.
std::vector<std::uint32_t> shuffled(std::size_t count, Chance& chance);

/// One picking of a test against chance: another stock in place of each one, the same on all of its
/// days; on a day on which that one was not there, a third one.
class StandIns {
public:
    /// Requires: `eligible` lives on.
    StandIns(std::span<const std::uint32_t> eligible, Chance chance)
        : eligible_(eligible), chance_(chance), order_(shuffled(eligible.size(), chance_))
    {
    }
    /// For the stock at a place among the eligible; nothing where none of many tries `isThere`.
    template <class IsThere>
    std::optional<std::uint32_t> pick(std::size_t place, const IsThere& isThere)
    {
        if (const std::uint32_t first = eligible_[order_[place]]; isThere(first))
            return first;
        for (int tries = 0; tries < 200; ++tries)
            if (const std::uint32_t next = eligible_[chance_.below(eligible_.size())];
                isThere(next))
                return next;
        return std::nullopt;
    }

private:
    std::span<const std::uint32_t> eligible_;
    Chance chance_;
    std::vector<std::uint32_t> order_;
};

struct Interval {
    double low = missing;
    double high = missing;

    friend bool operator==(const Interval&, const Interval&) = default;
};

/// What the cases of one session add up to.
struct DaySum {
    double cases = 0.0;
    double change = 0.0; ///< the sum of their changes
    double up = 0.0;     ///< how many of them gained
    double others = 0.0; ///< the sum, a case, of the mean change of all stocks on that day
};

/// How sure sums over cases are, when days next to each other tell much the same.
struct Resampled {
    Interval mean;    ///< of the change, 95 of 100
    Interval shareUp; ///< likewise
    Interval excess;  ///< of the change less that of others
    double deviationOfMean = missing;
};

/// Draws stretches of `block` sessions in a row with replacement (the last is followed by the
/// first) until as many sessions are drawn as there are, so many times.
/// Source:   circular block bootstrap, Politis and Romano 1992; intervals are percentiles.
/// Missing:  all of it where fewer than two sessions have cases.
/// Requires: a sum a session, block from 1, times from 1.
Resampled resampled(std::span<const DaySum> sessions, std::size_t block, int times,
                    std::uint64_t seed);

} // namespace sieve::studies
