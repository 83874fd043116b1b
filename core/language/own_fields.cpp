#include "core/language/own_fields.h"

#include "core/language/checker.h"
#include "core/language/functions.h"
#include "core/language/renaming.h"

#include <algorithm>
#include <array>
#include <fmt/format.h>

namespace sieve::language {

namespace {

/// Whether the language itself or the program's dictionary uses the name.
bool isTaken(std::string_view name, const Vocabulary& vocabulary)
{
    constexpr std::array<std::string_view, 9> words{"and", "or", "not",      "in", "if",
                                                    "yes", "no", "universe", "all"};
    return std::ranges::find(words, name) != words.end() || vocabulary.field(name) ||
           vocabulary.function(name) || functionNamed(name) || isPlannedPattern(name) ||
           indicators::indicatorNamed(name) || market::statementItemNamed(name);
}

} // namespace

bool isFieldName(std::string_view name)
{
    const auto isLetter = [](char c) { return c >= 'a' && c <= 'z'; };
    return !name.empty() && name.size() <= 64 && isLetter(name[0]) &&
           std::ranges::all_of(
               name, [&](char c) { return isLetter(c) || (c >= '0' && c <= '9') || c == '_'; });
}

OwnFields::OwnFields(const Vocabulary& base) : base_(&base), vocabulary_(base) {}

/// Takes these in place of all own fields, if every one of them checks.
std::optional<LocatedError> OwnFields::replaceAll(std::vector<Field> fields)
{
    Vocabulary vocabulary = *base_;
    for (const Field& field : fields)
        vocabulary.add(field);
    for (Field& field : fields) {
        engine::Plan plan;
        const Result<Checked> checked = check(field.name, {vocabulary}, plan);
        if (checked)
            continue;
        const Result<Checked> formula = check(field.formula, {vocabulary}, plan);
        const LocatedError& error = formula ? checked.error() : formula.error();
        return LocatedError{error.where, fmt::format("{}: {}", field.name, error.problem),
                            error.remedy};
    }
    vocabulary_ = std::move(vocabulary);
    fields_ = std::move(fields);
    return std::nullopt;
}

std::optional<LocatedError> OwnFields::put(Field field)
{
    if (!isFieldName(field.name))
        return LocatedError{{},
                            fmt::format("'{}' is no name of a field", field.name),
                            "use small letters, digits and _, a letter first"};
    if (isTaken(field.name, *base_))
        return LocatedError{{},
                            fmt::format("the name '{}' is taken", field.name),
                            "choose another; the program's own fields stay as they are"};
    Result<Syntax> tree = parse(field.formula);
    if (!tree)
        return tree.error();
    field.tree = *std::move(tree);
    std::vector<Field> fields = fields_;
    const auto place = std::ranges::find(fields, field.name, &Field::name);
    if (place == fields.end())
        fields.push_back(field);
    else
        *place = field;
    if (auto error = replaceAll(fields))
        return error;
    engine::Plan plan; // its kind, and its unit where none is stated, are those of the formula
    const Result<Checked> checked = check(field.formula, {vocabulary_}, plan);
    Field& own = *std::ranges::find(fields, field.name, &Field::name);
    own.kind = checked->kind;
    if (own.unit == Unit::Plain && own.kind == Kind::Number)
        own.unit = checked->unit;
    return replaceAll(std::move(fields));
}

std::optional<LocatedError> OwnFields::remove(std::string_view name)
{
    const std::vector<std::string> users = usersOf(name);
    if (!users.empty())
        return LocatedError{{},
                            fmt::format("'{}' is used by {}", name, fmt::join(users, ", ")),
                            "take it out of their formulas first"};
    std::vector<Field> fields = fields_;
    std::erase_if(fields, [name](const Field& field) { return field.name == name; });
    return replaceAll(std::move(fields));
}

std::optional<LocatedError> OwnFields::rename(std::string_view from, std::string_view to)
{
    if (std::ranges::find(fields_, from, &Field::name) == fields_.end())
        return LocatedError{{}, fmt::format("no own field '{}'", from), "look at the list of them"};
    if (!isFieldName(to))
        return LocatedError{{},
                            fmt::format("'{}' is no name of a field", to),
                            "use small letters, digits and _, a letter first"};
    if (isTaken(to, vocabulary_))
        return LocatedError{{}, fmt::format("the name '{}' is taken", to), "choose another"};
    const Renaming renaming{Renaming::What::Field, std::string(from), std::string(to)};
    std::vector<Field> fields = fields_;
    for (Field& field : fields) {
        if (field.name == from)
            field.name = to;
        field.formula = renaming.in(field.formula);
        field.tree = *parse(field.formula);
    }
    return replaceAll(std::move(fields));
}

std::vector<std::string> OwnFields::usesOf(std::string_view formula) const
{
    std::vector<std::string> uses;
    for (const Token& token : fieldTokens(formula))
        if (vocabulary_.field(token.text) && std::ranges::find(uses, token.text) == uses.end())
            uses.emplace_back(token.text);
    return uses;
}

std::vector<std::string> OwnFields::usersOf(std::string_view name) const
{
    std::vector<std::string> users;
    for (const Field& field : fields_)
        if (std::ranges::any_of(fieldTokens(field.formula),
                                [name](const Token& token) { return token.text == name; }))
            users.push_back(field.name);
    return users;
}

std::string OwnFields::toToml() const
{
    std::string toml;
    for (const Field& field : fields_)
        toml += (toml.empty() ? "" : "\n") + language::toToml(field);
    return toml;
}

Result<OwnFields> OwnFields::fromToml(std::string_view toml, const Vocabulary& base)
{
    Vocabulary file; // in which names are only checked against each other
    const Result<std::size_t> added = file.add(toml);
    if (!added)
        return added.error();
    OwnFields own(base);
    for (const Field& field : file.fields()) {
        if (!isFieldName(field.name) || isTaken(field.name, base))
            return LocatedError{{},
                                fmt::format("'{}' cannot be the name of an own field", field.name),
                                "choose another that is not taken"};
        if (field.formula.empty())
            return LocatedError{
                {}, fmt::format("'{}' has no formula", field.name), "write formula = \"…\""};
    }
    if (auto error = own.replaceAll({file.fields().begin(), file.fields().end()}))
        return *error;
    return own;
}

} // namespace sieve::language
