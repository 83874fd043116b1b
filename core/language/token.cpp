#include "core/language/token.h"

#include <algorithm>
#include <array>
#include <fmt/format.h>
#include <optional>

namespace sieve::language {

namespace {

bool isDigit(char c)
{
    return c >= '0' && c <= '9';
}

bool isLetter(char c)
{
    return (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z') || c == '_';
}

bool continuesCharacter(char c) // the second and later bytes of a UTF-8 character
{
    return (static_cast<unsigned char>(c) & 0xC0U) == 0x80U;
}

bool isDayShape(std::string_view text)
{
    constexpr std::string_view shape = "dddd-dd-dd";
    if (text.size() < shape.size() || (text.size() > shape.size() && isDigit(text[shape.size()])))
        return false;
    for (std::size_t i = 0; i < shape.size(); ++i)
        if (shape[i] == 'd' ? !isDigit(text[i]) : text[i] != '-')
            return false;
    return true;
}

class Lexer {
public:
    explicit Lexer(std::string_view text) : text_(text) {}

    Result<std::vector<Token>> run()
    {
        std::vector<Token> tokens;
        for (;;) {
            skipBlanks();
            if (at_ == text_.size())
                break;
            if (auto error = readToken(tokens))
                return *error;
            if (tokens.size() > mostTokens)
                return LocatedError{tokens.back().where,
                                    fmt::format("more than {} words and signs", mostTokens),
                                    "make parts of it fields of their own"};
        }
        tokens.push_back(make(TokenKind::End, 0));
        return tokens;
    }

private:
    Token make(TokenKind kind, std::size_t bytes)
    {
        const std::string_view part = text_.substr(at_, bytes);
        const auto characters = static_cast<std::size_t>(
            std::ranges::count_if(part, [](char c) { return !continuesCharacter(c); }));
        const Token token{kind, part, {line_, column_, characters, at_, bytes}};
        at_ += bytes;
        column_ += characters;
        return token;
    }

    void skipBlanks()
    {
        while (at_ < text_.size()) {
            const char c = text_[at_];
            if (c == '#') {
                at_ = std::min(text_.find('\n', at_), text_.size());
            } else if (c == '\n') {
                ++line_;
                column_ = 1;
                ++at_;
            } else if (c == ' ' || c == '\t' || c == '\r') {
                ++column_;
                ++at_;
            } else {
                return;
            }
        }
    }

    std::size_t runOf(bool (*belongs)(char)) const
    {
        std::size_t end = at_;
        while (end < text_.size() && belongs(text_[end]))
            ++end;
        return end - at_;
    }

    std::size_t numberLength() const
    {
        std::size_t end = at_;
        while (end < text_.size() && (isDigit(text_[end]) || text_[end] == '.'))
            ++end;
        while (end < text_.size() && isLetter(text_[end])) // the ending, right or wrong
            ++end;
        if (end < text_.size() && text_[end] == '%')
            ++end;
        return end - at_;
    }

    std::optional<LocatedError> readToken(std::vector<Token>& tokens)
    {
        const char c = text_[at_];
        const bool isPoint = c == '.' && at_ + 1 < text_.size() && isDigit(text_[at_ + 1]);
        if (isDayShape(text_.substr(at_)))
            tokens.push_back(make(TokenKind::Day, 10));
        else if (isDigit(c) || isPoint)
            tokens.push_back(make(TokenKind::Number, numberLength()));
        else if (isLetter(c))
            tokens.push_back(
                make(TokenKind::Name, runOf([](char e) { return isLetter(e) || isDigit(e); })));
        else if (c == '"')
            return readText(tokens);
        else
            return readSymbol(tokens);
        return std::nullopt;
    }

    std::optional<LocatedError> readText(std::vector<Token>& tokens)
    {
        const std::size_t end = text_.find_first_of("\"\n", at_ + 1);
        if (end == std::string_view::npos || text_[end] == '\n') {
            const std::size_t bytes = std::min(end, text_.size()) - at_;
            return LocatedError{make(TokenKind::Text, bytes).where, "a text without its closing \"",
                                "end it on the same line with \""};
        }
        Token token = make(TokenKind::Text, end + 1 - at_);
        token.text = token.text.substr(1, token.text.size() - 2);
        tokens.push_back(token);
        return std::nullopt;
    }

    std::optional<LocatedError> readSymbol(std::vector<Token>& tokens)
    {
        constexpr std::array<std::string_view, 15> symbols{
            "<=", ">=", "==", "!=", "<", ">", "+", "-", "*", "/", "^", "(", ")", ",", "="};
        for (const std::string_view symbol : symbols)
            if (text_.substr(at_).starts_with(symbol)) {
                tokens.push_back(make(TokenKind::Symbol, symbol.size()));
                return std::nullopt;
            }
        std::size_t bytes = 1;
        while (at_ + bytes < text_.size() && continuesCharacter(text_[at_ + bytes]))
            ++bytes;
        const Token token = make(TokenKind::Symbol, bytes);
        const bool printable = static_cast<unsigned char>(token.text[0]) >= 0x20;
        return LocatedError{token.where,
                            printable ? fmt::format("'{}' has no meaning here", token.text)
                                      : std::string("a control character has no meaning here"),
                            "take it out, or put texts in \"quotes\""};
    }

    std::string_view text_;
    std::size_t at_ = 0;
    std::size_t line_ = 1;
    std::size_t column_ = 1;
};

} // namespace

SourceRange rangeOf(std::string_view whole, std::string_view part)
{
    const auto offset = static_cast<std::size_t>(part.data() - whole.data());
    const std::string_view before = whole.substr(0, offset);
    const auto characters = [](std::string_view text) {
        return static_cast<std::size_t>(
            std::ranges::count_if(text, [](char c) { return !continuesCharacter(c); }));
    };
    const std::size_t lineStart = before.rfind('\n') + 1; // npos + 1 is 0
    return {1 + static_cast<std::size_t>(std::ranges::count(before, '\n')),
            1 + characters(before.substr(lineStart)), characters(part), offset, part.size()};
}

Result<std::vector<Token>> tokenize(std::string_view text)
{
    if (text.size() > longestExpression)
        return LocatedError{{},
                            fmt::format("an expression of {} characters", text.size()),
                            fmt::format("keep it under {} characters; parts of it can become "
                                        "fields of their own",
                                        longestExpression)};
    return Lexer(text).run();
}

} // namespace sieve::language
