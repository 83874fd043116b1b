#include "core/screens/screen_text.h"

#include "core/base/trimmed.h"
#include "core/language/syntax.h"
#include "core/language/token.h"

#include <algorithm>

namespace sieve::screens {

namespace {

using language::Form;
using language::Syntax;

constexpr std::string_view offMark = "off: ";

/// On one line, in parentheses where another `and` beside it would change what it says.
std::string lineOf(const std::string& criterion)
{
    std::string line;
    const auto tokens = language::tokenize(criterion);
    if (!tokens || criterion.find('#') != std::string::npos)
        line = criterion; // what is wrong is shown as it is
    else
        for (const char c : trimmed(criterion))
            line += c == '\n' || c == '\r' || c == '\t' ? ' ' : c;
    const auto tree = language::parse(criterion);
    const bool isJoined = tree && (tree->form == Form::And || tree->form == Form::Or);
    return isJoined ? "(" + line + ")" : line;
}

void addComment(std::string& text, std::string_view comment)
{
    while (!comment.empty()) {
        const std::size_t end = std::min(comment.find('\n'), comment.size());
        text.append("# ").append(comment.substr(0, end)).append("\n");
        comment.remove_prefix(std::min(end + 1, comment.size()));
    }
}

std::string_view withoutAnd(std::string_view line)
{
    line = trimmed(line);
    return line.starts_with("and ") ? trimmed(line.substr(4)) : line;
}

/// Takes off the parentheses around the whole of a criterion.
std::string_view bared(std::string_view criterion)
{
    if (!criterion.starts_with('(') || !criterion.ends_with(')'))
        return criterion;
    const std::string_view inside = trimmed(criterion.substr(1, criterion.size() - 2));
    return language::parse(inside) ? inside : criterion; // "(a) and (b)" is not one
}

class Reader {
public:
    Reader(std::string_view text, std::span<const Criterion> former) : text_(text), former_(former)
    {
    }

    CriteriaRead run(std::span<const std::pair<std::size_t, std::size_t>> places)
    {
        std::size_t done = 0;
        for (const auto& [from, to] : places) {
            gap(done, from);
            const std::string_view own = trimmed(text_.substr(from, to - from));
            add(std::string(bared(own)), true, static_cast<std::size_t>(own.data() - text_.data()));
            done = to;
        }
        gap(done, text_.size());
        if (!comment_.empty() && !read_.criteria.empty() && read_.criteria.back().comment.empty())
            read_.criteria.back().comment = comment_;
        return std::move(read_);
    }

private:
    /// Comments between two criteria: behind the first on its line, or above the second.
    void gap(std::size_t from, std::size_t to)
    {
        bool isBehind = from > 0;
        std::string_view rest = text_.substr(from, to - from);
        while (!rest.empty()) {
            const std::size_t end = std::min(rest.find('\n'), rest.size());
            const std::string_view line = rest.substr(0, end);
            if (const std::size_t mark = line.find('#'); mark != std::string_view::npos)
                comment(trimmed(line.substr(mark + 1)), isBehind,
                        static_cast<std::size_t>(line.data() - text_.data()) + mark);
            isBehind = false;
            rest.remove_prefix(std::min(end + 1, rest.size()));
        }
    }

    void comment(std::string_view said, bool isBehind, std::size_t at)
    {
        if (said.starts_with(trimmed(offMark)))
            add(std::string(bared(withoutAnd(said.substr(trimmed(offMark).size())))), false, at);
        else if (isBehind && !read_.criteria.empty() && read_.criteria.back().comment.empty())
            read_.criteria.back().comment = said;
        else
            comment_.append(comment_.empty() ? "" : " ").append(said);
    }

    void add(std::string criterion, bool isOn, std::size_t offset)
    {
        const auto same = std::ranges::find(former_, criterion, &Criterion::text);
        read_.criteria.push_back({std::move(criterion), isOn, std::exchange(comment_, {}),
                                  same == former_.end() ? std::string() : same->remarks});
        read_.offsets.push_back(offset);
    }

    std::string_view text_;
    std::span<const Criterion> former_;
    std::string comment_; ///< for the next criterion
    CriteriaRead read_;
};

/// Where the criteria of a text begin and end: the parts between its outermost `and`s.
std::vector<std::pair<std::size_t, std::size_t>> placesOf(std::span<const language::Token> tokens)
{
    std::vector<std::pair<std::size_t, std::size_t>> places;
    int depth = 0;
    bool isOpen = false;
    for (const language::Token& token : tokens) {
        if (token.kind == language::TokenKind::End)
            break;
        depth += token.is("(") ? 1 : token.is(")") ? -1 : 0;
        if (depth == 0 && token.kind == language::TokenKind::Name && token.text == "and") {
            isOpen = false;
            continue;
        }
        if (!isOpen)
            places.emplace_back(token.where.offset, 0);
        isOpen = true;
        places.back().second = token.where.offset + token.where.bytes;
    }
    return places;
}

} // namespace

std::string criteriaToText(std::span<const Criterion> criteria)
{
    std::string text;
    bool isFirst = true;
    for (const Criterion& criterion : criteria) {
        addComment(text, criterion.comment);
        text += criterion.isOn ? "" : "# " + std::string(offMark);
        text += isFirst || !criterion.isOn ? "" : "and ";
        text += lineOf(criterion.text) + '\n';
        isFirst = isFirst && !criterion.isOn;
    }
    return text;
}

Result<CriteriaRead> criteriaFromText(std::string_view text, std::span<const Criterion> former)
{
    const auto tokens = language::tokenize(text);
    if (!tokens)
        return tokens.error();
    if (tokens->size() <= 1) // comments only
        return Reader(text, former).run({});
    const Result<Syntax> tree = language::parse(text);
    if (!tree)
        return tree.error();
    const bool isStack = tree->form == Form::And;
    const auto places = placesOf(*tokens);
    if (isStack && places.size() > 1)
        return Reader(text, former).run(places);
    const std::pair<std::size_t, std::size_t> whole{
        places.front().first, places.back().second}; // one, with an `or` or in parentheses
    return Reader(text, former).run(std::span(&whole, 1));
}

} // namespace sieve::screens
