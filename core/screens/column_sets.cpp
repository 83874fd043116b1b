#include "core/screens/column_sets.h"

#include "core/screens/cell_graphics.h"

#include <fmt/format.h>

namespace sieve::screens {

namespace {

using enum language::CellGraphic;

ColumnSet readSet(const toml::table& table)
{
    refuseOthers(table, "a set of columns", {"name", "columns", "cells"});
    ColumnSet set{valueOr<std::string>(table, "name", {}), textsOf(table, "columns"),
                  readCells(table)};
    if (set.name.empty())
        failAt(table.source(), "a set of columns without a name", "write name = \"…\"");
    return set;
}

} // namespace

const std::vector<ColumnSet>& readyColumnSets()
{
    static const std::vector<ColumnSet> sets{
        {"At a glance",
         {"symbol", "name", "sector", "close", "day_change", "market_cap", "relative_volume_20"},
         {{"day_change", Sign}, {"close", Line}}},
        {"Trend and strength",
         {"symbol", "name", "close", "day_change", "month_change", "strength_126",
          "distance_from_average_50", "average_200_slope", "distance_from_high"},
         {{"close", Range}, {"strength_126", Bar}}},
        {"Movement and liquidity",
         {"symbol", "name", "close", "average_traded_value", "relative_volume_20", "atr_percent",
          "volatility_60", "beta_252", "largest_fall_year"},
         {{"average_traded_value", Bar}, {"atr_percent", Bar}}},
        {"Growth",
         {"symbol", "name", "eps_growth", "eps_growth_quarter", "revenue_growth",
          "eps_growth_expected", "eps_revision_90", "operating_margin", "return_on_equity"},
         {{"eps_growth", Bar}, {"eps_revision_90", Sign}}},
        {"Value",
         {"symbol", "name", "price_to_earnings", "price_to_sales", "price_to_book", "ev_to_ebitda",
          "free_cash_flow_yield", "pe_against_industry", "value_percentile"},
         {{"price_to_earnings", Range}, {"value_percentile", Bar}}},
        {"Dividends",
         {"symbol", "name", "dividend_yield", "payout_ratio", "dividend_cover",
          "dividend_growth_5_years", "dividend_kept_5_years", "yield_against_own_3_years"},
         {{"dividend_yield", Bar}}},
        {"Reports",
         {"symbol", "name", "report_day", "days_to_report", "eps_surprise", "revenue_surprise",
          "change_on_report", "eps_revision_30"},
         {{"eps_surprise", Sign}, {"change_on_report", Sign}}},
    };
    return sets;
}

std::string toToml(std::span<const ColumnSet> sets)
{
    std::string toml;
    for (const ColumnSet& set : sets) {
        std::vector<std::string> columns;
        for (const std::string& column : set.columns)
            columns.push_back(quotedToml(column));
        toml += fmt::format("[[set]]\nname = {}\ncolumns = [{}]\n{}", quotedToml(set.name),
                            fmt::join(columns, ", "), cellsToml(set.cells));
    }
    return toml;
}

Result<std::vector<ColumnSet>> columnSetsFromToml(std::string_view toml)
{
    return readToml(toml, "begin each set with [[set]]", [](const toml::table& file) {
        refuseOthers(file, "sets of columns", {"set"});
        std::vector<ColumnSet> sets;
        for (const toml::table* each : tablesOf(file, "set"))
            sets.push_back(readSet(*each));
        return sets;
    });
}

} // namespace sieve::screens
