#include "core/studies/return_series.h"

#include "core/base/trimmed.h"
#include "core/intake/csv.h"
#include "core/studies/measures.h"

#include <algorithm>
#include <fmt/format.h>
#include <map>

namespace sieve::studies {

namespace {

using exports::Cell;

LocatedError faultAt(std::size_t line, std::string problem, std::string remedy)
{
    return {{static_cast<std::uint32_t>(line), 1, 0, 0, 0}, std::move(problem), std::move(remedy)};
}

/// What is wrong with a figure; empty where nothing is.
std::string faultOf(std::optional<double> figure, Told told)
{
    if (!figure)
        return "is no number";
    if (told == Told::Returns && *figure < -1.0)
        return "is a return below -1: more than all cannot be lost";
    if (told == Told::Worths && !(*figure > 0.0))
        return "is a worth that is not above 0";
    return {};
}

/// Returns from one worth to the next; the first worth only begins the series.
void makeReturns(ReturnSeries& series)
{
    std::vector<double> returns;
    for (std::size_t i = 1; i < series.returns.size(); ++i)
        returns.push_back(series.returns[i] / series.returns[i - 1] - 1.0);
    series.returns = std::move(returns);
    if (!series.days.empty())
        series.days.erase(series.days.begin());
}

Cell known(double value)
{
    return isMissing(value) ? Cell() : Cell(value);
}

void addFall(exports::Sheet& sheet, const ReturnSeries& series)
{
    const auto fall = deepestFall(series.returns);
    const auto add = [&](const char* name, Cell cell) {
        sheet.rows.push_back({series.name, std::string(name), std::move(cell)});
    };
    const Cell none(std::string("none"));
    const auto dayOf = [&](const std::optional<std::size_t>& at, Cell otherwise) {
        return at ? Cell(series.days[*at]) : std::move(otherwise);
    };
    add("mdd_peak_date", fall ? dayOf(fall->peak, std::string("start")) : none);
    add("mdd_trough_date", fall ? dayOf(fall->trough, none) : none);
    add("mdd_recovery_date", fall ? dayOf(fall->recovery, none) : none);
}

BesideBenchmark beside(const ReturnSeries& series, const ReturnSeries& benchmark)
{
    std::vector<double> own;
    std::vector<double> other;
    for (std::size_t i = 0; i < series.days.size(); ++i) {
        const auto at = std::ranges::lower_bound(benchmark.days, series.days[i]);
        if (at == benchmark.days.end() || *at != series.days[i])
            continue;
        own.push_back(series.returns[i]);
        other.push_back(benchmark.returns[static_cast<std::size_t>(at - benchmark.days.begin())]);
    }
    return besideBenchmark(own, other);
}

} // namespace

Result<std::vector<ReturnSeries>> readReturns(const imports::Table& table, Told told)
{
    if (table.rows.empty() || table.rows.front().size() < 2)
        return faultAt(1, "there is no head with a column of days and one of figures",
                       "write a first line such as date,own,benchmark");
    if (table.isCut)
        return faultAt(imports::mostRows, "the table is too long",
                       fmt::format("at most {} rows are read", imports::mostRows));
    std::vector<ReturnSeries> all;
    for (std::size_t column = 1; column < table.rows.front().size(); ++column)
        all.push_back({std::string(trimmed(table.rows.front()[column])), {}, {}});
    std::optional<Day> before;
    for (std::size_t row = 1; row < table.rows.size(); ++row) {
        const auto& cells = table.rows[row];
        const auto day = Day::parse(trimmed(cells.front()));
        if (!day)
            return faultAt(table.lines[row], fmt::format("'{}' is no day", cells.front()),
                           "write days as 2025-03-14");
        if (before && *day <= *before)
            return faultAt(table.lines[row],
                           fmt::format("{} does not come after {}", day->iso(), before->iso()),
                           "put the days in order, each once");
        before = day;
        for (std::size_t column = 1; column < std::min(cells.size(), all.size() + 1); ++column) {
            const std::string_view cell = trimmed(cells[column]);
            if (cell.empty())
                continue;
            const auto figure = intake::parseFigure(cell);
            if (const std::string fault = faultOf(figure, told); !fault.empty())
                return faultAt(table.lines[row], fmt::format("'{}' {}", cell, fault),
                               "write a return of 1.5 % as 0.015, and leave unknown ones empty");
            all[column - 1].days.push_back(*day);
            all[column - 1].returns.push_back(*figure);
        }
    }
    if (told == Told::Worths)
        std::ranges::for_each(all, makeReturns);
    return all;
}

exports::Sheet measuresSheet(std::span<const ReturnSeries> series, std::string_view benchmark)
{
    exports::Sheet sheet{{"column", "metric", "value"}, {}};
    const auto against = std::ranges::find(series, benchmark, &ReturnSeries::name);
    for (const ReturnSeries& each : series) {
        const auto add = [&](const auto& measures) {
            for (const auto& [name, value] : namedMeasures(measures))
                sheet.rows.push_back({each.name, name, known(value)});
        };
        add(measuresOf(each.returns));
        addFall(sheet, each);
        if (against != series.end() && &each != &*against)
            add(beside(each, *against));
    }
    return sheet;
}

exports::Sheet curvesSheet(std::span<const ReturnSeries> series)
{
    exports::Sheet sheet{{"date"}, {}};
    std::map<Day, std::vector<Cell>> rows;
    for (std::size_t i = 0; i < series.size(); ++i) {
        sheet.columns.push_back(series[i].name + "_equity");
        sheet.columns.push_back(series[i].name + "_drawdown");
        const Curve curve = curveOf(series[i].returns);
        for (std::size_t day = 0; day < series[i].days.size(); ++day) {
            auto& row = rows[series[i].days[day]];
            row.resize(2 * series.size());
            row[2 * i] = curve.equity[day];
            row[2 * i + 1] = curve.drawdown[day];
        }
    }
    for (auto& [day, cells] : rows) {
        auto& row = sheet.rows.emplace_back();
        row.emplace_back(day);
        row.insert(row.end(), cells.begin(), cells.end());
    }
    return sheet;
}

} // namespace sieve::studies
