#pragma once

#include "core/base/day.h"
#include "core/intake/csv.h"
#include "core/intake/intake_report.h"

#include <map>
#include <optional>
#include <span>
#include <string>
#include <string_view>

namespace sieve::intake {

enum class Cell { Required, MayBeEmpty };

/// The rows of one file of a dataset by the names of their columns. Whatever is wrong with a row
/// goes to the report with file, line and column.
class Rows {
public:
    /// Reads the header; a file without one of the required columns has no rows.
    Rows(std::string file, std::string_view text, std::span<const std::string_view> required,
         IntakeReport& report);

    bool next(); ///< to the next row that has enough cells; false at the end
    /// The cell as text; empty when the file has no such column.
    std::string_view cell(std::string_view column) const;
    std::string text(std::string_view column) const { return std::string(cell(column)); }
    /// The cell as a day or figure; one that is neither leaves the row out.
    std::optional<Day> day(std::string_view column, Cell cell);
    double figure(std::string_view column, Cell cell);

    void leaveOut(std::string_view column, std::string_view why);
    void note(std::string_view column, std::string_view why, std::string_view done);
    bool isTaken() const { return isTaken_; } ///< nothing has left the row out

private:
    std::string file_;
    CsvReader reader_;
    IntakeReport& report_;
    std::map<std::string, std::size_t, std::less<>> columns_;
    std::size_t cellsNeeded_ = 0;
    bool isReadable_ = false;
    bool isTaken_ = true;
};

} // namespace sieve::intake
