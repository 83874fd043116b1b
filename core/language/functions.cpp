#include "core/language/functions.h"

#include "core/base/spelling.h"

#include <algorithm>
#include <array>
#include <fmt/format.h>

namespace sieve::language {

using engine::Op;

namespace {

constexpr Parameter back{"back", Accepts::Whole, 0.0, 0, 80};
constexpr Parameter aroundAll{"within", Accepts::Within, 0.0};

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
constexpr std::array onBarParameters{Parameter{"n", Accepts::Whole, std::nullopt, 1, 100'000},
                                     Parameter{"x", Accepts::Anything}};
constexpr std::array onDayParameters{Parameter{"day", Accepts::Day},
                                     Parameter{"x", Accepts::Anything}};
constexpr std::array containsParameters{Parameter{"text", Accepts::Anything},
                                        Parameter{"word", Accepts::Quoted}};
constexpr std::array otherBars{Parameter{"x", Accepts::OtherBars}};
constexpr std::array minutesParameters{Parameter{"n", Accepts::Whole, std::nullopt, 1, 390},
                                       Parameter{"x", Accepts::OtherBars}};
constexpr std::array indexParameters{Parameter{"symbol", Accepts::Quoted},
                                     Parameter{"x", Accepts::OtherBars}};
constexpr std::array compositeParameters{Parameter{"x", Accepts::OtherBars},
                                         Parameter{"weight", Accepts::Weight, 0.0}};
constexpr std::array itemParameters{Parameter{"item", Accepts::Item}, back};
constexpr std::array stabilityParameters{Parameter{"item", Accepts::Item},
                                         Parameter{"years", Accepts::Whole, 5.0, 1, 15}};
constexpr std::array estimateParameters{Parameter{"measure", Accepts::Measure},
                                        Parameter{"ahead", Accepts::Whole, 0.0, 0, 8}};
constexpr std::array revisionParameters{Parameter{"measure", Accepts::Measure},
                                        Parameter{"days", Accepts::Whole, 90.0, 1, 1000}};
constexpr std::array surpriseParameters{Parameter{"measure", Accepts::Measure}, back};
constexpr std::array ownerParameters{Parameter{"kind", Accepts::Owner}, back};
constexpr std::array newsParameters{Parameter{"days", Accepts::Whole, std::nullopt, 1, 5000},
                                    Parameter{"word", Accepts::Quoted, 0.0}};
constexpr std::array targetParameters{Parameter{"days", Accepts::Whole, 180.0, 1, 1000}};
constexpr std::array dividendParameters{Parameter{"days", Accepts::Whole, 365.0, 1, 5000}};
constexpr std::array quotedName{Parameter{"name", Accepts::Quoted}};
constexpr std::array acrossFigure{Parameter{"x"}, aroundAll};
constexpr Parameter whichStocks{"stocks", Accepts::Stocks, 0.0};
constexpr std::array acrossFigures{Parameter{"x"}, aroundAll, whichStocks};
constexpr std::array acrossCondition{Parameter{"condition", Accepts::Condition}, aroundAll,
                                     whichStocks};
constexpr std::array groupRankParameters{Parameter{"x"}, Parameter{"of", Accepts::Group, 0.0}};

const std::array table{
    // Choosing and computing
    Function{"if", "a where the condition holds, else b", ifParameters, Op::If},
    Function{"known", "Whether there is a value at all", anything, Op::Known},
    Function{"or_else", "x, or y where x is not known", twoOfAnything, Op::OrElse},
    Function{"abs", "x without its sign", figure, Op::Absolute},
    Function{"min", "The lesser of two", twoFigures, Op::Lesser},
    Function{"max", "The greater of two", twoFigures, Op::Greatest},
    Function{"sqrt", "Square root", figure, Op::SquareRoot},
    Function{"log", "Natural logarithm", figure, Op::Logarithm},
    Function{"floor", "The whole number at or below x", figure, Op::Floor},
    Function{"contains", "Whether a text has a word in it, small or capital", containsParameters,
             Op::Contains},
    // Back in time
    Function{"prior", "The value n bars ago", priorParameters, Op::Prior},
    Function{"on_bar", "The value on the n-th bar of the instrument", onBarParameters, Op::OnBar},
    Function{"on_day", "The value on the newest bar by a day; none before that day",
             onDayParameters, Op::OnDay},
    Function{"at_year_end", "The value on the last bar of the calendar year before", anything,
             Op::AtYearEnd},
    Function{"as_traded", "A price or volume as it was traded, later splits left in", figure,
             Op::AsTraded},
    // Other bars
    Function{"weekly", "x on weekly bars; the week that runs counts as its last bar", otherBars,
             Op::Weekly},
    Function{"monthly", "x on monthly bars; the month that runs counts as its last bar", otherBars,
             Op::Monthly},
    Function{"minutes", "x on bars of n minutes, at the last one of the day", minutesParameters,
             Op::Minutes},
    Function{"benchmark", "x of the market's benchmark", otherBars, Op::OtherStock},
    Function{"index", "x of the index or any other instrument of that symbol", indexParameters,
             Op::OtherStock},
    Function{"composite", "x of all shares together, weighing the same or by capitalization",
             compositeParameters, Op::Composite},
    // Statements, estimates, owners, notices
    Function{"quarter", "An item of the newest quarter filed, or of one before it", itemParameters,
             Op::Quarter},
    Function{"year", "An item of the newest year filed, or of one before it", itemParameters,
             Op::Year},
    Function{"ttm",
             "An item summed over four quarters (trailing twelve months), ending so many "
             "quarters back",
             itemParameters, Op::TrailingTwelveMonths},
    Function{"stability",
             "How straight an item's trailing sums ran over so many years, 0 to 1 (r squared)",
             stabilityParameters, Op::Stability},
    Function{"estimate", "What analysts expect for the running year, or for one ahead",
             estimateParameters, Op::Estimate},
    Function{"estimate_quarter", "What analysts expect for the running quarter, or for one ahead",
             estimateParameters, Op::Estimate},
    Function{"revision", "How the estimate for the running year changed over so many days",
             revisionParameters, Op::Revision},
    Function{"surprise", "A reported quarter against what was expected the day before",
             surpriseParameters, Op::Surprise},
    Function{"held", "Share of all shares that a kind of owner holds", ownerParameters, Op::Held},
    Function{"holders", "How many owners of a kind there are", ownerParameters, Op::Holders},
    Function{"news_within", "Whether news of so many days (with a word in it) name the stock",
             newsParameters, Op::NewsWithin},
    Function{"target", "Mean of the price targets that houses gave in so many days",
             targetParameters, Op::PriceTarget},
    Function{"dividends_paid", "Dividends a share over so many days, by ex-day", dividendParameters,
             Op::DividendsPaid},
    // Lists and screens
    Function{"in_index", "Whether the stock was a member of an index", quotedName, Op::InIndex},
    Function{"on_list", "Whether the stock was on one of your lists", quotedName, Op::OnList},
    Function{"passes", "Whether the stock passes one of your screens", quotedName, Op::And},
    // Across stocks
    Function{"percentile", "Share of stocks below it that day, those equal counting half; 0 to 100",
             acrossFigure, Op::Percentile},
    Function{"rank", "Place among all stocks that day, 1 for the largest", acrossFigure, Op::Rank},
    Function{"median",
             "Middle value of all stocks that day; stocks = traded leaves out those that "
             "did not trade",
             acrossFigures, Op::Median},
    Function{"mean", "Mean over all stocks that day", acrossFigures, Op::Mean},
    Function{"total_of", "Sum over all stocks that day", acrossFigures, Op::TotalOf},
    Function{"zscore", "Distance from that day's mean in standard deviations (divisor n - 1)",
             acrossFigure, Op::ZScore},
    Function{"share_of", "Share of stocks for which the condition holds that day", acrossCondition,
             Op::ShareOf},
    Function{"count_of", "Number of stocks for which the condition holds that day", acrossCondition,
             Op::CountOf},
    Function{"group_rank", "Place of the stock's group among all by the mean of x, 1 for the most",
             groupRankParameters, Op::GroupRank},
};

/// Names that are kept for functions of patterns.
constexpr std::array<std::string_view, 14> plannedPatterns{
    "base_depth",  "base_weeks",     "base_count",  "pivot", "pivot_distance", "in_base",
    "tight",       "inside_day",     "outside_day", "gap",   "island",         "undercut_reclaim",
    "pullback_to", "volume_overhead"};

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

std::span<const Function> functions()
{
    return table;
}

const Function* functionNamed(std::string_view name)
{
    const auto* found = std::ranges::find(table, name, &Function::name);
    return found == table.end() ? nullptr : found;
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
    for (const Function& function : table)
        consider(function.name, [&] { return formOf(function.name, function.parameters); });
    for (const ComposedFunction& function : vocabulary.functions())
        consider(function.name, [&] { return formOf(function); });
    for (const market::StatementItem& item : market::statementItems())
        consider(item.key, [&] { return fmt::format("ttm({})", item.key); });
    return nearest;
}

} // namespace sieve::language
