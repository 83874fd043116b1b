#pragma once

#include "core/base/day.h"
#include "core/base/kind.h"
#include "core/base/missing.h"

#include <array>
#include <cstddef>
#include <cstdint>
#include <functional>
#include <limits>
#include <memory>
#include <optional>
#include <span>
#include <string_view>
#include <vector>

namespace sieve::market {

/// An item of a company's statements. A flow is earned or spent over the period and may be summed
/// over quarters; the others stand on the balance sheet at the period's end.
struct StatementItem {
    std::string_view key;
    std::string_view title;
    Unit unit = Unit::Money;
    bool isFlow = true;
    bool isPerShare = false; ///< stated per share as of the filing; later splits divide it
};

/// All items there are; a row's `item` is an index into it.
inline constexpr std::size_t statementItemCount = 19;
std::span<const StatementItem, statementItemCount> statementItems();
std::optional<std::uint32_t> statementItemNamed(std::string_view key);

enum class Period : std::uint32_t { Quarter, Year };

/// "quarter", "year": the words of the dataset.
std::string_view periodName(Period period);
std::optional<Period> periodNamed(std::string_view name);

/// One figure as filed. A restatement is another row of the same period, known later.
struct StatementRow {
    std::uint32_t item = 0;
    Period period = Period::Quarter;
    Day periodEnd;
    Day knownOn;
    double value = missing;
};
static_assert(sizeof(StatementRow) == 24);

/// Puts rows in the order in which `Statements` wants them.
void sortStatements(std::vector<StatementRow>& rows);

/// A day on which something became known, with the newest periods of which anything was known then.
struct Report {
    static constexpr Day none = Day::fromSerial(std::numeric_limits<std::int32_t>::min());

    Day knownOn;
    Day newestQuarter; ///< its end, or `none`
    Day newestYear;    ///< its end, or `none`

    friend bool operator==(const Report&, const Report&) = default;
};
static_assert(sizeof(Report) == 12);

/// One for each day on which something became known, ascending.
std::vector<Report> reportsOf(std::span<const StatementRow> rows);

/// Where the rows of each item, by quarter and by year, begin among all of a company; at the end,
/// how many there are.
using ItemBegins = std::array<std::uint32_t, 2 * statementItemCount + 1>;
ItemBegins itemBeginsOf(std::span<const StatementRow> rows);

/// A figure with the day on which it became known and the end of its (newest) period.
struct Known {
    double value = missing;
    Day periodEnd;
    Day knownOn;
};

class Statements;

/// One item of one company's statements, by quarter or by year: found once, asked for many days,
/// and fastest for days that ascend.
/// Valid as long as the statements are. Threads: one at a time.
class ItemFigures {
public:
    ItemFigures(const Statements& statements, std::size_t item, Period period);

    /// As of Statements.
    std::optional<Known> figure(int back, Day day);
    /// As of Statements. Requires: by quarter.
    std::optional<Known> trailingTwelveMonths(int back, Day day,
                                              const std::function<double(Day)>& factorOf);

private:
    void moveTo(Day day);
    bool isCurrent(Day newest) const;

    std::span<const StatementRow> rows_;
    std::span<const Report> reports_;
    Period period_;
    bool isFlow_;
    Day day_ = Report::none;   ///< the one last asked for
    std::size_t ended_ = 0;    ///< rows of periods that had ended by it
    std::size_t reported_ = 0; ///< reports by it
};

/// One company's statements, sorted so that what was known on a day is found by bisection.
class Statements {
public:
    Statements() = default;
    explicit Statements(std::vector<StatementRow> rows); ///< in any order
    /// Over memory that somebody else keeps.
    /// Requires: rows as sortStatements leaves them, begins and reports as itemBeginsOf and
    /// reportsOf give them. Without `begins` there are no rows of any item.
    Statements(std::span<const StatementRow> rows, const ItemBegins* begins,
               std::span<const Report> reports)
        : rows_(rows), begins_(begins), reports_(reports)
    {
    }

    std::span<const StatementRow> rows() const { return rows_; }
    /// One for each day on which something became known, ascending.
    std::span<const Report> reports() const { return reports_; }
    /// Those of one item, by quarter or by year.
    std::span<const StatementRow> rowsOf(std::size_t item, Period period) const;
    /// Where they begin among all rows and where they end, for who wants that in the processor's
    /// caches before asking for the rows; empty without rows.
    std::span<const std::uint32_t> boundsOf(std::size_t item, Period period) const;
    /// The newest of them by `day`; null when there is none.
    const Report* reportBy(Day day) const;

    /// The item's figure for the newest period that was known on `day`, or for the one `back`
    /// periods before it, each as last restated by then.
    /// Missing: empty when never filed, when that period is absent (the calendar is counted, not
    ///          the rows, so that a gap cannot shift "a year ago"), or when the item's newest
    ///          period lies more than one period behind the company's newest report. A period that
    ///          has not ended has no figure.
    std::optional<Known> figure(std::size_t item, Period period, int back, Day day) const;

    /// The sum of four quarters ending `back` quarters before the newest one known on `day`; each
    /// is first multiplied by `factorOf(its day known)`, which puts per-share figures filed before
    /// and after a split on one footing; without a function they are taken as they stand.
    /// Missing: empty when one of the four is, or when the item is no flow.
    std::optional<Known> trailingTwelveMonths(std::size_t item, int back, Day day,
                                              const std::function<double(Day)>& factorOf) const;

    /// The end of the newest period of which anything was known on `day`.
    std::optional<Day> newestReport(Period period, Day day) const;

private:
    std::shared_ptr<const void> own_;    ///< the memory of rows that were given as a vector
    std::span<const StatementRow> rows_; ///< by item, period, period end, day known
    const ItemBegins* begins_ = nullptr;
    std::span<const Report> reports_;
};

} // namespace sieve::market
