#include "core/language/number.h"
#include "core/language/syntax.h"
#include "core/language/token.h"

#include "core/base/day.h"

#include <algorithm>
#include <array>
#include <fmt/format.h>
#include <utility>

namespace sieve::language {

namespace {

/// Recursive descent, one function a level of binding. An error leaves through the exception below,
/// which no function but parse() sees.
class Parser {
public:
    explicit Parser(const std::vector<Token>& tokens) : tokens_(tokens) {}

    struct Failure {
        LocatedError error;
    };

    Syntax whole()
    {
        if (now().kind == TokenKind::End)
            fail(now(), "nothing is written yet", "for example close > sma(close, 200)");
        Syntax tree = disjunction();
        if (now().kind != TokenKind::End)
            fail(now(), fmt::format("'{}' is not expected here", now().text), remedyForExtra());
        return tree;
    }

private:
    [[noreturn]] static void fail(const Token& at, std::string problem, std::string remedy)
    {
        throw Failure{{at.where, std::move(problem), std::move(remedy)}};
    }

    std::string remedyForExtra() const
    {
        if (now().is(")"))
            return "take it out, or open it before";
        if (now().is("="))
            return "compare with ==";
        return "join two conditions with and, or two figures with + - * /";
    }

    const Token& now() const { return tokens_[at_]; }
    Token take() { return tokens_[at_ == tokens_.size() - 1 ? at_ : at_++]; }
    bool takeIf(std::string_view word)
    {
        const bool matches = now().is(word);
        if (matches)
            take();
        return matches;
    }

    void expect(std::string_view symbol, std::string_view why)
    {
        if (!takeIf(symbol))
            fail(now(), fmt::format("'{}' is missing {}", symbol, why),
                 fmt::format("write {}", symbol));
    }

    static SourceRange span(const SourceRange& first, const SourceRange& last)
    {
        SourceRange range = first;
        range.bytes = last.offset + last.bytes - first.offset;
        range.length =
            first.line == last.line ? last.column + last.length - first.column : first.length;
        return range;
    }

    static Syntax branch(Form form, std::vector<Syntax> children, std::string text = {})
    {
        Syntax tree;
        tree.form = form;
        tree.where = span(children.front().where, children.back().where);
        tree.text = std::move(text);
        tree.children = std::move(children);
        return tree;
    }

    Syntax list(Form form, std::string_view word, Syntax (Parser::*next)())
    {
        std::vector<Syntax> parts;
        parts.push_back((this->*next)());
        while (takeIf(word))
            parts.push_back((this->*next)());
        return parts.size() == 1 ? std::move(parts.front()) : branch(form, std::move(parts));
    }

    Syntax disjunction() { return list(Form::Or, "or", &Parser::conjunction); }
    Syntax conjunction() { return list(Form::And, "and", &Parser::negation); }

    Syntax negation()
    {
        if (!now().is("not"))
            return comparison();
        const Token word = take();
        const Depth depth(*this, word);
        std::vector<Syntax> child;
        child.push_back(negation());
        Syntax tree = branch(Form::Not, std::move(child));
        tree.where = span(word.where, tree.where);
        return tree;
    }

    Syntax comparison()
    {
        constexpr std::array<std::string_view, 6> operators{"<", "<=", ">", ">=", "==", "!="};
        std::vector<Syntax> parts;
        std::vector<std::string> between;
        parts.push_back(sum());
        if (now().is("in") || (now().is("not") && tokens_[at_ + 1].is("in")))
            return membership(std::move(parts.front()));
        while (std::ranges::any_of(operators, [this](auto each) { return now().is(each); })) {
            between.emplace_back(take().text);
            parts.push_back(sum());
        }
        if (parts.size() == 1)
            return std::move(parts.front());
        Syntax tree = branch(Form::Comparison, std::move(parts));
        tree.names = std::move(between);
        return tree;
    }

    Syntax membership(Syntax sought)
    {
        const bool negated = takeIf("not");
        take(); // in
        expect("(", "after 'in'");
        std::vector<Syntax> parts;
        parts.push_back(std::move(sought));
        do
            parts.push_back(sum());
        while (takeIf(","));
        const Token last = now();
        expect(")", "to close the list");
        Syntax tree = branch(Form::In, std::move(parts), negated ? "not in" : "in");
        tree.where = span(tree.where, last.where);
        return tree;
    }

    Syntax sum()
    {
        Syntax left = product();
        while (now().is("+") || now().is("-"))
            left = arithmetic(std::move(left), &Parser::product);
        return left;
    }

    Syntax product()
    {
        Syntax left = sign();
        while (now().is("*") || now().is("/"))
            left = arithmetic(std::move(left), &Parser::sign);
        return left;
    }

    Syntax arithmetic(Syntax left, Syntax (Parser::*next)())
    {
        const Token symbol = take();
        std::vector<Syntax> parts;
        parts.push_back(std::move(left));
        parts.push_back((this->*next)());
        return branch(Form::Arithmetic, std::move(parts), std::string(symbol.text));
    }

    Syntax sign()
    {
        if (!now().is("-") && !now().is("+"))
            return power();
        const Token symbol = take();
        const Depth depth(*this, symbol);
        Syntax child = sign();
        if (symbol.is("+"))
            return child;
        if (child.form == Form::Number) { // "-1.5%" is a number, not a computation
            child.number = -child.number;
            child.where = span(symbol.where, child.where);
            return child;
        }
        std::vector<Syntax> children;
        children.push_back(std::move(child));
        Syntax tree = branch(Form::Negate, std::move(children));
        tree.where = span(symbol.where, tree.where);
        return tree;
    }

    Syntax power()
    {
        Syntax base = primary();
        if (!now().is("^"))
            return base;
        const Depth depth(*this, now());
        return arithmetic(std::move(base), &Parser::sign);
    }

    Syntax primary()
    {
        const Token token = take();
        switch (token.kind) {
        case TokenKind::Number:
            return number(token);
        case TokenKind::Text:
            return leaf(Form::Text, token);
        case TokenKind::Day:
            return day(token);
        case TokenKind::Name:
            if (isReserved(token.text))
                fail(token, fmt::format("'{}' is not expected here", token.text),
                     "write a field, a number or a function before it");
            return now().is("(") ? call(token) : leaf(Form::Name, token);
        case TokenKind::Symbol:
            if (token.is("("))
                return parenthesis(token);
            fail(token, fmt::format("'{}' is not expected here", token.text),
                 "write a field, a number or a function first");
        case TokenKind::End:
            break;
        }
        fail(token, "the expression ends too early", "write a field, a number or a function");
    }

    static bool isReserved(std::string_view word)
    {
        return word == "and" || word == "or" || word == "not" || word == "in";
    }

    static Syntax leaf(Form form, const Token& token)
    {
        Syntax tree;
        tree.form = form;
        tree.where = token.where;
        tree.text = token.text;
        return tree;
    }

    static Syntax number(const Token& token)
    {
        const Result<NumberLiteral> literal = parseNumber(token.text);
        if (!literal) {
            Token part = token;
            part.where.column += literal.error().where.column - 1;
            part.where.length = literal.error().where.length;
            fail(part, literal.error().problem, literal.error().remedy);
        }
        Syntax tree = leaf(Form::Number, token);
        tree.number = literal->value;
        tree.unit = literal->unit;
        return tree;
    }

    static Syntax day(const Token& token)
    {
        const std::optional<Day> day = Day::parse(token.text);
        if (!day)
            fail(token, fmt::format("there is no day {}", token.text),
                 "write year-month-day, such as 2025-03-14");
        Syntax tree = leaf(Form::Day, token);
        tree.number = day->serial();
        return tree;
    }

    Syntax parenthesis(const Token& open)
    {
        const Depth depth(*this, open);
        Syntax inner = disjunction();
        const Token close = now();
        expect(")", "to close the parenthesis");
        inner.where = span(open.where, close.where);
        return inner;
    }

    Syntax call(const Token& name)
    {
        const Depth depth(*this, name);
        Syntax tree = leaf(Form::Call, name);
        take(); // (
        if (!now().is(")"))
            do {
                const bool isNamed = now().kind == TokenKind::Name && tokens_[at_ + 1].is("=");
                tree.names.emplace_back(isNamed ? take().text : std::string_view());
                if (isNamed)
                    take(); // =
                tree.children.push_back(disjunction());
            } while (takeIf(","));
        const Token close = now();
        expect(")", fmt::format("to close {}(", name.text));
        tree.where = span(name.where, close.where);
        return tree;
    }

    /// Counts the nesting while it lives, so that no text can exhaust the stack.
    class Depth {
    public:
        Depth(Parser& parser, const Token& at) : parser_(parser)
        {
            if (++parser_.depth_ > deepestNesting)
                fail(at, fmt::format("nested more than {} deep", deepestNesting),
                     "make a part of it a field of its own");
        }
        ~Depth() { --parser_.depth_; }
        Depth(const Depth&) = delete;
        Depth& operator=(const Depth&) = delete;

    private:
        Parser& parser_;
    };

    const std::vector<Token>& tokens_;
    std::size_t at_ = 0;
    int depth_ = 0;
};

} // namespace

Result<Syntax> parse(std::string_view text)
{
    const Result<std::vector<Token>> tokens = tokenize(text);
    if (!tokens)
        return tokens.error();
    try {
        return Parser(*tokens).whole();
    } catch (const Parser::Failure& failure) {
        return failure.error;
    }
}

} // namespace sieve::language
