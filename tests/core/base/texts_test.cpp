#include "core/base/csv_cell.h"
#include "core/base/kind.h"
#include "core/base/lower_case.h"
#include "core/base/toml_table.h"

#include <array>
#include <catch2/catch.hpp>
#include <set>

namespace sieve {

TEST_CASE("Cell of CSV: in quotes where it must be, and only there", "[base]")
{
    CHECK(csvCell("") == "");
    CHECK(csvCell("plain text; with 1.5") == "plain text; with 1.5");
    CHECK(csvCell("Sund, Vik & Co") == "\"Sund, Vik & Co\"");
    CHECK(csvCell("the \"north\" quay") == "\"the \"\"north\"\" quay\"");
    CHECK(csvCell("two\nlines") == "\"two\nlines\"");
    CHECK(csvCell("\r") == "\"\r\"");
    CHECK(csvCell("\"") == "\"\"\"\"");
}

TEST_CASE("Small letters: A to Z alone, whatever the machine's language", "[base]")
{
    CHECK(lowerCase("KELP.C") == "kelp.c");
    CHECK(lowerCase("aZ09_[") == "az09_[");
    CHECK(lowerCase("\xC3\x89") == "\xC3\x89"); // a letter of two bytes stays whole
    CHECK(lowerCase("").empty());
}

TEST_CASE("Kinds and units: each has a word of its own", "[base]")
{
    const std::array kinds{Kind::Number, Kind::YesNo, Kind::Text, Kind::Day};
    std::set<std::string_view> words;
    for (const Kind kind : kinds)
        words.insert(kindName(kind));
    CHECK(words.size() == kinds.size());
    CHECK(words.count("") == 0);
    const std::array units{Unit::Plain,  Unit::Money, Unit::Percent, Unit::Ratio,
                           Unit::Shares, Unit::Days,  Unit::Points};
    words.clear();
    for (const Unit unit : units)
        words.insert(unitName(unit));
    CHECK(words.size() == units.size());
    CHECK(words.count("") == 0);
}

TEST_CASE("Units: go with themselves, with plain numbers, and a ratio with a percentage", "[base]")
{
    const std::array units{Unit::Plain,  Unit::Money, Unit::Percent, Unit::Ratio,
                           Unit::Shares, Unit::Days,  Unit::Points};
    for (const Unit a : units)
        for (const Unit b : units) {
            CAPTURE(unitName(a), unitName(b));
            CHECK(areComparable(a, b) == areComparable(b, a));
            if (a == b || a == Unit::Plain)
                CHECK(areComparable(a, b));
        }
    CHECK(areComparable(Unit::Percent, Unit::Ratio));
    CHECK_FALSE(areComparable(Unit::Money, Unit::Shares));
    CHECK_FALSE(areComparable(Unit::Days, Unit::Percent));
}

namespace {

struct Harbour {
    std::string name;
    std::int64_t berths = 0;
    std::vector<std::string> goods;
    std::size_t piers = 0;
};

Result<Harbour> harbourOf(std::string_view text)
{
    return readToml(text, "write key = value", [](const toml::table& table) {
        refuseOthers(table, "a harbour", {"name", "berths", "goods", "pier"});
        Harbour harbour;
        harbour.name = valueOr<std::string>(table, "name", "no name");
        harbour.berths = valueOr<std::int64_t>(table, "berths", 1);
        harbour.goods = textsOf(table, "goods");
        harbour.piers = tablesOf(table, "pier").size();
        return harbour;
    });
}

std::string faultOf(std::string_view text)
{
    const auto harbour = harbourOf(text);
    return harbour ? std::string("none") : sentence(harbour.error());
}

} // namespace

TEST_CASE("TOML: what is there is read, what is not has its first value", "[base]")
{
    const auto whole = harbourOf("name = \"Ostrand\"\nberths = 12\ngoods = [\"kelp\", \"slate\"]\n"
                                 "[[pier]]\nlong = true\n[[pier]]\n");
    REQUIRE(whole);
    CHECK(whole->name == "Ostrand");
    CHECK(whole->berths == 12);
    CHECK(whole->goods == std::vector<std::string>{"kelp", "slate"});
    CHECK(whole->piers == 2);
    const auto bare = harbourOf("");
    REQUIRE(bare);
    CHECK(bare->name == "no name");
    CHECK(bare->berths == 1);
    CHECK(bare->goods.empty());
    CHECK(bare->piers == 0);
}

TEST_CASE("TOML: every mistake is told with its line", "[base]")
{
    CHECK(faultOf("name = 4").find("Line 1, column 8: 'name' is of another type") == 0);
    CHECK(faultOf("name = 4").find("in quotes") != std::string::npos);
    CHECK(faultOf("berths = \"4\"").find("without quotes") != std::string::npos);
    CHECK(faultOf("\nberth = 4").find("Line 2") == 0);
    CHECK(faultOf("\nberth = 4").find("'berth' is no key of a harbour") != std::string::npos);
    CHECK(faultOf("pier = 1").find("'pier' is no list") != std::string::npos);
    CHECK(faultOf("pier = [1]").find("no table") != std::string::npos);
    CHECK(faultOf("goods = \"kelp\"").find("Line 1") == 0);
    CHECK(faultOf("goods = [1]").find("Line 1") == 0);
    CHECK(faultOf("name = \"Ost\nrand\"").find("Line 1") == 0);
    CHECK(faultOf("name = \"a\"\nname = \"b\"").find("Line 2") == 0);
}

TEST_CASE("TOML: a text in quotes comes back whatever it holds", "[base]")
{
    for (const std::string text : {"", "plain", "a \"word\"", "back\\slash", "two\nlines", "tab\t.",
                                   "\xC3\xA5\xE2\x80\x93", "# no comment", "'single'"}) {
        CAPTURE(text);
        const auto harbour = harbourOf("name = " + quotedToml(text));
        REQUIRE(harbour);
        CHECK(harbour->name == text);
    }
}

} // namespace sieve
