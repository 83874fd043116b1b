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
    Row row{titleOf(expression, subject), meaningOf(expression, subject), {}};
    row.cells.push_back({.expression = expression});
    const auto* field = subject.names.vocabulary.field(expression);
    if (field && field->kind != Kind::Number)
        return row;
    row.cells.push_back({.expression = fmt::format("percentile({})", expression), .decimals = 0});
    row.cells.push_back({.expression = fmt::format("percentile({}, within = industry)", expression),
                         .decimals = 0});
    row.cells.push_back({.expression = fmt::format("median({}, within = industry)", expression),
                         .decimals = field ? field->decimals : -1});
    return row;
}

const std::vector<std::string>& figureHeads()
{
    static const std::vector<std::string> heads{"now", "among all", "in its industry",
                                                "industry's median"};
    return heads;
}

} // namespace

std::span<const std::string> standardFigures()
{
    return standard;
}

/// In groups: those of the dictionary's families, in the order in which they come.
void layOutFigures(Part& part, const Subject& subject, const Progress&)
{
    const auto& chosen = subject.choices.figures;
    const std::span<const std::string> shown =
        chosen.empty() ? std::span<const std::string>(standard) : std::span(chosen);
    for (const std::string& expression : shown) {
        const auto* field = subject.names.vocabulary.field(expression);
        const std::string family = field ? field->family : std::string("Own expressions");
        auto table = std::ranges::find(part.tables, family, &Table::title);
        if (table == part.tables.end())
            table = part.tables.insert(part.tables.end(),
                                       {"figures." + family, family, Form::Figures, figureHeads()});
        table->rows.push_back(rowOf(expression, subject));
    }
}

void layOutScore(Part& part, const Subject& subject, const Progress&)
{
    Table table{"score.sides",
                "Percentiles",
                Form::Table,
                {"among all", "in its sector", "in its industry", "a quarter ago", "a year ago"}};
    const auto add = [&](const std::string& title, const std::string& meaning,
                         const std::string& expression) {
        Row row{title, meaning, {}};
        row.cells.push_back({.expression = expression, .decimals = 0});
        for (const char* group : {"sector", "industry"})
            row.cells.push_back(
                {.expression = fmt::format("percentile({}, within = {})", expression, group),
                 .decimals = 0});
        for (const int bars : {63, 252})
            row.cells.push_back(
                {.expression = fmt::format("prior({}, {})", expression, bars), .decimals = 0});
        table.rows.push_back(std::move(row));
    };
    for (const valuation::ScoreSide& side : valuation::scoreSides) {
        const std::string field(side.field);
        std::string title(side.name);
        title.front() = static_cast<char>(title.front() - 'a' + 'A');
        add(title, meaningOf(field, subject), field);
    }
    add("All five", meaningOf("score_percentile", subject), "score_percentile");
    part.tables.push_back(std::move(table));
}

} // namespace sieve::dossier
