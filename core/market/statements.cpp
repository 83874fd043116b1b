#include "core/market/statements.h"

#include "core/base/require.h"
#include "core/base/words.h"

#include <algorithm>
#include <array>
#include <cstdlib>
#include <tuple>

namespace sieve::market {

namespace {

constexpr std::array<StatementItem, statementItemCount> items{
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

/// The end of the newest period of a report, or Report::none.
Day endIn(const Report& report, Period period)
{
    return period == Period::Quarter ? report.newestQuarter : report.newestYear;
}

/// Its place among the ItemBegins.
std::size_t placeOf(std::size_t item, Period period)
{
    return 2 * item + (period == Period::Quarter ? 0 : 1);
}

/// By how many days `day` lies after the one so many months before `end`. Exact where that decides
/// whether it lies within the slack; elsewhere to a few days, which spares the calendar.
int daysLate(Day day, Day end, int months)
{
    constexpr int thousandMonths = 30437; // days
    constexpr int irregular = 6; // more days than so many months of the calendar differ from it by
    const int roughly = day - end + months * thousandMonths / 1000;
    return std::abs(std::abs(roughly) - periodSlack) > irregular ? roughly
                                                                 : day - end.plusMonths(-months);
}

/// How many of the rows lie by `day`: mostly it is among the newest.
template <class Row> std::size_t countBy(std::span<const Row> rows, Day day, Day Row::*dayOf)
{
    std::size_t end = rows.size();
    std::size_t from = end;
    for (std::size_t step = 1; from > 0 && rows[from - 1].*dayOf > day; step *= 2) {
        end = from - 1;
        from -= std::min(step, from);
    }
    const auto next = std::ranges::upper_bound(rows.subspan(from, end - from), day, {}, dayOf);
    return static_cast<std::size_t>(next - rows.begin());
}

} // namespace

std::span<const StatementItem, statementItemCount> statementItems()
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

std::vector<Report> reportsOf(std::span<const StatementRow> rows)
{
    std::vector<Report> reports;
    for (const StatementRow& row : rows) {
        const bool isQuarter = row.period == Period::Quarter;
        reports.push_back({row.knownOn, isQuarter ? row.periodEnd : Report::none,
                           isQuarter ? Report::none : row.periodEnd});
    }
    std::ranges::sort(reports, {}, &Report::knownOn);
    std::size_t count = 0;
    for (const Report& each : reports) { // join those of a day, and carry the newest on
        Report joined = each;
        if (count > 0) {
            const Report& before = reports[count - 1];
            joined.newestQuarter = std::max(before.newestQuarter, each.newestQuarter);
            joined.newestYear = std::max(before.newestYear, each.newestYear);
            count -= before.knownOn == each.knownOn ? 1 : 0;
        }
        reports[count++] = joined;
    }
    reports.erase(reports.begin() + static_cast<std::ptrdiff_t>(count), reports.end());
    return reports;
}

ItemBegins itemBeginsOf(std::span<const StatementRow> rows)
{
    ItemBegins begins{};
    std::size_t at = 0;
    for (std::size_t place = 0; place < begins.size(); ++place) {
        while (at < rows.size() && placeOf(rows[at].item, rows[at].period) < place)
            ++at;
        begins.at(place) = static_cast<std::uint32_t>(at);
    }
    return begins;
}

Statements::Statements(std::vector<StatementRow> rows)
{
    struct Own {
        std::vector<StatementRow> rows;
        ItemBegins begins;
        std::vector<Report> reports;
    };
    sortStatements(rows);
    auto own = std::make_shared<Own>();
    own->begins = itemBeginsOf(rows);
    own->reports = reportsOf(rows);
    own->rows = std::move(rows);
    rows_ = own->rows;
    begins_ = &own->begins;
    reports_ = own->reports;
    own_ = std::move(own);
}

std::span<const std::uint32_t> Statements::boundsOf(std::size_t item, Period period) const
{
    if (!begins_)
        return {};
    return std::span(*begins_).subspan(placeOf(item, period), 2);
}

std::span<const StatementRow> Statements::rowsOf(std::size_t item, Period period) const
{
    const auto bounds = boundsOf(item, period);
    if (bounds.empty() || bounds[0] > bounds[1] || bounds[1] > rows_.size())
        return {}; // a damaged file, which nobody has held to its checksum yet
    return rows_.subspan(bounds[0], bounds[1] - bounds[0]);
}

const Report* Statements::reportBy(Day day) const
{
    const std::size_t count = countBy(reports_, day, &Report::knownOn);
    return count == 0 ? nullptr : &reports_[count - 1];
}

std::optional<Day> Statements::newestReport(Period period, Day day) const
{
    const Report* report = reportBy(day);
    if (!report)
        return std::nullopt;
    const Day end = endIn(*report, period);
    return end == Report::none ? std::nullopt : std::optional(end);
}

namespace {

/// The newest row of a period that was known on `day`, walking back from the newest end.
class KnownRows {
public:
    /// `ended`: how many of the rows are of periods that had ended by `day`.
    KnownRows(std::span<const StatementRow> rows, std::size_t ended, Day day)
        : rows_(rows), day_(day), left_(ended)
    {
    }
    const StatementRow* newest()
    {
        while (left_ > 0 && rows_[left_ - 1].knownOn > day_)
            --left_;
        return left_ > 0 ? &rows_[left_ - 1] : nullptr;
    }
    /// The row of the period that ended about so many months before `end`; must be asked for from
    /// new to old.
    const StatementRow* before(Day end, int months)
    {
        for (; left_ > 0; --left_) {
            const StatementRow& row = rows_[left_ - 1];
            const int late = daysLate(row.periodEnd, end, months);
            if (late < -periodSlack)
                return nullptr;
            if (late <= periodSlack && row.knownOn <= day_)
                return &row; // rows of a period run by day known
        }
        return nullptr;
    }

private:
    std::span<const StatementRow> rows_;
    Day day_;
    std::size_t left_;
};

Known knownOf(const StatementRow& row)
{
    return {row.value, row.periodEnd, row.knownOn};
}

} // namespace

ItemFigures::ItemFigures(const Statements& statements, std::size_t item, Period period)
    : rows_(statements.rowsOf(item, period)), reports_(statements.reports()), period_(period),
      isFlow_(items.at(item).isFlow)
{
}

void ItemFigures::moveTo(Day day)
{
    const std::size_t few = day_ != Report::none && day >= day_ ? 8 : 0; // a step on passes few
    const auto passed = [day, few]<class Row>(std::span<const Row> rows, std::size_t from,
                                              Day Row::*dayOf) {
        const std::size_t end = few > 0 ? std::min(from + few, rows.size()) : 0;
        for (std::size_t next = from; next < end; ++next)
            if (rows[next].*dayOf > day)
                return next;
        return end + countBy(rows.subspan(end), day, dayOf);
    };
    day_ = day;
    ended_ = passed(rows_, ended_, &StatementRow::periodEnd);
    reported_ = passed(reports_, reported_, &Report::knownOn);
}

/// Whether an item whose newest period ends at `newest` is still reported.
bool ItemFigures::isCurrent(Day newest) const
{
    if (reported_ == 0)
        return false;
    const Day report = endIn(reports_[reported_ - 1], period_);
    return report != Report::none && daysLate(newest, report, monthsOf(period_)) >= -periodSlack;
}

std::optional<Known> ItemFigures::figure(int back, Day day)
{
    moveTo(day);
    KnownRows known(rows_, ended_, day);
    const StatementRow* newest = known.newest();
    if (!newest || !isCurrent(newest->periodEnd))
        return std::nullopt;
    const StatementRow* row =
        back == 0 ? newest : known.before(newest->periodEnd, monthsOf(period_) * back);
    return row ? std::optional(knownOf(*row)) : std::nullopt;
}

std::optional<Known> ItemFigures::trailingTwelveMonths(int back, Day day,
                                                       const std::function<double(Day)>& factorOf)
{
    require(period_ == Period::Quarter, "trailing twelve months: not of quarters");
    if (!isFlow_)
        return std::nullopt;
    moveTo(day);
    KnownRows known(rows_, ended_, day);
    const StatementRow* newest = known.newest();
    if (!newest || !isCurrent(newest->periodEnd))
        return std::nullopt;
    const Day end = newest->periodEnd;
    Known sum{0.0, end, Report::none};
    for (int quarter = back; quarter < back + 4; ++quarter) {
        const StatementRow* row = known.before(end, 3 * quarter);
        if (!row)
            return std::nullopt;
        sum.value += factorOf ? row->value * factorOf(row->knownOn) : row->value;
        sum.knownOn = std::max(sum.knownOn, row->knownOn);
        if (quarter == back)
            sum.periodEnd = row->periodEnd;
    }
    return sum;
}

std::optional<Known> Statements::figure(std::size_t item, Period period, int back, Day day) const
{
    return ItemFigures(*this, item, period).figure(back, day);
}

std::optional<Known>
Statements::trailingTwelveMonths(std::size_t item, int back, Day day,
                                 const std::function<double(Day)>& factorOf) const
{
    return ItemFigures(*this, item, Period::Quarter).trailingTwelveMonths(back, day, factorOf);
}

} // namespace sieve::market
