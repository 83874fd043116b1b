#include "core/language/token.h"

#include <catch2/catch.hpp>

namespace sieve::language {

namespace {

std::vector<std::string> words(std::string_view text)
{
    const auto tokens = tokenize(text);
    if (!tokens)
        FAIL(sentence(tokens.error()));
    std::vector<std::string> found;
    for (const Token& token : *tokens)
        found.emplace_back(token.text);
    found.pop_back(); // the end
    return found;
}

LocatedError errorOf(std::string_view text)
{
    const auto tokens = tokenize(text);
    if (tokens)
        FAIL("accepted: " << text);
    return tokens.error();
}

} // namespace

TEST_CASE("Tokens: words, numbers, texts, days and signs are told apart", "[language]")
{
    CHECK(words("a<=b") == std::vector<std::string>{"a", "<=", "b"});
    CHECK(words("a<-b") == std::vector<std::string>{"a", "<", "-", "b"});
    CHECK(words("a==b!=c") == std::vector<std::string>{"a", "==", "b", "!=", "c"});
    CHECK(words("sma(x,n=20)") ==
          std::vector<std::string>{"sma", "(", "x", ",", "n", "=", "20", ")"});
    CHECK(words(".5+2M*3%") == std::vector<std::string>{".5", "+", "2M", "*", "3%"});
    CHECK(words("2025-03-14-1") == std::vector<std::string>{"2025-03-14", "-", "1"});
    CHECK(words("2025-03-1") == std::vector<std::string>{"2025", "-", "03", "-", "1"});
    CHECK(words("2025-03-145") == std::vector<std::string>{"2025", "-", "03", "-", "145"});
    CHECK(words("\"a b\" \"\"") == std::vector<std::string>{"a b", ""});
    CHECK(words("a # all of this is a comment < > \"\nb").size() == 2);
    CHECK(words("  \t\r\n ").empty());
    CHECK(words("# only a comment").empty());
}

TEST_CASE("Tokens: kinds are as they look", "[language]")
{
    const auto tokens = *tokenize("close > 5 \"x\" 2024-01-02");
    const std::vector<TokenKind> kinds{TokenKind::Name, TokenKind::Symbol, TokenKind::Number,
                                       TokenKind::Text, TokenKind::Day,    TokenKind::End};
    REQUIRE(tokens.size() == kinds.size());
    for (std::size_t i = 0; i < kinds.size(); ++i)
        CHECK(tokens[i].kind == kinds[i]);
    CHECK(tokens[0].is("close"));
    CHECK_FALSE(tokens[3].is("x")); // a text is no word of the language
}

TEST_CASE("Tokens: places are counted in lines and characters, not bytes", "[language]")
{
    const std::string text = "\"\xC3\xA4\xE2\x82\xAC\" ==\n  b";
    const auto tokens = *tokenize(text);
    CHECK(tokens[0].where == SourceRange{1, 1, 4, 0, 7});
    CHECK(tokens[1].where == SourceRange{1, 6, 2, 8, 2});
    CHECK(tokens[2].where == SourceRange{2, 3, 1, 13, 1});
    CHECK(tokens[3].where.column == 4);
    const std::string_view whole = text;
    CHECK(rangeOf(whole, whole.substr(13, 1)) == tokens[2].where);
    CHECK(rangeOf(whole, whole.substr(8, 2)) == tokens[1].where);
}

TEST_CASE("Tokens: what the language does not use is refused where it stands", "[language]")
{
    CHECK(errorOf("close @ 5").where.column == 7);
    CHECK(errorOf("a\nb & c").where == SourceRange{2, 3, 1, 4, 1});
    CHECK(errorOf("close \xE2\x89\xA5 5").problem == "'\xE2\x89\xA5' has no meaning here");
    CHECK(errorOf("a \x01").problem == "a control character has no meaning here");
    CHECK(errorOf("\"never closed").where.length == 13);
    CHECK(errorOf("\"over\nlines\"").where.line == 1);
}

} // namespace sieve::language
