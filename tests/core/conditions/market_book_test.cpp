#include "core/conditions/market_book.h"

#include <catch2/catch.hpp>

namespace sieve::conditions {

namespace {

LocatedError errorIn(std::string_view toml)
{
    const auto book = bookFromToml(toml);
    REQUIRE_FALSE(book);
    return book.error();
}

const std::string trends = "[[trend]]\nhorizon = \"short\"\nrising = \"a\"\nfalling = \"b\"\n"
                           "[[trend]]\nhorizon = \"medium\"\nrising = \"a\"\nfalling = \"b\"\n"
                           "[[trend]]\nhorizon = \"long\"\nrising = \"a\"\nfalling = \"b\"\n";

} // namespace

TEST_CASE("Market book: written and read it is the same", "[conditions]")
{
    MarketBook book = standardBook();
    CHECK(book.rules.size() >= 3);
    CHECK(*bookFromToml(toToml(book)) == book);
    book.rules.push_back({"Quotes \" and\nlines", "close > 1", "", 12.5, false});
    book.panes = {"new_highs - new_lows", "share_of(sector == \"Energy\")"};
    CHECK(*bookFromToml(toToml(book)) == book);
}

TEST_CASE("Market book: what is wrong is told with its line", "[conditions]")
{
    CHECK(errorIn("panes = [").where.line == 1);
    CHECK(errorIn(trends + "[[rule]]\ntitle = \"x\"\n").problem == "'enter' is missing");
    CHECK(errorIn(trends + "[[rule]]\nenter = \"x\"\n").problem == "a rule without a title");
    CHECK(errorIn(trends + "[[rule]]\ntitle = \"x\"\nenter = \"y\"\nshare = 140\n").where.line ==
          16);
    CHECK(errorIn(trends + "[[rule]]\ntitel = \"x\"\n").problem == "'titel' is no key of a rule");
    CHECK(errorIn(trends + trends).problem == "the short horizon stands here twice");
    CHECK(errorIn("panes = []\n").problem == "no short horizon");
    CHECK(errorIn("[[trend]]\nhorizon = \"week\"\n").problem == "'week' is no horizon");
    CHECK(errorIn("rule = 5\n" + trends).problem == "'rule' is no list");
    CHECK(errorIn("panes = [3]\n" + trends).problem == "'panes' holds something that is no text");
}

} // namespace sieve::conditions
