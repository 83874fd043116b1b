#pragma once

#include "core/base/day.h"
#include "core/base/result.h"

#include <array>
#include <cstddef>
#include <filesystem>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace sieve::intake {

/// What a column of a price file holds.
enum class PriceColumn : std::size_t {
    Symbol,
    Time,
    Open,
    High,
    Low,
    Close,
    AdjustedClose,
    Volume,
    Dividend, ///< a share, on its ex-date; 0 or empty on all other days
    Split     ///< new shares for an old one (2, 2:1, 3/2); 0, 1 or empty on all other days
};
inline constexpr std::size_t priceColumnCount = 10;

/// "symbol", "time", "open", "high", "low", "close", "adjusted_close", "volume", "dividend",
/// "split".
std::string_view priceColumnName(PriceColumn column);

/// How days are written. The separators of the last two may be . / - or a space.
enum class DayForm { Iso, Digits, DayMonthYear, MonthDayYear };

/// "2025-03-14", "20250314", "14.03.2025", "03/14/2025": an example names the form.
std::string_view dayFormName(DayForm form);
std::optional<DayForm> dayFormNamed(std::string_view name);

/// How the figures of a folder's price files are written, and where each stands. The same for all
/// files of a folder; where the columns stand is looked up in each file's own header.
struct PriceLayout {
    char separator = ',';
    char decimalMark = '.';
    char thousandsMark = '\0'; ///< '\0': none
    DayForm dayForm = DayForm::Iso;
    /// The header's name of each column; empty when there is none. Without a symbol column, the
    /// file's name is the symbol.
    std::array<std::string, priceColumnCount> headings;

    const std::string& heading(PriceColumn column) const
    {
        return headings[static_cast<std::size_t>(column)];
    }
    friend bool operator==(const PriceLayout&, const PriceLayout&) = default;
};

/// The ways in which the first lines of a file may be read.
struct LayoutReadings {
    struct Marks {
        char decimal = '.';
        char thousands = '\0';

        friend bool operator==(const Marks&, const Marks&) = default;
    };
    PriceLayout layout;            ///< with the first of each
    std::vector<DayForm> dayForms; ///< in which every day is one; several: 03/04 may be two days
    std::vector<Marks> marks;      ///< under which every price is a figure, each another one

    bool isClear() const { return dayForms.size() <= 1 && marks.size() <= 1; }
    /// What must be asked where it is not clear.
    LocatedError question() const;
};

/// Errors: located in `sample`: no header, no column for the time or the close, two columns of one
///         name. The remedy is a mapping.
Result<LayoutReadings> readingsOf(std::string_view sample);

/// The layout of a file of daily bars, where there is one reading only.
/// Errors: those of readingsOf(); minutesFound(); what must be asked. The remedy is a mapping.
Result<PriceLayout> recogniseLayout(std::string_view sample);

/// Whether rows of one day and symbol follow each other with different figures: bars of minutes,
/// of which the first would be taken for the day.
bool holdsMinutes(std::string_view sample, const PriceLayout& layout);
/// What is said of them among daily bars.
LocatedError minutesFound();

/// The separator that cuts the first line into the most cells.
char separatorOf(std::string_view sample);

/// A mapping: the layout as TOML, as a person may write it; docs/dataset.md describes it.
std::string toToml(const PriceLayout& layout);
Result<PriceLayout> layoutFromToml(std::string_view toml);

/// A day in the layout's form; empty when it is none. A time of day after it is passed over.
std::optional<Day> parseDay(std::string_view cell, DayForm form);
/// A figure in the layout's marks; empty when it is none.
std::optional<double> parseFigure(std::string_view cell, const PriceLayout& layout);
/// A split as the number of new shares for an old one: "2", "2:1", "3/2".
std::optional<double> parseSplit(std::string_view cell, const PriceLayout& layout);

/// The first bytes of a table, for recognising and for a preview; unpacked when it is .gz.
std::string sampleOf(const std::filesystem::path& file, std::size_t bytes = 64U << 10U);

} // namespace sieve::intake
