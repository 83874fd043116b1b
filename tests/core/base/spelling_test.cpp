#include "core/base/spelling.h"

#include "demo_market/dice.h"

#include <catch2/catch.hpp>
#include <string>

namespace sieve {

TEST_CASE("Spelling: slips between words", "[base]")
{
    const auto slips = [](std::string_view a, std::string_view b) {
        return slipsBetween(a, b, 99);
    };
    CHECK(slips("close", "close") == 0);
    CHECK(slips("", "rsi") == 3);
    CHECK(slips("close", "closs") == 1);
    CHECK(slips("cloes", "close") == 1); // two neighbours swapped
    CHECK(slips("volme", "volume") == 1);
    CHECK(slips("ca", "abc") == 3); // what was swapped is not changed again
    CHECK(slips("dividend", "divided") == 1);
}

TEST_CASE("Spelling: the same either way, and no more than enough", "[base]")
{
    demo_market::Dice dice(static_cast<std::uint64_t>(GENERATE(range(1, 101))));
    const auto word = [&dice] {
        std::string letters(dice.below(9), ' ');
        for (char& letter : letters)
            letter = static_cast<char>('a' + dice.below(3));
        return letters;
    };
    const std::string a = word();
    const std::string b = word();
    const std::size_t all = slipsBetween(a, b, 99);
    INFO(a << ' ' << b);
    CHECK(slipsBetween(b, a, 99) == all);
    CHECK((all == 0) == (a == b));
    CHECK(all <= std::max(a.size(), b.size()));
    for (std::size_t enough = 1; enough <= 9; ++enough)
        CHECK(slipsBetween(a, b, enough) == std::min(all, enough));
}

} // namespace sieve
