#include "core/screens/screen_text.h"

#include "core/screens/starter.h"

#include <catch2/catch.hpp>

namespace sieve::screens {

namespace {

std::vector<std::string> textsOf(std::string_view text)
{
    const auto read = criteriaFromText(text);
    REQUIRE(read);
    std::vector<std::string> texts;
    for (const Criterion& criterion : read->criteria)
        texts.push_back((criterion.isOn ? "" : "off ") + criterion.text +
                        (criterion.comment.empty() ? "" : " | " + criterion.comment));
    return texts;
}

} // namespace

TEST_CASE("Screen text: a criterion a line, with its comment, and back", "[screens]")
{
    const std::vector<Criterion> criteria{{"rsi(close, 14) <= 65", false},
                                          {"close > sma(close, 150)", true, "rises"},
                                          {"a > 1 or b > 2", true, "two\nlines"},
                                          {"close > 1 and volume > 2", true}};
    const std::string text = criteriaToText(criteria);
    CHECK(text == "# off: rsi(close, 14) <= 65\n"
                  "# rises\nclose > sma(close, 150)\n"
                  "# two\n# lines\nand (a > 1 or b > 2)\n"
                  "and (close > 1 and volume > 2)\n");
    CHECK(textsOf(text) ==
          std::vector<std::string>{"off rsi(close, 14) <= 65", "close > sma(close, 150) | rises",
                                   "a > 1 or b > 2 | two lines", "close > 1 and volume > 2"});
    CHECK(textsOf("(close > 1 and volume > 2)\n") ==
          std::vector<std::string>{"close > 1 and volume > 2"});
    CHECK(textsOf("close > 1 or volume > 2 and low > 3").size() == 1); // binds as one
    CHECK(textsOf("(close > 1) and (volume > 2)") ==
          std::vector<std::string>{"close > 1", "volume > 2"});
    CHECK(textsOf("close > 1 # why\n  and\n volume > 2").front() == "close > 1 | why");
    CHECK(textsOf("# nothing yet\n").empty());
    CHECK(textsOf("").empty());
}

TEST_CASE("Screen text: where each criterion begins, and where a mistake is", "[screens]")
{
    const std::string text = "# a\nclose > 1\nand  volume > 2";
    const auto read = criteriaFromText(text);
    REQUIRE(read);
    CHECK(read->offsets == std::vector<std::size_t>{4, 19});
    const auto wrong = criteriaFromText("close > 1\nand volume >");
    REQUIRE_FALSE(wrong);
    CHECK(wrong.error().where.line == 2);
    CHECK_FALSE(criteriaFromText("close > \"x"));
    CHECK_FALSE(criteriaFromText(std::string(70'000, 'a')));
}

TEST_CASE("Screen text: every ready screen comes back as it was, remarks kept", "[screens]")
{
    for (Screen screen : starterScreens()) {
        INFO(screen.name);
        if (!screen.criteria.empty()) {
            screen.criteria[0].remarks = "of the file";
            screen.criteria.back().isOn = false;
        }
        const auto read = criteriaFromText(criteriaToText(screen.criteria), screen.criteria);
        REQUIRE(read);
        CHECK(read->criteria == screen.criteria);
    }
}

TEST_CASE("Screen text: a criterion of several lines keeps what stands after a mark", "[screens]")
{
    const std::string text =
        criteriaToText(std::vector<Criterion>{{"close > 10 # a quay\nand volume > 5"}});
    CHECK(text.find("# a quay") != text.npos);
    CHECK(text.find("volume > 5") != text.npos);
    CHECK(criteriaToText(std::vector<Criterion>{{"close > 10\n  and volume > 5"}}) ==
          "(close > 10   and volume > 5)\n");
    CHECK(criteriaToText(std::vector<Criterion>{{"\t close > 10  \r\n"}}) == "close > 10\n");
}

TEST_CASE("Screen: a folder is its parts without blanks and without empty ones", "[screens]")
{
    CHECK(tidyFolder("Evening/Trend") == "Evening/Trend");
    CHECK(tidyFolder("  Evening /\t Trend up / ") == "Evening/Trend up");
    CHECK(tidyFolder("//a// /b/") == "a/b");
    CHECK(tidyFolder(" / ").empty());
    CHECK(tidyFolder("").empty());
}

} // namespace sieve::screens
