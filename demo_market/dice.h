#pragma once

#include <cstddef>
#include <cstdint>

namespace sieve::demo_market {

/// Random numbers that are the same on every machine: integers by splitmix64 (Steele, Lea and
/// Flood, 2014), and from them only sums, products and quotients of doubles, which IEEE 754 fixes
/// to the last bit. No function of a mathematical library takes part.
class Dice {
public:
    explicit Dice(std::uint64_t seed) : state_(seed) {}

    std::uint64_t bits();
    /// From 0 up to, and not including, 1.
    double share() { return static_cast<double>(bits() >> 11U) / 9007199254740992.0; }
    double between(double least, double most) { return least + (most - least) * share(); }
    std::size_t below(std::size_t count) { return static_cast<std::size_t>(bits() % count); }
    bool chance(double probability) { return share() < probability; }
    /// Nearly normal with mean 0 and deviation 1: twelve shares less six (Irwin and Hall).
    double bell();
    /// A stream of its own that does not depend on how much this one is used later.
    Dice fork(std::uint64_t name) const;

private:
    std::uint64_t state_;
};

} // namespace sieve::demo_market
