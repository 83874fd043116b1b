#pragma once

#include "core/intake/byte_source.h"

#include <cstddef>
#include <memory>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace sieve::intake {

/// Walks through comma-separated text (RFC 4180: quotes, doubled quotes, line breaks inside quotes;
/// LF or CRLF; a byte-order mark is passed over), or text with another separator. Empty lines are
/// no rows. Holds one row and what of the file was read with it, never the file.
/// Owns: the cells refer to memory of the reader and hold until the next row is read.
class CsvReader {
public:
    /// `memory` is what a former reader gave back: reading many files needs it only once.
    explicit CsvReader(std::unique_ptr<ByteSource> source, char separator = ',',
                       std::vector<char> memory = {});
    explicit CsvReader(std::string_view text, char separator = ',');
    std::vector<char> giveMemory() && { return std::move(buffer_); }

    /// Reads the next row; false at the end.
    bool next();
    const std::vector<std::string_view>& cells() const;
    /// The whole row, without its line break; empty when it has quotes, and must be read by cells.
    /// `slack` more bytes may be read after it, whatever they are.
    std::string_view plainRow() const { return plainRow_; }
    std::size_t line() const { return rowLine_; } ///< where the row begins, from 1
    /// The row is longer than a row can be: its cells are not there, the next row may be read.
    bool isTooLong() const { return isTooLong_; }
    /// Whether the text ended inside quotes: the row swallowed all that follows them.
    bool endsInsideQuotes() const { return endsInsideQuotes_; }
    /// Whether the last row ended without a line break, as a file that was cut short does.
    bool endsWithoutLineBreak() const { return endsWithoutLineBreak_; }
    /// What stopped the reading before the end of the file; empty when nothing did.
    std::string fault() const;

    static constexpr std::size_t slack = 8;
    static constexpr std::size_t longestRow = 1U << 20U; ///< bytes

private:
    bool refill(); ///< false when there is no more
    void skipLine();
    std::size_t lineEnd();
    bool splitQuoted();

    std::unique_ptr<ByteSource> source_;
    char separator_;
    std::vector<char> buffer_;
    std::size_t at_ = 0;
    std::size_t end_ = 0;
    bool isSourceDone_ = false;
    std::size_t line_ = 1;
    std::size_t rowLine_ = 0;
    bool isTooLong_ = false;
    bool endsInsideQuotes_ = false;
    bool endsWithoutLineBreak_ = false;
    bool isUtf16_ = false;
    std::string_view plainRow_;
    mutable bool isSplit_ = true; ///< plain rows are cut into cells only when these are asked for
    mutable std::vector<std::string_view> cells_;
};

/// A plain decimal number: "12.5", "-3", "1e6"; empty when it is not one or not finite.
std::optional<double> parseFigure(std::string_view cell);

} // namespace sieve::intake
