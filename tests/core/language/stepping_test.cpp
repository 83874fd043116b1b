#include "core/language/stepping.h"

#include <catch2/catch.hpp>

namespace sieve::language {

TEST_CASE("Stepping: the number at the cursor, by its last place, never below 0", "[language]")
{
    const auto stepped = [](const char* text, std::size_t at, int by) {
        return withNumberStepped(text, at, by).value_or("none");
    };
    CHECK(stepped("sma(close, 50)", 12, 1) == "sma(close, 51)");
    CHECK(stepped("sma(close, 50)", 0, -1) == "sma(close, 49)"); // the nearest
    CHECK(stepped("bollinger(20, 2.0)", 16, 1) == "bollinger(20, 2.1)");
    CHECK(stepped("bollinger(20, 2.0)", 11, 1) == "bollinger(21, 2.0)");
    CHECK(stepped("close > 0.05", 12, -1) == "close > 0.04");
    CHECK(stepped("margin > 9%", 10, 1) == "margin > 10%");
    CHECK(stepped("lag(close, 0)", 11, -1) == "lag(close, 0)");
    CHECK(stepped("volume > 5M", 9, 1) == "volume > 6M");
    CHECK(stepped("close", 2, 1) == "none");
    CHECK(stepped("\"5", 1, 1) == "none"); // no expression
    CHECK(stepped("", 0, 1) == "none");
}

} // namespace sieve::language
