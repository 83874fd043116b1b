#include "core/language/renaming.h"

#include <algorithm>
#include <span>

namespace sieve::language {

namespace {

/// The texts in quotes that one of some functions is called with.
std::vector<Token> namedIn(std::string_view expression, std::span<const std::string_view> functions)
{
    const Result<std::vector<Token>> tokens = tokenize(expression);
    std::vector<Token> named;
    for (std::size_t i = 2; tokens && i < tokens->size(); ++i)
        if ((*tokens)[i].kind == TokenKind::Text && (*tokens)[i - 1].is("(") &&
            std::ranges::any_of(functions, [&](auto name) { return (*tokens)[i - 2].is(name); }))
            named.push_back((*tokens)[i]);
    return named;
}

} // namespace

std::vector<Token> fieldTokens(std::string_view expression)
{
    const Result<std::vector<Token>> tokens = tokenize(expression);
    std::vector<Token> fields;
    if (!tokens)
        return fields;
    for (std::size_t i = 0; i < tokens->size(); ++i) {
        const bool isLast = i + 1 == tokens->size();
        const bool isOther = !isLast && ((*tokens)[i + 1].is("(") || (*tokens)[i + 1].is("="));
        if ((*tokens)[i].kind == TokenKind::Name && !isOther)
            fields.push_back((*tokens)[i]);
    }
    return fields;
}

std::string Renaming::in(std::string_view expression) const
{
    const bool isQuoted = what != What::Field;
    if (isQuoted && to.find('"') != to.npos)
        return std::string(expression);
    constexpr std::string_view ofScreens[] = {"passes"};
    constexpr std::string_view ofLists[] = {"on_list", "list"};
    constexpr std::string_view ofChecklists[] = {"checklist"};
    std::string text;
    std::size_t done = 0;
    for (const Token& token : what == What::Field    ? fieldTokens(expression)
                              : what == What::Screen ? namedIn(expression, ofScreens)
                              : what == What::List   ? namedIn(expression, ofLists)
                                                     : namedIn(expression, ofChecklists))
        if (token.text == from) {
            const auto begin = static_cast<std::size_t>(token.text.data() - expression.data());
            text += expression.substr(done, begin - done);
            text += to;
            done = begin + token.text.size();
        }
    text += expression.substr(done);
    return text;
}

} // namespace sieve::language
