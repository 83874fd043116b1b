#include "core/language/syntax.h"

#include "demo_market/dice.h"

#include <catch2/catch.hpp>

namespace sieve::language {

namespace {

/// The tree written out with all its parentheses: "(+ a (* b c))".
std::string shape(const Syntax& tree)
{
    const auto all = [&](std::string head) {
        std::string text = "(" + head;
        for (const Syntax& child : tree.children)
            text += " " + shape(child);
        return text + ")";
    };
    switch (tree.form) {
    case Form::Number:
        return tree.text + (tree.number < 0 ? "-" : "");
    case Form::Text:
        return "'" + tree.text + "'";
    case Form::Day:
    case Form::Name:
        return tree.text;
    case Form::Call: {
        std::string text = "(" + tree.text;
        for (std::size_t i = 0; i < tree.children.size(); ++i)
            text +=
                " " + (tree.names[i].empty() ? "" : tree.names[i] + ":") + shape(tree.children[i]);
        return text + ")";
    }
    case Form::Negate:
        return all("-");
    case Form::Not:
        return all("not");
    case Form::And:
        return all("and");
    case Form::Or:
        return all("or");
    case Form::Arithmetic:
    case Form::In:
        return all(tree.text);
    case Form::Comparison: {
        std::string head;
        for (const std::string& each : tree.names)
            head += (head.empty() ? "" : ",") + each;
        return all(head);
    }
    }
    return {};
}

std::string shapeOf(std::string_view text)
{
    const auto tree = parse(text);
    if (!tree)
        FAIL(text << ": " << sentence(tree.error()));
    return shape(*tree);
}

} // namespace

TEST_CASE("Parser: binds as its table says", "[language]")
{
    const std::pair<const char*, const char*> rows[] = {
        {"a + b * c", "(+ a (* b c))"},
        {"a * b + c", "(+ (* a b) c)"},
        {"a - b - c", "(- (- a b) c)"},
        {"a ^ b ^ c", "(^ a (^ b c))"},
        {"-a ^ b", "(- (^ a b))"},
        {"a ^ -b", "(^ a (- b))"},
        {"- - a", "(- (- a))"},
        {"+a", "a"},
        {"-5", "5-"},
        {"a < b + c", "(< a (+ b c))"},
        {"a < b <= c != d", "(<,<=,!= a b c d)"},
        {"not a < b", "(not (< a b))"},
        {"not not a", "(not (not a))"},
        {"a and b and c", "(and a b c)"},
        {"a or b and c or d", "(or a (and b c) d)"},
        {"(a or b) and c", "(and (or a b) c)"},
        {"not a and b", "(and (not a) b)"},
        {"a in (\"x\", \"y\")", "(in a 'x' 'y')"},
        {"a not in (1)", "(not in a 1)"},
        {"a + b in (c)", "(in (+ a b) c)"},
        {"f()", "(f)"},
        {"f(a, n = 3)", "(f a n:3)"},
        {"f(g(h(a)))", "(f (g (h a)))"},
        {"f(a < b, c and d)", "(f (< a b) (and c d))"},
        {"a > 2024-01-02", "(> a 2024-01-02)"},
        {"((((a))))", "a"},
    };
    for (const auto& [text, wanted] : rows) {
        INFO(text);
        CHECK(shapeOf(text) == wanted);
    }
}

TEST_CASE("Parser: a tree knows where it was written", "[language]")
{
    const auto tree = *parse("close > sma(close, 20)\n  and volume > 5");
    REQUIRE(tree.children.size() == 2);
    CHECK(tree.children[0].where == SourceRange{1, 1, 22, 0, 22});
    CHECK(tree.children[0].children[1].where == SourceRange{1, 9, 14, 8, 14});
    CHECK(tree.children[1].where == SourceRange{2, 7, 10, 29, 10});
}

TEST_CASE("Parser: mistakes are placed at the word that is wrong", "[language]")
{
    const std::tuple<const char*, std::size_t, std::size_t, const char*> rows[] = {
        {"a +", 1, 4, "the expression ends too early"},
        {"* a", 1, 1, "'*' is not expected here"},
        {"a b", 1, 3, "'b' is not expected here"},
        {"a and", 1, 6, "the expression ends too early"},
        {"and a", 1, 1, "'and' is not expected here"},
        {"f(a", 1, 4, "')' is missing to close f("},
        {"f(a,)", 1, 5, "')' is not expected here"},
        {"a in b", 1, 6, "'(' is missing after 'in'"},
        {"a in ()", 1, 7, "')' is not expected here"},
        {"a in (1", 1, 8, "')' is missing to close the list"},
        {"a <\n< b", 2, 1, "'<' is not expected here"},
        {"f(n = )", 1, 7, "')' is not expected here"},
        {"2024-02-30 < a", 1, 1, "there is no day 2024-02-30"},
        {"# nothing", 1, 1, "nothing is written yet"},
    };
    for (const auto& [text, lineNumber, column, problem] : rows) {
        INFO(text);
        const auto tree = parse(text);
        REQUIRE_FALSE(tree);
        CHECK(tree.error().problem == problem);
        CHECK(tree.error().where.line == lineNumber);
        CHECK(tree.error().where.column == column);
        CHECK_FALSE(tree.error().remedy.empty());
    }
}

TEST_CASE("Parser: no damage to a text breaks it, and each error lies within the text",
          "[language]")
{
    constexpr std::string_view good =
        "close > sma(close, 150) and -1.5% <= close / ema(close, 34) - 1 <= 1.5%\n"
        "  and not kind in (\"fund\", \"trust\") # a comment\n or 2025-03-14 == day ^ 2M";
    constexpr std::string_view alphabet = "()\"#=<>!+-*/^,.% \n09azM_\xC3\xA4\x01";
    demo_market::Dice dice(17);
    int accepted = 0;
    for (int round = 0; round < 20'000; ++round) {
        std::string text(good);
        for (std::size_t i = 0; i < 1 + dice.below(8) && !text.empty(); ++i) {
            const std::size_t at = dice.below(text.size());
            switch (dice.below(4)) {
            case 0:
                text[at] = alphabet[dice.below(alphabet.size())];
                break;
            case 1:
                text.erase(at, 1 + dice.below(12));
                break;
            case 2:
                text.insert(at, 1, alphabet[dice.below(alphabet.size())]);
                break;
            default:
                text.insert(at, text.substr(dice.below(text.size()), dice.below(20)));
            }
        }
        const auto tree = parse(text);
        if (tree) {
            ++accepted;
            continue;
        }
        REQUIRE(tree.error().where.offset <= text.size());
        REQUIRE(tree.error().where.line >= 1);
        REQUIRE(tree.error().where.column >= 1);
        REQUIRE_FALSE(tree.error().problem.empty());
        REQUIRE_FALSE(tree.error().remedy.empty());
    }
    CHECK(accepted > 100);
    CHECK(accepted < 19'000);
}

} // namespace sieve::language
