#include "demo_market/dice.h"

namespace sieve::demo_market {

std::uint64_t Dice::bits()
{
    state_ += 0x9E3779B97F4A7C15ULL;
    std::uint64_t x = state_;
    x = (x ^ (x >> 30U)) * 0xBF58476D1CE4E5B9ULL;
    x = (x ^ (x >> 27U)) * 0x94D049BB133111EBULL;
    return x ^ (x >> 31U);
}

double Dice::bell()
{
    double sum = -6.0;
    for (int i = 0; i < 12; ++i)
        sum += share();
    return sum;
}

Dice Dice::fork(std::uint64_t name) const
{
    Dice other(state_ ^ (name * 0xD1B54A32D192ED03ULL + 0x2545F4914F6CDD1DULL));
    other.bits();
    return other;
}

} // namespace sieve::demo_market
