#include "core/language/own_fields.h"

#include "core/language/renaming.h"
#include "tests/core/made_market.h"

#include <catch2/catch.hpp>

namespace sieve::language {

using test::ownField;

TEST_CASE("Own fields: are used as any other, with the kind and unit of their formula",
          "[language]")
{
    OwnFields own;
    CHECK_FALSE(own.put(ownField("dip", "close / highest(close, 30) - 1")));
    CHECK_FALSE(own.put(ownField("deep", "dip < -10% and in_uptrend")));
    CHECK(own.vocabulary().field("dip")->unit == Unit::Ratio);
    CHECK(own.vocabulary().field("deep")->kind == Kind::YesNo);
    CHECK(own.usesOf("deep or dip > 1 or sma(close, n = 5) > dip") ==
          std::vector<std::string>{"deep", "dip", "close"});
    CHECK(own.usersOf("dip") == std::vector<std::string>{"deep"});
}

TEST_CASE("Own fields: an edit that would break one is refused and changes nothing", "[language]")
{
    OwnFields own;
    REQUIRE_FALSE(own.put(ownField("a", "close + 1")));
    REQUIRE_FALSE(own.put(ownField("b", "a * 2")));
    const auto cycle = own.put(ownField("a", "b + 1"));
    REQUIRE(cycle);
    CHECK(cycle->problem.find("b → a → b") != std::string::npos);
    CHECK(own.vocabulary().field("a")->formula == "close + 1");
    const auto wrongKind = own.put(ownField("a", "close > 1"));
    REQUIRE(wrongKind);
    CHECK(wrongKind->problem.find("b: ") == 0);
    CHECK(own.put(ownField("c", "close >"))->where.column == 8);
    CHECK(own.put(ownField("close", "1"))->problem == "the name 'close' is taken");
    CHECK(own.put(ownField("Two words", "1")));
    CHECK(own.put(ownField("sma", "1")));
    const auto used = own.remove("a");
    REQUIRE(used);
    CHECK(used->problem == "'a' is used by b");
    CHECK_FALSE(own.remove("b"));
    CHECK_FALSE(own.remove("a"));
    CHECK(own.fields().empty());
}

TEST_CASE("Own fields: a new name is carried through", "[language]")
{
    OwnFields own;
    REQUIRE_FALSE(own.put(ownField("dip", "close / highest(close, 30) - 1")));
    REQUIRE_FALSE(own.put(ownField("deep", "dip < -10% # no dip in a comment")));
    REQUIRE_FALSE(own.rename("dip", "fall_30"));
    CHECK(own.vocabulary().field("deep")->formula == "fall_30 < -10% # no dip in a comment");
    CHECK_FALSE(own.vocabulary().field("dip"));
    CHECK(own.rename("dip", "x"));
    CHECK(own.rename("deep", "fall_30"));
    CHECK(own.rename("deep", "sma"));
}

TEST_CASE("Renaming: fields, screens and lists each in their own places", "[language]")
{
    using What = Renaming::What;
    const Renaming field{What::Field, "a", "b"};
    CHECK(field.in("a(a, a = a) > a and \"a\" == a") == "a(b, a = b) > b and \"a\" == b");
    CHECK(field.in("a > \"") == "a > \""); // no expression
    const std::string asked =
        "passes(\"A few\") and not on_list( \"A few\" ) and name == \"A few\"";
    CHECK((Renaming{What::Screen, "A few", "Åsa’s"}.in(asked)) ==
          "passes(\"Åsa’s\") and not on_list( \"A few\" ) and name == \"A few\"");
    CHECK((Renaming{What::List, "A few", ""}.in(asked)) ==
          "passes(\"A few\") and not on_list( \"\" ) and name == \"A few\"");
    CHECK((Renaming{What::Screen, "A", "B"}.in(asked)) == asked);
    CHECK((Renaming{What::Screen, "A few", "a \"few\""}.in(asked)) == asked); // cannot be written
    CHECK((Renaming{What::List, "A few", "B"}.in("rank(close, within = on_list(\"A few\")) < 3")) ==
          "rank(close, within = on_list(\"B\")) < 3");
}

TEST_CASE("Own fields: as a file they come back the same", "[language]")
{
    OwnFields own;
    Field fancy = ownField("fancy", "close / 2");
    fancy.better = Better::High;
    fancy.graphic = CellGraphic::Bar;
    fancy.decimals = 4;
    REQUIRE_FALSE(own.put(fancy));
    REQUIRE_FALSE(own.put(ownField("plain", "fancy > 1")));
    const auto back = OwnFields::fromToml(own.toToml());
    REQUIRE(back);
    CHECK(back->toToml() == own.toToml());
    CHECK(back->vocabulary().field("fancy")->graphic == CellGraphic::Bar);
    CHECK_FALSE(OwnFields::fromToml("[[field]]\nname = \"close\"\ntitle = \"x\"\nmeaning = \"x\"\n"
                                    "family = \"x\"\nformula = \"1\"\n"));
    CHECK_FALSE(OwnFields::fromToml("[[field]]\nname = \"mine\"\ntitle = \"x\"\nmeaning = \"x\"\n"
                                    "family = \"x\"\nformula = \"mine + 1\"\n"));
    CHECK_FALSE(OwnFields::fromToml("[[field"));
}

} // namespace sieve::language
