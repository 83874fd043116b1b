#include "core/language/functions.h"

#include "core/base/spelling.h"

#include <algorithm>
#include <array>
#include <fmt/format.h>

namespace sieve::language {

namespace {

constexpr std::array ownName{Parameter{"name", Accepts::Quoted}};

/// Not the engine's: the checker puts what the person's own name stands for in their place.
constexpr std::array ofOwnNames{
    Operator{.op = engine::Op::And,
             .family = engine::Family::ValueByValue,
             .name = "passes",
             .help = "Whether the stock passes one of your screens",
             .parameters = ownName,
             .kind = Kind::YesNo},
    Operator{.op = engine::Op::Add,
             .family = engine::Family::ValueByValue,
             .name = "checklist",
             .help = "How many questions of one of your checklists are answered by yes",
             .parameters = ownName},
};

/// Calls visit(operator) for all that are called by a name.
template <class Visit> void eachFunction(Visit visit)
{
    for (const Operator& each : engine::operators())
        if (!each.name.empty())
            visit(each);
    std::ranges::for_each(ofOwnNames, visit);
}

/// Names that are kept for functions of patterns.
constexpr std::array<std::string_view, 12> plannedPatterns{
    "base_depth",     "base_weeks",       "base_count",  "pivot",
    "pivot_distance", "in_base",          "tight",       "gap",
    "island",         "undercut_reclaim", "pullback_to", "volume_overhead"};

template <class Parameters> std::string formOf(std::string_view name, const Parameters& parameters)
{
    std::string form(name);
    const char* separator = "(";
    for (const Parameter& parameter : parameters) {
        form += separator;
        form += parameter.name;
        if (parameter.accepts == Accepts::Within)
            form += " = all";
        else if (parameter.accepts == Accepts::Group)
            form += " = industry";
        else if (parameter.accepts == Accepts::Weight)
            form += " = equal";
        else if (parameter.accepts == Accepts::Stocks)
            form += " = all";
        else if (parameter.accepts == Accepts::Quoted)
            form += parameter.initial ? " = \"\"" : " = \"…\"";
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

const Operator* functionNamed(std::string_view name)
{
    for (const std::span<const Operator> all :
         {engine::operators(), std::span<const Operator>(ofOwnNames)})
        if (const auto found = std::ranges::find(all, name, &Operator::name);
            !name.empty() && found != all.end())
            return &*found;
    return nullptr;
}

bool isPlannedPattern(std::string_view name)
{
    return std::ranges::find(plannedPatterns, name) != plannedPatterns.end();
}

std::vector<Parameter> parametersOf(const indicators::Indicator& indicator)
{
    using indicators::Input;
    std::vector<Parameter> parameters;
    for (const Input input : indicator.inputs) {
        if (input == Input::Figure)
            parameters.push_back({"x", Accepts::Figure});
        if (input == Input::Other)
            parameters.push_back({"y", Accepts::Figure});
        if (input == Input::Condition)
            parameters.push_back({"condition", Accepts::Condition});
    }
    if (const auto& period = indicator.period) {
        Parameter n{"n", Accepts::Whole, std::nullopt, static_cast<double>(period->least),
                    static_cast<double>(period->most)};
        if (period->initial != 0)
            n.initial = period->initial;
        parameters.push_back(n);
    }
    for (const indicators::FactorParameter& factor : indicator.factors)
        parameters.push_back(
            {factor.name, Accepts::Factor, factor.initial, factor.least, factor.most});
    return parameters;
}

std::vector<Signature> signatures(const Vocabulary& vocabulary)
{
    std::vector<Signature> all;
    for (const auto& indicator : indicators::catalog())
        all.push_back({std::string(indicator.key), formOf(indicator.key, parametersOf(indicator)),
                       std::string(indicator.help)});
    eachFunction([&](const Operator& each) {
        all.push_back(
            {std::string(each.name), formOf(each.name, each.parameters), std::string(each.help)});
    });
    for (const ComposedFunction& function : vocabulary.functions())
        all.push_back({function.name, formOf(function), function.meaning});
    std::ranges::sort(all, {}, &Signature::name);
    return all;
}

std::string nearestName(std::string_view name, const Vocabulary& vocabulary)
{
    const std::string_view typed = name.substr(0, 64);
    std::string nearest;
    std::size_t least = std::max<std::size_t>(2, name.size() / 3) + 1;
    const auto consider = [&](std::string_view candidate, const auto& shown) {
        if (candidate.starts_with(name)) {
            if (least > 1)
                nearest = shown();
            least = std::min<std::size_t>(least, 1);
            return;
        }
        if (const std::size_t slips = slipsBetween(typed, candidate, least); slips < least) {
            least = slips;
            nearest = shown();
        }
    };
    for (const Field& field : vocabulary.fields())
        consider(field.name, [&] { return field.name; });
    for (const auto& indicator : indicators::catalog())
        consider(indicator.key, [&] { return formOf(indicator.key, parametersOf(indicator)); });
    eachFunction([&](const Operator& each) {
        consider(each.name, [&] { return formOf(each.name, each.parameters); });
    });
    for (const ComposedFunction& function : vocabulary.functions())
        consider(function.name, [&] { return formOf(function); });
    for (const market::StatementItem& item : market::statementItems())
        consider(item.key, [&] { return fmt::format("ttm({})", item.key); });
    return nearest;
}

} // namespace sieve::language
