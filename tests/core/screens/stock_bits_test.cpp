#include "core/screens/stock_bits.h"

#include <catch2/catch.hpp>
#include <vector>

namespace sieve::screens {

namespace {

std::vector<std::size_t> placesOf(const StockBits& bits)
{
    std::vector<std::size_t> places;
    bits.each([&](std::size_t place) { places.push_back(place); });
    return places;
}

} // namespace

TEST_CASE("Stock bits: meet, join and part, whatever the number of stocks", "[screens]")
{
    const auto stocks = GENERATE(std::size_t{0}, std::size_t{1}, std::size_t{63}, std::size_t{64},
                                 std::size_t{65}, std::size_t{1000});
    const StockBits even(stocks, [](std::size_t place) { return place % 2 == 0; });
    const StockBits third(stocks, [](std::size_t place) { return place % 3 == 0; });
    std::vector<std::size_t> both;
    std::vector<std::size_t> either;
    std::vector<std::size_t> evenOnly;
    for (std::size_t place = 0; place < stocks; ++place) {
        if (place % 6 == 0)
            both.push_back(place);
        if (place % 2 == 0 || place % 3 == 0)
            either.push_back(place);
        if (place % 2 == 0 && place % 3 != 0)
            evenOnly.push_back(place);
    }
    CHECK(placesOf(even & third) == both);
    CHECK(placesOf(even | third) == either);
    CHECK(placesOf(even - third) == evenOnly);
    CHECK((even | third).count() == either.size());
    CHECK((even - even).count() == 0);
}

} // namespace sieve::screens
