#include "core/engine/evaluator.h"
#include "core/language/checker.h"
#include "demo_market/dataset.h"
#include "tests/core/made_market.h"

#include <catch2/catch.hpp>
#include <fmt/format.h>

namespace sieve::language {

TEST_CASE("Dictionary: every field parses, has its kind and unit, and is known of somebody",
          "[language]")
{
    demo_market::DemoMarket made = demo_market::makeMarket(20260930, demo_market::Extent::Small);
    const auto market = std::make_shared<const market::Market>(made.description, made.records);
    engine::Evaluator evaluator(market);
    const Names names{Vocabulary::builtIn()};
    CHECK(Vocabulary::builtIn().fields().size() >= 250);
    for (const Field& field : Vocabulary::builtIn().fields()) {
        INFO(field.name);
        engine::Plan plan;
        const auto checked = check(field.name, names, plan);
        if (!checked)
            FAIL(sentence(checked.error()));
        CHECK(checked->kind == field.kind);
        CHECK(areComparable(checked->unit, field.unit));
        for (const LocatedError& warning : checked->warnings)
            FAIL_CHECK(sentence(warning));
        CHECK(field.meaning.size() > 10);
        const auto column = evaluator.column(plan, checked->node, market->sessions().back());
        const bool isKnownSomewhere =
            std::any_of(column->begin(), column->end(), [](double v) { return !isMissing(v); });
        const bool hasNone = field.name == "no_data" || field.family == "Session";
        CHECK(isKnownSomewhere != hasNone);
    }
}

TEST_CASE("Composed functions: every one takes its defaults, or a close and twenty days",
          "[language]")
{
    const Names names{Vocabulary::builtIn()};
    for (const ComposedFunction& function : Vocabulary::builtIn().functions()) {
        std::string call = function.name + "(";
        for (std::size_t i = 0; i < function.parameters.size(); ++i)
            if (function.defaults[i].empty())
                call +=
                    fmt::format("{}{} = {}", call.back() == '(' ? "" : ", ", function.parameters[i],
                                function.parameters[i] == "kind"    ? "insiders"
                                : function.areNames[i]              ? "eps"
                                : function.parameters[i] == "years" ? "3"
                                : function.parameters[i] == "n"     ? "20"
                                : function.parameters[i] == "y"     ? "open"
                                                                    : "close");
        engine::Plan plan;
        const auto checked = check(call + ")", names, plan);
        INFO(call << ")");
        CHECK(checked);
        if (!checked)
            FAIL_CHECK(sentence(checked.error()));
    }
}

TEST_CASE("Dictionary: a broken entry is refused with its line", "[language]")
{
    Vocabulary vocabulary;
    const auto bad = vocabulary.add("[[field]]\nname = \"x\"\ntitle = \"X\"\nmeaning = \"m\"\n"
                                    "family = \"f\"\nformula = \"close >\"\n");
    REQUIRE_FALSE(bad);
    CHECK(bad.error().problem.find("formula, column 8") == 0);
    CHECK_FALSE(vocabulary.add("[[field]\n"));
    const std::string whole = "[[field]]\nname = \"x\"\ntitle = \"X\"\nmeaning = \"m\"\nfamily = "
                              "\"f\"\nformula = \"close\"\n";
    for (const char* key : {"name", "title", "meaning", "family"}) { // all are needed
        std::string text = whole;
        const std::size_t at = text.find(key + std::string(" ="));
        text.erase(at, text.find('\n', at) + 1 - at);
        INFO(key);
        Vocabulary other;
        CHECK_FALSE(other.add(text));
    }
    CHECK(Vocabulary().add(whole));
    CHECK_FALSE(vocabulary.add("field = [1, 2]\n"));
}

TEST_CASE("Dictionary: a field that names itself is refused with its path", "[language]")
{
    Vocabulary vocabulary;
    const char* head = "[[field]]\ntitle = \"T\"\nmeaning = \"m\"\nfamily = \"f\"\n";
    REQUIRE(vocabulary.add(std::string(head) + "name = \"a\"\nformula = \"b + 1\"\n"));
    REQUIRE(vocabulary.add(std::string(head) + "name = \"b\"\nformula = \"a + 1\"\n"));
    engine::Plan plan;
    const auto checked = check("a", {vocabulary, std::nullopt}, plan);
    REQUIRE_FALSE(checked);
    CHECK(checked.error().problem == "in 'a': in 'b': 'a' is defined by itself: a → b → a");
}

} // namespace sieve::language
