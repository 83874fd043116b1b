#include "core/dossier/parts.h"
#include "core/valuation/scorecard.h"

#include <algorithm>
#include <array>
#include <fmt/format.h>
#include <map>

namespace sieve::dossier {

namespace {

const std::array<std::string, 26> standard{"close",
                                           "day_change",
                                           "month_change",
                                           "distance_from_high",
                                           "rsi_14",
                                           "atr_percent",
                                           "strength_126",
                                           "average_traded_value",
                                           "market_cap",
                                           "price_to_earnings",
                                           "price_to_sales",
                                           "price_to_book",
                                           "dividend_yield",
                                           "free_cash_flow_yield",
                                           "fair_value_distance",
                                           "eps_growth",
                                           "eps_growth_quarter",
                                           "revenue_growth",
                                           "revenue_growth_quarter",
                                           "gross_margin",
                                           "operating_margin",
                                           "net_margin",
                                           "return_on_equity",
                                           "return_on_capital",
                                           "debt_to_equity",
                                           "current_ratio"};

/// A figure with its place among all and in its industry, and the industry's middle value.
Row rowOf(const std::string& expression, const Subject& subject)
{
    Row row{.title = titleOf(expression, subject), .meaning = meaningOf(expression, subject)};
    row.cells.push_back({.expression = expression});
    const auto* field = subject.names.vocabulary.field(expression);
    if (field && field->kind != Kind::Number)
        return row;
    row.cells.push_back({.expression = fmt::format("percentile({})", expression), .decimals = 0});
    row.cells.push_back({.expression = fmt::format("percentile({}, within = industry)", expression),
                         .decimals = 0});
    row.cells.push_back({.expression = fmt::format("median({}, within = industry)", expression),
                         .decimals = field ? field->decimals : -1,
                         .isInMarketCurrency = true});
    return row;
}

/// The families of the dictionary that are shown together; any other is a group of its own.
std::string groupOf(const std::string& family)
{
    struct Together {
        const char* family;
        const char* group;
    };
    constexpr std::array all{Together{"Price", "Price and trade"},
                             Together{"Trend", "Price and trade"},
                             Together{"Volatility", "Price and trade"},
                             Together{"Volume", "Price and trade"},
                             Together{"Relative strength", "Price and trade"},
                             Together{"Price multiples", "Value"},
                             Together{"Dividends", "Value"},
                             Together{"Fair value", "Value"},
                             Together{"Estimates", "Value"},
                             Together{"Per share", "Value"},
                             Together{"Growth", "Growth and profit"},
                             Together{"Margins and returns", "Growth and profit"}};
    for (const Together& each : all)
        if (family == each.family)
            return each.group;
    return family;
}

const std::vector<std::string>& figureHeads()
{
    static const std::vector<std::string> heads{"now", "among all", "in its industry",
                                                "industry's median"};
    return heads;
}

} // namespace

/// In groups, in the order in which they come.
void layOutFigures(Part& part, const Subject& subject, const Progress&)
{
    const auto& chosen = subject.choices.figures;
    const std::span<const std::string> shown =
        chosen.empty() ? std::span<const std::string>(standard) : std::span(chosen);
    for (const std::string& expression : shown) {
        const auto* field = subject.names.vocabulary.field(expression);
        const std::string group = field ? groupOf(field->family) : "Own expressions";
        auto table = std::ranges::find(part.tables, group, &Table::title);
        if (table == part.tables.end())
            table = part.tables.insert(part.tables.end(),
                                       {"figures." + group, group, Form::Figures, figureHeads()});
        table->rows.push_back(rowOf(expression, subject));
    }
}

/// What a person chose is shown, known or not; of the standard figures, groups of which something
/// is known.
void tellFigures(Part& part, const Subject& subject)
{
    const auto isUnknown = [](const Row& row) { return isMissing(row.cells[0].value); };
    if (subject.choices.figures.empty())
        std::erase_if(part.tables, [&](const Table& table) {
            return std::ranges::all_of(table.rows, isUnknown);
        });
    if (part.tables.empty())
        part.words.emplace_back("It has no figures on this day.");
}

namespace {

/// The sides of the score, all of them together, and the person's blend where it weighs otherwise.
std::vector<std::string> scoreFields(const valuation::ScoreWeights& weights)
{
    std::vector<std::string> fields;
    for (const valuation::ScoreSide& side : valuation::scoreSides)
        fields.emplace_back(side.field);
    fields.emplace_back("score_percentile");
    if (weights != valuation::equalWeights)
        fields.push_back(valuation::blendOf(weights));
    return fields;
}

/// What the fields were so many sessions ago, as known then. Asked for all stocks of that day,
/// which the evaluator keeps for the next stock.
std::vector<double> valuesAgo(std::span<const std::string> fields, std::size_t sessionsAgo,
                              const Subject& subject, const Progress& progress)
{
    const auto sessions = subject.evaluator.market().sessions();
    const auto last = static_cast<std::size_t>(std::ranges::upper_bound(sessions, subject.day) -
                                               sessions.begin());
    std::vector<double> values(fields.size(), missing);
    if (last <= sessionsAgo)
        return values;
    engine::Plan plan;
    std::vector<engine::NodeId> targets;
    for (const std::string& field : fields)
        targets.push_back(language::check(field, subject.names, plan)->node);
    const auto columns =
        subject.evaluator.columns(plan, targets, sessions[last - 1 - sessionsAgo], progress);
    for (std::size_t i = 0; i < fields.size(); ++i)
        values[i] = (*columns[i])[subject.stock];
    return values;
}

} // namespace

void layOutScore(Part& part, const Subject& subject, const Progress& progress)
{
    Table table{
        "score.sides",
        "Percentiles",
        Form::Table,
        {"among all", "in its sector", "in its industry", "63 sessions ago", "252 sessions ago"}};
    const std::vector<std::string> fields = scoreFields(subject.choices.weights);
    const std::vector<double> quarterAgo = valuesAgo(fields, 63, subject, progress);
    const std::vector<double> yearAgo = valuesAgo(fields, 252, subject, progress);
    for (std::size_t i = 0; i < fields.size(); ++i) {
        Row row{.title = titleOf(fields[i], subject), .meaning = meaningOf(fields[i], subject)};
        if (i < valuation::scoreSides.size()) {
            row.title = valuation::scoreSides[i].name;
            row.title.front() = static_cast<char>(row.title.front() - 'a' + 'A');
        } else if (i > valuation::scoreSides.size()) {
            row.title = "Your blend";
            row.meaning = "The sides that are known, weighed as you chose";
        }
        row.cells.push_back({.expression = fields[i], .unit = Unit::Points, .decimals = 0});
        for (const char* group : {"sector", "industry"})
            row.cells.push_back(
                {.expression = fmt::format("percentile({}, within = {})", fields[i], group),
                 .decimals = 0});
        for (const double ago : {quarterAgo[i], yearAgo[i]})
            row.cells.push_back({.value = ago, .unit = Unit::Points, .decimals = 0});
        table.rows.push_back(std::move(row));
    }
    part.tables.push_back(std::move(table));
}

} // namespace sieve::dossier
