#include "core/language/reference.h"

#include "core/language/functions.h"
#include "core/language/leaf_fields.h"

#include <fmt/format.h>

namespace sieve::language {

namespace {

/// A table's cell: a bar would end it.
std::string cell(std::string_view text)
{
    std::string escaped;
    for (const char c : text)
        escaped += c == '|' ? std::string("\\|") : std::string(1, c);
    return escaped;
}

std::string formOf(const Field& field)
{
    return field.formula.empty() ? "from the data" : fmt::format("`{}`", cell(field.formula));
}

std::string_view betterOf(const Field& field)
{
    return field.better == Better::High ? "high" : field.better == Better::Low ? "low" : "";
}

} // namespace

std::string usesOf(const Field& field)
{
    const LeafField* leaf = leafFieldNamed(field.name);
    if (leaf && leaf->op == engine::Op::LiveOnly)
        return "while a session runs";
    return field.kind == Kind::Number  ? "criterion, column, rank, chart"
           : field.kind == Kind::YesNo ? "criterion, column, chart"
                                       : "criterion, column";
}

std::string fieldReference(const Vocabulary& vocabulary)
{
    std::string page = "# Fields\n\nMade by `tools/make-reference` from "
                       "`core/language/dictionary/`; a test holds this page to it.\n\n";
    page += fmt::format("{} fields. A figure that cannot be computed is missing: it passes no "
                        "criterion and stands last in every order.\n",
                        vocabulary.fields().size());
    std::string_view family;
    for (const Field& field : vocabulary.fields()) {
        if (field.family != family) {
            family = field.family;
            page +=
                fmt::format("\n## {}\n\n| name | title and meaning | formula | unit | decimals | "
                            "better | usable |\n|---|---|---|---|---|---|---|\n",
                            family);
        }
        page +=
            fmt::format("| `{}` | **{}.** {} | {} | {} | {} | {} | {} |\n", field.name,
                        cell(field.title), cell(field.meaning), formOf(field),
                        field.kind == Kind::Number ? unitName(field.unit) : kindName(field.kind),
                        field.decimals, betterOf(field), usesOf(field));
    }
    return page;
}

std::string functionReference(const Vocabulary& vocabulary)
{
    std::string page = "# Functions\n\nMade by `tools/make-reference`; a test holds this page to "
                       "it. Arguments with a value after `=` may be left out; any may be given by "
                       "name.\n\n| function | meaning | said in the language |\n|---|---|---|\n";
    for (const Signature& signature : signatures(vocabulary)) {
        const ComposedFunction* composed = vocabulary.function(signature.name);
        page += fmt::format("| `{}` | {} | {} |\n", cell(signature.form), cell(signature.help),
                            composed ? fmt::format("`{}`", cell(composed->formula)) : "");
    }
    return page;
}

} // namespace sieve::language
