#pragma once

#include <cstddef>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace sieve::intake {

/// Walks through comma-separated text (RFC 4180: quotes, doubled quotes, line breaks inside quotes;
/// LF or CRLF; a byte-order mark is passed over). Empty lines are no rows.
/// Owns: the cells refer to the text, or to memory of the reader where quotes had to be taken out;
///       they hold until the next row is read.
class CsvReader {
public:
    explicit CsvReader(std::string_view text);

    /// Reads the next row; false at the end.
    bool next();
    const std::vector<std::string_view>& cells() const { return cells_; }
    std::size_t line() const { return rowLine_; } ///< where the row begins, from 1
    /// Whether the text ended inside quotes: the row swallowed all that follows them.
    bool endsInsideQuotes() const { return endsInsideQuotes_; }
    /// Whether the last row ended without a line break, as a file that was cut short does.
    bool endsWithoutLineBreak() const { return !text_.empty() && text_.back() != '\n'; }

private:
    std::string_view quotedCell();

    std::string_view text_;
    std::size_t at_ = 0;
    std::size_t line_ = 1;
    std::size_t rowLine_ = 0;
    bool endsInsideQuotes_ = false;
    std::vector<std::string_view> cells_;
    std::vector<std::string> unquoted_;
    std::size_t unquotedCount_ = 0;
};

/// A plain decimal number: "12.5", "-3", "1e6"; empty when it is not one or not finite.
std::optional<double> parseFigure(std::string_view cell);

} // namespace sieve::intake
