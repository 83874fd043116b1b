#pragma once

#include "core/base/result.h"

#include <string>
#include <string_view>
#include <vector>

namespace sieve::language {

enum class TokenKind { Number, Text, Day, Name, Symbol, End };

struct Token {
    TokenKind kind = TokenKind::End;
    std::string_view text; ///< as written; of a text, without its quotes
    SourceRange where;

    bool is(std::string_view symbolOrWord) const
    {
        return (kind == TokenKind::Symbol || kind == TokenKind::Name) && text == symbolOrWord;
    }
};

/// The longest expression that is read; a longer one is refused before anything else.
inline constexpr std::size_t longestExpression = 65'536;
/// The most tokens that are read: bounds the depth of "1 + 1 + 1 + …" as a tree.
inline constexpr std::size_t mostTokens = 4000;

/// Cuts an expression into tokens, the last of which is End. White space and comments (from # to
/// the end of the line) are passed over.
/// Owns:   the tokens refer to `text`, which must live on.
/// Errors: a text without its closing quote, a character that the language does not use, a byte
///         that is not UTF-8, an expression longer than `longestExpression` or `mostTokens`.
Result<std::vector<Token>> tokenize(std::string_view text);

/// The place of `part`, a piece of `whole`, counted in lines and characters.
SourceRange rangeOf(std::string_view whole, std::string_view part);

} // namespace sieve::language
