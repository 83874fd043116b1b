#include "core/feed/messages.h"

#include "tests/core/made_market.h"

#include <catch2/catch.hpp>
#include <cmath>
#include <limits>
#include <random>

namespace sieve::feed {

namespace {

Moment moment(const char* text)
{
    return *Moment::parse(text);
}

std::string faultOf(std::string_view line)
{
    const auto read = messageOf(line);
    return read ? "none" : sentence(read.error());
}

const std::string bar = R"({"type":"bar","number":7,"symbol":"VRRA","minute":"2026-09-30T14:05Z",)"
                        R"("open":10.1,"high":10.4,"low":10.0,"close":10.3,"volume":1200})";

std::string barWith(const std::string& part, const std::string& other)
{
    std::string made = bar;
    made.replace(made.find(part), part.size(), other);
    return made;
}

} // namespace

TEST_CASE("Feed: moments are read and written, and nothing else is one", "[feed]")
{
    const Moment at = moment("2026-09-30T14:05:59Z");
    CHECK(at.iso() == "2026-09-30T14:05:59Z");
    CHECK(at.minute().iso() == "2026-09-30T14:05Z");
    CHECK(Moment::fromSerial(-1).iso() == "1969-12-31T23:59:59Z");
    CHECK(Moment::of(at.minute(), 59) == at);
    for (const char* text :
         {"", "2026-09-30T14:05Z", "2026-09-30T14:05:60Z", "2026-02-30T14:05:00Z",
          "2026-09-30 14:05:00Z", "2026-09-30T14:05:00+", "2026-09-30T24:05:00Z",
          "2026-09-30T14:05:0xZ", "2026-09-30T14:05:000Z"})
        CHECK_FALSE(Moment::parse(text));
}

TEST_CASE("Feed: each message goes out as a line and comes back", "[feed]")
{
    Bar corrected{9,
                  "VÉRA \"x\"",
                  moment("2026-09-30T14:05:00Z").minute(),
                  0.1 + 0.2,
                  1.0 / 3.0 + 1,
                  1e-7,
                  0.30000000000000004,
                  1e15};
    corrected.isCorrection = true;
    Bar late = corrected;
    late.isLate = true;
    const Message all[] = {
        Hello{1, "Vellan demo market", "a-1", test::day("2026-09-30"),
              moment("2026-09-30T08:00:00Z"), moment("2026-09-30T16:30:00Z"),
              moment("2026-09-30T08:00:01Z"), 60, true, 12},
        corrected,
        late,
        Last{10, "VRRA", moment("2026-09-30T14:05:07Z"), 12.34},
        End{11},
        Clock{moment("2026-09-30T14:05:07Z"), 600, false, 11},
        Missed{3, 9},
        Refusal{"a line is no JSON object"},
        Want{{"VRRA", "ÉÉ"}},
        Want{},
        Resume{"a-1", 0},
        SetSpeed{600},
        Pause{},
        Go{},
        Seek{moment("2026-09-30T10:00:00Z")},
        Other{"greeting"},
    };
    for (const Message& message : all) {
        std::string line = lineOf(message);
        INFO(line);
        REQUIRE(line.ends_with('\n'));
        CHECK(std::ranges::count(line, '\n') == 1);
        line.pop_back();
        const auto read = messageOf(line);
        REQUIRE(read);
        CHECK(*read == message); // figures to the last bit
    }
}

TEST_CASE("Feed: what is no message is told", "[feed]")
{
    CHECK(faultOf(bar) == "none");
    CHECK(faultOf("").find("no JSON object") != std::string::npos);
    CHECK(faultOf("[1]").find("no JSON object") != std::string::npos);
    CHECK(faultOf("{\"type\":\"bar\"").find("no JSON object") != std::string::npos);
    CHECK(faultOf("{}").find("no type") != std::string::npos);
    CHECK(faultOf("{\"type\":3}").find("no type") != std::string::npos);
    CHECK(faultOf("{\"type\":\"bar\"}").find("'number' is missing") != std::string::npos);
    CHECK(faultOf(barWith("7", "-7")).find("'number'") != std::string::npos);
    CHECK(faultOf(barWith("7", "1e30")).find("'number'") != std::string::npos);
    CHECK(faultOf(barWith("\"VRRA\"", "null")).find("'symbol'") != std::string::npos);
    CHECK(faultOf(barWith("14:05Z", "14:05:00Z")).find("'minute'") != std::string::npos);
    CHECK(faultOf(barWith("10.1", "null")).find("'open' is no number") != std::string::npos);
    CHECK(faultOf(barWith("10.1", "NaN")).find("no JSON object") != std::string::npos);
    CHECK(faultOf(barWith("10.1", "1e999")).find("no") != std::string::npos);
    CHECK(faultOf(barWith("10.1", "-3")).find("'open' is no price") != std::string::npos);
    CHECK(faultOf(barWith("1200", "-1")).find("'volume'") != std::string::npos);
    CHECK(faultOf(barWith("10.4", "10.2")).find("outside of low and high") != std::string::npos);
    CHECK(faultOf(R"({"type":"speed","speed":601})").find("1 to 600") != std::string::npos);
    CHECK(faultOf(R"({"type":"speed","speed":0})").find("1 to 600") != std::string::npos);
    CHECK(faultOf(R"({"type":"missed","from":5,"to":4})").find("before") != std::string::npos);
    CHECK(faultOf(R"({"type":"want","symbols":[1]})").find("'symbols'") != std::string::npos);
    CHECK(faultOf(R"({"type":"want","symbols":"VRRA"})").find("'symbols'") != std::string::npos);
    CHECK(faultOf(R"({"type":"seek","to":"noon"})").find("'to' is no time") != std::string::npos);
    CHECK(faultOf(R"({"type":"clock","at":"2026-09-30T14:05:07Z","speed":1,"paused":1,"number":1})")
              .find("'paused'") != std::string::npos);
    CHECK(faultOf(std::string(longestLine, ' ')).find("more than") != std::string::npos);
    CHECK(faultOf(std::string(100'000, '[')).find("no JSON object") != std::string::npos);
    // Parts that are not known are left out, so that the protocol can grow.
    CHECK(faultOf(R"({"type":"go","why":"because"})") == "none");
}

TEST_CASE("Feed: damaged lines are refused or read, never more", "[feed]")
{
    std::mt19937 random(5);
    std::size_t refused = 0;
    for (int round = 0; round < 20'000; ++round) {
        std::string line = bar;
        for (unsigned damage = 0; damage <= random() % 3; ++damage)
            line[random() % line.size()] = static_cast<char>(random() % 256);
        line.resize(random() % 4 == 0 ? random() % line.size() : line.size());
        const auto read = messageOf(line);
        refused += read ? 0U : 1U;
        if (read && std::holds_alternative<Bar>(*read)) {
            const Bar& told = std::get<Bar>(*read);
            CHECK((std::isfinite(told.close) && told.close > 0.0));
        }
    }
    CHECK(refused > 5'000);
}

} // namespace sieve::feed
