#include "core/dossier/parts.h"
#include "core/market/as_of.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <fmt/format.h>

// What analysts expect, how that changed, and how right they were.

namespace sieve::dossier {

namespace {

using market::EstimateMeasure;
using market::Period;

constexpr std::array measures{std::pair(EstimateMeasure::EarningsPerShare, "Earnings per share"),
                              std::pair(EstimateMeasure::Revenue, "Revenue"),
                              std::pair(EstimateMeasure::DividendsPerShare, "Dividends per share")};

struct Ahead {
    const char* head;
    Period period;
    int ahead;
};
constexpr std::array periods{
    Ahead{"this quarter", Period::Quarter, 0}, Ahead{"next quarter", Period::Quarter, 1},
    Ahead{"this year", Period::Year, 0}, Ahead{"next year", Period::Year, 1}};

constexpr int surprisesShown = 8;

Table expectedTable(const Subject& subject)
{
    Table table{"estimates.expected", "Expected", Form::Table};
    for (const Ahead& each : periods)
        table.heads.emplace_back(each.head);
    const market::Market& market = subject.evaluator.market();
    const auto bar = market::barOn(market, subject.stock, subject.day);
    for (const auto& [measure, title] : measures) {
        const std::string_view name = market::estimateMeasureName(measure);
        Row mean{.title = title, .meaning = "Mean of the estimates known on the day"};
        Row least{"lowest estimate"};
        Row most{"highest estimate"};
        Row analysts{"analysts"};
        for (Row* row : {&least, &most, &analysts})
            row->isOfFormer = true;
        for (const Ahead& each : periods) {
            const auto known = market::estimateOn(market, subject.stock, measure, each.period,
                                                  each.ahead, subject.day);
            Cell cell{.expression =
                          fmt::format("{}({}, {})",
                                      each.period == Period::Year ? "estimate" : "estimate_quarter",
                                      name, each.ahead)};
            if (known)
                cell.note = fmt::format("The period to {}; known since {}.", known->periodEnd.iso(),
                                        known->knownOn.iso());
            mean.cells.push_back(std::move(cell));
            const double factor = known && bar && measure != EstimateMeasure::Revenue
                                      ? market.priceFactor(subject.stock, known->knownOn,
                                                           market.footing(subject.stock, *bar))
                                      : 1.0;
            const auto of = [&](double market::EstimateRow::*figure, double times) {
                return known && bar ? (*known).*figure * times : missing;
            };
            const Unit unit = Unit::Money;
            const int decimals = measure == EstimateMeasure::Revenue ? 0 : 2;
            least.cells.push_back({.value = of(&market::EstimateRow::low, factor),
                                   .unit = unit,
                                   .decimals = decimals});
            most.cells.push_back({.value = of(&market::EstimateRow::high, factor),
                                  .unit = unit,
                                  .decimals = decimals});
            analysts.cells.push_back(
                {.value = of(&market::EstimateRow::analysts, 1.0), .decimals = 0});
            mean.cells.back().decimals = decimals;
        }
        for (Row* row : {&mean, &least, &most, &analysts})
            table.rows.push_back(std::move(*row));
    }
    return table;
}

Table revisionsTable()
{
    Table table{"estimates.revisions",
                "Changes of this year's estimate",
                Form::Table,
                {"7 days", "30 days", "90 days"}};
    for (const auto& [measure, title] : measures) {
        Row row{title};
        for (const int days : {7, 30, 90})
            row.cells.push_back(
                {.expression =
                     fmt::format("revision({}, {})", market::estimateMeasureName(measure), days),
                 .decimals = 1});
        table.rows.push_back(std::move(row));
    }
    return table;
}

/// The day on which a quarter first became known, and the price's change on the bar of that day.
Table surprisesTable(const Subject& subject, const Progress& progress)
{
    Table table{"estimates.surprises",
                "Reported against expected",
                Form::Table,
                {"quarter to", "reported on", "earnings per share", "surprise", "revenue surprise",
                 "price that day"}};
    const market::Market& market = subject.evaluator.market();
    const std::string moves[] = {"change(close, 1)"};
    const auto changes = historiesOf(moves, subject, progress);
    const auto days = market.bars(subject.stock).days;
    const auto eps = market::statementItemNamed("eps").value();
    const market::Statements& statements = market.statements(subject.stock);
    for (int back = 0; back < surprisesShown; ++back) {
        const auto known = statements.figure(eps, Period::Quarter, back, subject.day);
        if (!known)
            continue;
        const auto rows = statements.rowsOf(eps, Period::Quarter);
        const auto first =
            std::ranges::find(rows, known->periodEnd, &market::StatementRow::periodEnd);
        Row row;
        row.cells.push_back(dayCell(known->periodEnd));
        row.cells.push_back(dayCell(first->knownOn));
        row.cells.push_back({.expression = fmt::format("quarter(eps, {})", back)});
        row.cells.push_back({.expression = fmt::format("surprise(eps, {})", back), .decimals = 1});
        row.cells.push_back(
            {.expression = fmt::format("surprise(revenue, {})", back), .decimals = 1});
        const auto bar =
            static_cast<std::size_t>(std::ranges::lower_bound(days, first->knownOn) - days.begin());
        row.cells.push_back({.value = bar < changes[0].size() ? changes[0][bar] : missing,
                             .unit = Unit::Percent,
                             .decimals = 1});
        table.rows.push_back(std::move(row));
    }
    return table;
}

} // namespace

void layOutEstimates(Part& part, const Subject& subject, const Progress& progress)
{
    part.tables.push_back(expectedTable(subject));
    part.tables.push_back(revisionsTable());
    part.tables.push_back(surprisesTable(subject, progress));
    Table next{"estimates.next",
               "Next report",
               Form::Table,
               {"day", "days to it", "target", "target over the price"}};
    Row row;
    for (const char* field :
         {"next_report", "days_to_report", "price_target", "distance_from_target"})
        row.cells.push_back({.expression = field});
    next.rows.push_back(std::move(row));
    part.tables.push_back(std::move(next));
}

void tellEstimates(Part& part, const Subject&)
{
    const double days = part.tables.back().rows[0].cells[1].value;
    std::size_t above = 0;
    std::size_t told = 0;
    for (const Row& row : part.tables[2].rows)
        if (!isMissing(row.cells[3].value)) {
            ++told;
            above += row.cells[3].value > 0.0 ? 1 : 0;
        }
    if (told > 0)
        part.words.push_back(fmt::format(
            "Earnings were above what was expected in {} of {} quarters.", above, told));
    else
        part.words.emplace_back("Nobody is known to have expected anything of this stock.");
    if (!isMissing(days))
        part.words.push_back(days == 0.0 ? std::string("The next report is due today.")
                             : days == 1.0
                                 ? std::string("The next report is due in a day.")
                                 : fmt::format("The next report is due in {:.0f} days.", days));
    dropUnknown(part);
}

} // namespace sieve::dossier
