#include "core/expressions/functions.h"

#include <algorithm>
#include <array>
#include <fmt/format.h>
#include <numeric>

namespace sieve::expressions {

namespace {

constexpr std::array priorParameters{Parameter{"x", Accepts::Anything},
                                     Parameter{"n", Accepts::Whole, 1.0}};
constexpr std::array ifParameters{Parameter{"condition", Accepts::Condition},
                                  Parameter{"a", Accepts::Anything},
                                  Parameter{"b", Accepts::Anything}};
constexpr std::array anything{Parameter{"x", Accepts::Anything}};
constexpr std::array twoOfAnything{Parameter{"x", Accepts::Anything},
                                   Parameter{"y", Accepts::Anything}};
constexpr std::array figure{Parameter{"x"}};
constexpr std::array twoFigures{Parameter{"a"}, Parameter{"b"}};
constexpr std::array itemParameters{Parameter{"item", Accepts::Item},
                                    Parameter{"back", Accepts::Whole, 0.0, 0, 80}};
constexpr std::array acrossFigure{Parameter{"x"}, Parameter{"within", Accepts::Within, 0.0}};
constexpr std::array acrossCondition{Parameter{"condition", Accepts::Condition},
                                     Parameter{"within", Accepts::Within, 0.0}};

const std::array table{
    Function{"prior", "The value n bars ago", priorParameters, Op::Prior},
    Function{"if", "a where the condition holds, else b", ifParameters, Op::If},
    Function{"known", "Whether there is a value at all", anything, Op::Known},
    Function{"or_else", "x, or y where x is not known", twoOfAnything, Op::OrElse},
    Function{"abs", "x without its sign", figure, Op::Absolute},
    Function{"min", "The lesser of two", twoFigures, Op::Lesser},
    Function{"max", "The greater of two", twoFigures, Op::Greatest},
    Function{"sqrt", "Square root", figure, Op::SquareRoot},
    Function{"log", "Natural logarithm", figure, Op::Logarithm},
    Function{"quarter", "An item of the newest quarter filed, or of one before it", itemParameters,
             Op::Quarter},
    Function{"year", "An item of the newest year filed, or of one before it", itemParameters,
             Op::Year},
    Function{"ttm",
             "An item summed over four quarters (trailing twelve months), ending so many "
             "quarters back",
             itemParameters, Op::TrailingTwelveMonths},
    Function{"percentile", "Share of stocks below it that day, those equal counting half; 0 to 100",
             acrossFigure, Op::Percentile},
    Function{"rank", "Place among all stocks that day, 1 for the largest", acrossFigure, Op::Rank},
    Function{"median", "Middle value of all stocks that day", acrossFigure, Op::Median},
    Function{"mean", "Mean over all stocks that day", acrossFigure, Op::Mean},
    Function{"zscore", "Distance from that day's mean in standard deviations (divisor n - 1)",
             acrossFigure, Op::ZScore},
    Function{"share_of", "Share of stocks for which the condition holds that day", acrossCondition,
             Op::ShareOf},
    Function{"count_of", "Number of stocks for which the condition holds that day", acrossCondition,
             Op::CountOf},
};

/// Levenshtein's distance, the number of letters to change, add or drop.
std::size_t distance(std::string_view a, std::string_view b)
{
    std::vector<std::size_t> row(b.size() + 1);
    std::iota(row.begin(), row.end(), std::size_t{0});
    for (std::size_t i = 0; i < a.size(); ++i) {
        std::size_t diagonal = row[0];
        row[0] = i + 1;
        for (std::size_t j = 0; j < b.size(); ++j) {
            const std::size_t changed = diagonal + (a[i] == b[j] ? 0 : 1);
            diagonal = row[j + 1];
            row[j + 1] = std::min({row[j] + 1, row[j + 1] + 1, changed});
        }
    }
    return row.back();
}

template <class Parameters> std::string formOf(std::string_view name, const Parameters& parameters)
{
    std::string form(name);
    const char* separator = "(";
    for (const Parameter& parameter : parameters) {
        form += separator;
        form += parameter.name;
        if (parameter.accepts == Accepts::Within)
            form += " = all";
        else if (parameter.initial)
            form += fmt::format(" = {:g}", *parameter.initial);
        separator = ", ";
    }
    return *separator == '(' ? form : form + ")";
}

std::string formOf(const ComposedFunction& function)
{
    std::string form = function.name;
    const char* separator = "(";
    for (std::size_t i = 0; i < function.parameters.size(); ++i) {
        form += separator + function.parameters[i];
        if (!function.defaults[i].empty())
            form += " = " + function.defaults[i];
        separator = ", ";
    }
    return form + ")";
}

} // namespace

std::span<const Function> functions()
{
    return table;
}

const Function* functionNamed(std::string_view name)
{
    const auto* found = std::ranges::find(table, name, &Function::name);
    return found == table.end() ? nullptr : found;
}

std::vector<Parameter> parametersOf(const indicators::Indicator& indicator)
{
    std::vector<Parameter> parameters;
    if (indicator.inputs[0] == indicators::Input::Figure)
        parameters.push_back({"x", Accepts::Figure});
    if (indicator.inputs[0] == indicators::Input::Condition)
        parameters.push_back({"condition", Accepts::Condition});
    if (const auto& period = indicator.period) {
        Parameter n{"n", Accepts::Whole, std::nullopt, period->least, period->most};
        if (period->initial != 0)
            n.initial = period->initial;
        parameters.push_back(n);
    }
    return parameters;
}

std::vector<Signature> signatures(const Vocabulary& vocabulary)
{
    std::vector<Signature> all;
    for (const auto& indicator : indicators::catalog())
        all.push_back({std::string(indicator.key), formOf(indicator.key, parametersOf(indicator)),
                       std::string(indicator.help)});
    for (const Function& function : table)
        all.push_back({std::string(function.name), formOf(function.name, function.parameters),
                       std::string(function.help)});
    for (const ComposedFunction& function : vocabulary.functions())
        all.push_back({function.name, formOf(function), function.meaning});
    std::ranges::sort(all, {}, &Signature::name);
    return all;
}

std::string nearestName(std::string_view name, const Vocabulary& vocabulary)
{
    std::string nearest;
    std::size_t least = std::max<std::size_t>(2, name.size() / 3) + 1;
    const auto consider = [&](std::string_view candidate, std::string_view shown) {
        const std::size_t letters =
            candidate.starts_with(name) ? std::size_t{1} : distance(name.substr(0, 64), candidate);
        if (letters < least) {
            least = letters;
            nearest = shown;
        }
    };
    for (const Field& field : vocabulary.fields())
        consider(field.name, field.name);
    for (const Signature& signature : signatures(vocabulary))
        consider(signature.name, signature.form);
    for (const market::StatementItem& item : market::statementItems())
        consider(item.key, fmt::format("ttm({})", item.key));
    return nearest;
}

} // namespace sieve::expressions
