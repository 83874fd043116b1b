#include "core/market/statements.h"

#include "core/market/words.h"

#include <algorithm>
#include <array>
#include <cstdlib>
#include <tuple>

namespace sieve::market {

namespace {

constexpr std::array items{
    StatementItem{"revenue", "Revenue"},
    StatementItem{"cost_of_sales", "Cost of sales"},
    StatementItem{"gross_profit", "Gross profit"},
    StatementItem{"operating_income", "Operating income"},
    StatementItem{"interest_expense", "Interest expense"},
    StatementItem{"net_income", "Net income"},
    StatementItem{"eps", "Earnings per share, diluted", Unit::Money, true, true},
    StatementItem{"dividends_per_share", "Dividends per share", Unit::Money, true, true},
    StatementItem{"depreciation", "Depreciation and amortization"},
    StatementItem{"operating_cash_flow", "Operating cash flow"},
    StatementItem{"capital_expenditure", "Capital expenditure"},
    StatementItem{"total_assets", "Total assets", Unit::Money, false},
    StatementItem{"current_assets", "Current assets", Unit::Money, false},
    StatementItem{"inventory", "Inventory", Unit::Money, false},
    StatementItem{"cash", "Cash and equivalents", Unit::Money, false},
    StatementItem{"total_liabilities", "Total liabilities", Unit::Money, false},
    StatementItem{"current_liabilities", "Current liabilities", Unit::Money, false},
    StatementItem{"debt", "Interest-bearing debt", Unit::Money, false},
    StatementItem{"equity", "Shareholders' equity", Unit::Money, false},
};

constexpr Words<Period, 2> periods{{{{Period::Quarter, "quarter"}, {Period::Year, "year"}}}};

/// Period ends drift by a few days (a year of 52 weeks): two within this many days are the same.
constexpr int periodSlack = 20;

constexpr int monthsOf(Period period)
{
    return period == Period::Quarter ? 3 : 12;
}

} // namespace

std::span<const StatementItem> statementItems()
{
    return items;
}

std::optional<std::uint32_t> statementItemNamed(std::string_view key)
{
    for (std::uint32_t i = 0; i < items.size(); ++i)
        if (items[i].key == key)
            return i;
    return std::nullopt;
}

std::string_view periodName(Period period)
{
    return periods.word(period);
}

std::optional<Period> periodNamed(std::string_view name)
{
    return periods.value(name);
}

void sortStatements(std::vector<StatementRow>& rows)
{
    const auto key = [](const StatementRow& row) {
        return std::tuple(row.item, row.period, row.periodEnd, row.knownOn);
    };
    if (!std::ranges::is_sorted(rows, {}, key))
        std::ranges::stable_sort(rows, {}, key);
}

std::vector<Day> knownDaysOf(std::span<const StatementRow> rows)
{
    std::vector<Day> days;
    for (const StatementRow& row : rows)
        days.push_back(row.knownOn);
    std::ranges::sort(days);
    days.erase(std::unique(days.begin(), days.end()), days.end());
    return days;
}

Statements::Statements(std::vector<StatementRow> rows)
{
    struct Own {
        std::vector<StatementRow> rows;
        std::vector<Day> knownDays;
    };
    sortStatements(rows);
    auto own = std::make_shared<Own>();
    own->knownDays = knownDaysOf(rows);
    own->rows = std::move(rows);
    rows_ = own->rows;
    knownDays_ = own->knownDays;
    own_ = std::move(own);
}

std::span<const StatementRow> Statements::rowsOf(std::size_t item, Period period) const
{
    const auto keyOf = [](const StatementRow& row) { return std::tuple(row.item, row.period); };
    const auto key = std::tuple(static_cast<std::uint32_t>(item), period);
    return {std::ranges::lower_bound(rows_, key, {}, keyOf),
            std::ranges::upper_bound(rows_, key, {}, keyOf)};
}

std::optional<Day> Statements::newestPeriod(std::size_t item, Period period, Day day) const
{
    std::optional<Day> newest;
    for (const StatementRow& row : rowsOf(item, period))
        if (row.knownOn <= day && (!newest || row.periodEnd > *newest))
            newest = row.periodEnd;
    return newest;
}

std::optional<Day> Statements::newestReport(Period period, Day day) const
{
    std::optional<Day> newest;
    for (const StatementRow& row : rows_)
        if (row.period == period && row.knownOn <= day && (!newest || row.periodEnd > *newest))
            newest = row.periodEnd;
    return newest;
}

std::optional<Known> Statements::figureOf(std::size_t item, Period period, Day periodEnd,
                                          Day day) const
{
    std::optional<Known> found;
    for (const StatementRow& row : rowsOf(item, period))
        if (row.knownOn <= day && std::abs(row.periodEnd - periodEnd) <= periodSlack)
            found = Known{row.value, row.periodEnd, row.knownOn}; // rows run by day known
    return found;
}

std::optional<Known> Statements::figure(std::size_t item, Period period, int back, Day day) const
{
    const std::optional<Day> newest = newestPeriod(item, period, day);
    if (!newest)
        return std::nullopt;
    const int months = monthsOf(period);
    if (newestReport(period, day)->plusMonths(-months) > newest->plusDays(periodSlack))
        return std::nullopt;
    return figureOf(item, period, newest->plusMonths(-months * back), day);
}

std::optional<Known>
Statements::trailingTwelveMonths(std::size_t item, int back, Day day,
                                 const std::function<double(Day)>& factorOf) const
{
    if (!items.at(item).isFlow)
        return std::nullopt;
    std::optional<Known> sum;
    for (int quarter = back + 3; quarter >= back; --quarter) {
        std::optional<Known> each = figure(item, Period::Quarter, quarter, day);
        if (!each)
            return std::nullopt;
        each->value *= factorOf(each->knownOn);
        sum = sum ? Known{sum->value + each->value, each->periodEnd,
                          std::max(sum->knownOn, each->knownOn)}
                  : *each;
    }
    return sum;
}

} // namespace sieve::market
