#include "core/dossier/parts.h"
#include "core/market/as_of.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <cstdlib>
#include <fmt/format.h>

// What a company filed: quarters and years side by side, each against the year before.

namespace sieve::dossier {

namespace {

using market::Period;

/// How the line of a year before is told beside a line.
enum class Against { Growth, Difference };

/// A line of a table. Items of the statements stand in braces: {revenue} is that of the period,
/// {+net_income} the sum of four quarters to it (of a year: its own).
struct Line {
    const char* title;
    const char* formula;
    Against against = Against::Growth;
    bool isPerShare = false; ///< as it is stated
};

struct TableOfLines {
    const char* key;
    const char* title;
    std::span<const Line> lines;
};

constexpr std::array income{
    Line{"Revenue", "{revenue}"},
    Line{"Cost of sales", "{cost_of_sales}"},
    Line{"Gross profit", "{gross_profit}"},
    Line{"Operating income", "{operating_income}"},
    Line{"Interest expense", "{interest_expense}"},
    Line{"Net income", "{net_income}"},
    Line{"Earnings per share, diluted", "{eps}", Against::Growth, true},
    Line{"Dividends per share", "{dividends_per_share}", Against::Growth, true},
};
constexpr std::array margins{
    Line{"Gross margin", "{gross_profit} / {revenue}", Against::Difference, true},
    Line{"Operating margin", "{operating_income} / {revenue}", Against::Difference, true},
    Line{"Net margin", "{net_income} / {revenue}", Against::Difference, true},
    Line{"Free cash flow margin", "({operating_cash_flow} - {capital_expenditure}) / {revenue}",
         Against::Difference, true},
    Line{"Return on equity, four quarters", "{+net_income} / positive({equity})",
         Against::Difference, true},
    Line{"Return on capital, four quarters", "{+operating_income} / positive({equity} + {debt})",
         Against::Difference, true},
};
constexpr std::array cashFlow{
    Line{"Operating cash flow", "{operating_cash_flow}"},
    Line{"Capital expenditure", "{capital_expenditure}"},
    Line{"Free cash flow", "({operating_cash_flow} - {capital_expenditure})"},
    Line{"Depreciation and amortization", "{depreciation}"},
};
constexpr std::array balance{
    Line{"Total assets", "{total_assets}"},
    Line{"Current assets", "{current_assets}"},
    Line{"Inventory", "{inventory}"},
    Line{"Cash and equivalents", "{cash}"},
    Line{"Total liabilities", "{total_liabilities}"},
    Line{"Current liabilities", "{current_liabilities}"},
    Line{"Interest-bearing debt", "{debt}"},
    Line{"Shareholders' equity", "{equity}"},
};
constexpr std::array tables{
    TableOfLines{"income", "Income", income},
    TableOfLines{"margins", "Margins and returns", margins},
    TableOfLines{"cash", "Cash flow", cashFlow},
    TableOfLines{"balance", "Balance sheet", balance},
};

/// What differs between quarters and years.
struct Span {
    Period period;
    const char* key;
    const char* title;
    int shown;
    int aYear; ///< periods
    int months;
    int quartersSince = -1; ///< from the newest year to the newest quarter; less than 0: not known
};
constexpr std::array spans{Span{Period::Quarter, "quarters", "by quarter", 12, 4, 3},
                           Span{Period::Year, "years", "by year", 10, 1, 12}};

/// Quarters from the end of the newest year to the newest quarter: what stands on a balance sheet
/// at the end of a year is often filed with its last quarter alone.
int quartersSince(Day yearEnd, Day quarterEnd)
{
    constexpr double daysAQuarter = 91.31;
    return static_cast<int>(std::lround((quarterEnd - yearEnd) / daysAQuarter));
}

/// An item of the period `back` before the newest; `isSummed`: of the four quarters to it.
std::string itemText(std::string_view item, bool isSummed, const Span& span, int back)
{
    const char* of = span.period == Period::Year ? "year" : isSummed ? "ttm" : "quarter";
    const auto number = market::statementItemNamed(item);
    const std::string text = fmt::format("{}({}, {})", of, item, back);
    const bool isFlow = !number || market::statementItems()[*number].isFlow;
    return span.period == Period::Quarter || isFlow || span.quartersSince < 0
               ? text
               : fmt::format("or_else({}, quarter({}, {}))", text, item,
                             4 * back + span.quartersSince);
}

/// A line's formula for the period `back` before the newest.
std::string formulaOf(std::string_view formula, const Span& span, int back)
{
    std::string text;
    while (!formula.empty()) {
        const std::size_t open = formula.find('{');
        text += formula.substr(0, open);
        if (open == std::string_view::npos)
            break;
        const std::size_t close = formula.find('}', open);
        std::string_view item = formula.substr(open + 1, close - open - 1);
        const bool isSummed = item.front() == '+';
        if (isSummed)
            item.remove_prefix(1);
        text += itemText(item, isSummed, span, back);
        formula.remove_prefix(close + 1);
    }
    return text;
}

/// The item of a line that shows one as it was filed.
std::optional<std::size_t> itemOf(const Line& line)
{
    const std::string_view formula = line.formula;
    return formula.front() == '{' && formula.find('}') == formula.size() - 1
               ? market::statementItemNamed(formula.substr(1, formula.size() - 2))
               : std::nullopt;
}

/// The end of a period, the calendar counted back from the newest: that of a report near it, since
/// years of 52 weeks drift, else the day of the calendar.
Day endOf(const Subject& subject, Day newest, const Span& span, int back)
{
    constexpr int slack = 20; // days
    const Day counted = newest.plusMonths(-span.months * back);
    for (const market::Report& report :
         subject.evaluator.market().statements(subject.stock).reports()) {
        const Day end = span.period == Period::Quarter ? report.newestQuarter : report.newestYear;
        if (report.knownOn <= subject.day && end != market::Report::none &&
            std::abs(end - counted) <= slack)
            return end;
    }
    return counted;
}

/// How a figure was filed first, where what was known of it has changed since.
std::optional<Restated> restatedIn(const Subject& subject, std::size_t item, Period period,
                                   int back)
{
    const market::Market& market = subject.evaluator.market();
    const market::Statements& statements = market.statements(subject.stock);
    const auto known = statements.figure(item, period, back, subject.day);
    const auto bar = market::barOn(market, subject.stock, subject.day);
    if (!known || !bar)
        return {};
    const std::size_t footing = market.footing(subject.stock, *bar);
    const bool isPerShare = market::statementItems()[item].isPerShare;
    const auto onFooting = [&](double value, Day knownOn) {
        return isPerShare ? value * market.priceFactor(subject.stock, knownOn, footing) : value;
    };
    const auto rows = statements.rowsOf(item, period); // of a period, by the day of knowing
    const auto first = std::ranges::find(rows, known->periodEnd, &market::StatementRow::periodEnd);
    if (first == rows.end() || first->knownOn >= known->knownOn)
        return {};
    const double said = onFooting(first->value, first->knownOn);
    if (said == onFooting(known->value, known->knownOn))
        return {};
    return Restated{said, first->knownOn, known->knownOn};
}

void addLine(Table& table, const Line& line, const Span& span, Day newest, const Subject& subject)
{
    const auto item = itemOf(line);
    const bool isByShare = subject.choices.isPerShare && !line.isPerShare;
    const auto of = [&](int back) {
        const std::string text = formulaOf(line.formula, span, back);
        return isByShare ? fmt::format("({}) / on_day({}, shares_outstanding)", text,
                                       endOf(subject, newest, span, back).iso())
                         : text;
    };
    const bool isShare = line.against == Against::Difference;
    Row row{line.title};
    Row against{isShare ? "difference from the year before" : "against the year before"};
    against.isOfFormer = true;
    for (int back = span.shown - 1; back >= 0; --back) {
        Cell& cell = row.cells.emplace_back();
        cell.expression = of(back);
        if (item)
            cell.restated = restatedIn(subject, *item, span.period, back);
        Cell& change = against.cells.emplace_back();
        change.expression = isShare
                                ? of(back) + " - " + of(back + span.aYear)
                                : fmt::format("growth({}, {})", of(back), of(back + span.aYear));
        for (Cell* each : {&cell, &change})
            if (isShare || each == &change) {
                each->unit = Unit::Percent;
                each->decimals = 1;
            }
    }
    table.rows.push_back(std::move(row));
    table.rows.push_back(std::move(against));
}

} // namespace

void layOutResults(Part& part, const Subject& subject, const Progress&)
{
    const market::Statements& statements = subject.evaluator.market().statements(subject.stock);
    const auto quarter = statements.newestReport(Period::Quarter, subject.day);
    for (Span span : spans) {
        const auto newest = statements.newestReport(span.period, subject.day);
        if (!newest)
            continue;
        if (quarter)
            span.quartersSince = quartersSince(*newest, *quarter);
        for (const TableOfLines& of : tables) {
            Table table{fmt::format("{}.{}", span.key, of.key),
                        fmt::format("{}, {}", of.title, span.title), Form::Periods};
            for (int back = span.shown - 1; back >= 0; --back)
                table.heads.push_back(endOf(subject, *newest, span, back).iso());
            for (const Line& line : of.lines)
                addLine(table, line, span, *newest, subject);
            part.tables.push_back(std::move(table));
        }
    }
}

/// Leaves out what was never filed, and the periods before the first one.
void tellResults(Part& part, const Subject&)
{
    const auto isKnown = [](const Cell& cell) { return !isMissing(cell.value); };
    for (Table& table : part.tables) {
        std::string unknown;
        std::vector<Row> rows;
        for (std::size_t i = 0; i + 1 < table.rows.size(); i += 2) {
            if (std::ranges::any_of(table.rows[i].cells, isKnown)) {
                rows.push_back(std::move(table.rows[i]));
                rows.push_back(std::move(table.rows[i + 1]));
            } else {
                unknown += (unknown.empty() ? "Not filed: " : ", ") + table.rows[i].title;
            }
        }
        table.rows = std::move(rows);
        if (!unknown.empty())
            table.notes.push_back(unknown + ".");
        std::size_t first = table.heads.size();
        for (const Row& row : table.rows)
            first =
                std::min(first, static_cast<std::size_t>(std::ranges::find_if(row.cells, isKnown) -
                                                         row.cells.begin()));
        table.heads.erase(table.heads.begin(),
                          table.heads.begin() + static_cast<std::ptrdiff_t>(first));
        for (Row& row : table.rows)
            row.cells.erase(row.cells.begin(),
                            row.cells.begin() + static_cast<std::ptrdiff_t>(first));
    }
    std::erase_if(part.tables, [](const Table& table) { return table.rows.empty(); });
    if (part.tables.empty())
        part.words.emplace_back("No statement of this stock is known.");
}

} // namespace sieve::dossier
