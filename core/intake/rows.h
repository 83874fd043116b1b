#pragma once

#include "core/base/day.h"
#include "core/base/minute.h"
#include "core/intake/csv.h"
#include "core/intake/intake_report.h"

#include <map>
#include <memory>
#include <optional>
#include <span>
#include <string>
#include <string_view>

namespace sieve::intake {

enum class Cell { Required, MayBeEmpty };

/// The rows of one file by the names of their columns. Whatever is wrong with a row goes to the
/// report with file, line and column.
class Rows {
public:
    /// Reads the header; a file without one of the required columns has no rows. Of columns of one
    /// name the first is read, and the others are reported.
    Rows(std::string file, CsvReader reader, std::span<const std::string_view> required,
         IntakeReport& report);

    bool next(); ///< to the next row that has enough cells; false at the end
    std::size_t line() const { return reader_.line(); }
    bool hasColumn(std::string_view column) const { return columns_.contains(column); }
    /// The cell as it stands; empty when the file has no such column.
    std::string_view cell(std::string_view column) const;
    /// The cell as UTF-8: another encoding is taken for Latin-1, and reported.
    std::string text(std::string_view column);
    /// The cell as a day, a minute or a figure; one that is none leaves the row out.
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
    std::size_t headerCells_ = 0;
    std::size_t cellsNeeded_ = 0;
    bool isReadable_ = false;
    bool isTaken_ = true;
};

/// What a report shows of a cell: not more than can be read, and UTF-8.
std::string shown(std::string_view cell);

/// Adds what a reader has to tell at its end: cut short, no line break, another encoding.
void noteEnd(const CsvReader& reader, const std::string& file, IntakeReport& report);

} // namespace sieve::intake
