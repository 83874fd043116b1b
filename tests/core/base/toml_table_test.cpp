#include "core/base/toml_table.h"

#include <catch2/catch.hpp>
#include <random>

namespace sieve {

namespace {

std::string readBack(const std::string& toml)
{
    const auto read = readToml(toml, "", [](const toml::table& table) {
        return valueOr<std::string>(table, "text", "nothing");
    });
    return read ? *read : sentence(read.error());
}

} // namespace

TEST_CASE("TOML: any text comes back as it was", "[base]")
{
    const std::string pieces[] = {"'",    "''", "'''", "\"",   "\"\"\"", "\\", "\n",
                                  "\r\n", "\r", "\t",  " ",    "#",      "=",  "[x]",
                                  "a",    "é",  "🐟",   "\x01", "\x7f"};
    std::mt19937 random(11);
    for (int round = 0; round < 20'000; ++round) {
        std::string text;
        for (std::size_t length = random() % 7; length > 0; --length)
            text += pieces[random() % std::size(pieces)];
        const std::string toml = "text = " + quotedToml(text) + "\nmore = 1\n";
        INFO(toml);
        REQUIRE(readBack(toml) == text);
    }
}

TEST_CASE("TOML: a file as a text within a file, three deep", "[base]")
{
    std::string inner =
        "text = " + quotedToml(std::string("two\nlines of \"x\" and '''y'''")) + "\n";
    for (int depth = 0; depth < 3; ++depth)
        inner = "text = " + quotedToml(inner) + "\n";
    for (int depth = 0; depth < 3; ++depth)
        inner = readBack(inner);
    CHECK(readBack(inner) == "two\nlines of \"x\" and '''y'''");
}

} // namespace sieve
