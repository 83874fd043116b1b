#include "core/intake/csv.h"

#include <algorithm>
#include <cmath>
#include <cstring>
#include <fast_float/fast_float.h>

namespace sieve::intake {

namespace {
constexpr std::size_t pieceSize = 256U << 10U;
} // namespace

CsvReader::CsvReader(std::unique_ptr<ByteSource> source, char separator, std::vector<char> memory)
    : source_(std::move(source)), separator_(separator), buffer_(std::move(memory))
{
    refill();
    const std::string_view text(buffer_.data(), end_);
    if (text.starts_with("\xEF\xBB\xBF"))
        at_ = 3;
    isUtf16_ = text.starts_with("\xFF\xFE") || text.starts_with("\xFE\xFF");
    if (isUtf16_) {
        at_ = end_;
        isSourceDone_ = true;
    }
}

CsvReader::CsvReader(std::string_view text, char separator) : CsvReader(bytesOf(text), separator) {}

std::string CsvReader::fault() const
{
    return isUtf16_ ? "the file is in UTF-16; save it as UTF-8" : source_->fault();
}

bool CsvReader::refill()
{
    if (isSourceDone_)
        return false;
    std::copy(buffer_.begin() + static_cast<std::ptrdiff_t>(at_),
              buffer_.begin() + static_cast<std::ptrdiff_t>(end_), buffer_.begin());
    end_ -= at_;
    at_ = 0;
    if (buffer_.size() < end_ + pieceSize + slack)
        buffer_.resize(end_ + pieceSize + slack);
    const std::size_t got = source_->read(std::span(buffer_).subspan(end_, pieceSize));
    end_ += got;
    isSourceDone_ = got < pieceSize;
    return got > 0;
}

/// The end of the line that begins at `at_`, without its line break; npos when it is too long.
std::size_t CsvReader::lineEnd()
{
    std::size_t searched = 0; // from `at_`: a refill moves what lies there to the front
    for (;;) {
        const void* found =
            std::memchr(buffer_.data() + at_ + searched, '\n', end_ - at_ - searched);
        if (found)
            return static_cast<std::size_t>(static_cast<const char*>(found) - buffer_.data());
        searched = end_ - at_;
        if (searched > longestRow)
            return std::string::npos;
        if (!refill())
            return end_;
    }
}

void CsvReader::skipLine()
{
    do {
        const void* found = std::memchr(buffer_.data() + at_, '\n', end_ - at_);
        if (found) {
            at_ = static_cast<std::size_t>(static_cast<const char*>(found) - buffer_.data()) + 1;
            ++line_;
            return;
        }
        at_ = end_;
    } while (refill());
}

bool CsvReader::next()
{
    isTooLong_ = false;
    for (;;) { // past empty lines
        if (at_ == end_ && !refill())
            return false;
        if (buffer_[at_] != '\n' && buffer_[at_] != '\r')
            break;
        line_ += buffer_[at_++] == '\n' ? 1U : 0U;
    }
    rowLine_ = line_;
    cells_.clear();
    plainRow_ = {};
    isSplit_ = true;
    const std::size_t end = lineEnd();
    if (end == std::string::npos) {
        isTooLong_ = true;
        skipLine();
        return true;
    }
    char* begin = buffer_.data() + at_;
    if (std::memchr(begin, '"', end - at_) != nullptr)
        return splitQuoted();
    endsWithoutLineBreak_ = end == end_;
    plainRow_ = std::string_view(begin, end - at_);
    if (plainRow_.ends_with('\r'))
        plainRow_.remove_suffix(1);
    isSplit_ = false;
    at_ = std::min(end + 1, end_);
    ++line_;
    return true;
}

const std::vector<std::string_view>& CsvReader::cells() const
{
    if (isSplit_)
        return cells_;
    isSplit_ = true;
    std::string_view rest = plainRow_;
    for (;;) {
        const std::size_t end = rest.find(separator_);
        cells_.push_back(rest.substr(0, end));
        if (end == std::string_view::npos)
            return cells_;
        rest.remove_prefix(end + 1);
    }
}

/// A row with quotes: finds its end first, which may lie lines further on, then takes the quotes
/// out where they stand.
bool CsvReader::splitQuoted()
{
    std::size_t length = 0; // of the row, from `at_`
    bool isInside = false;
    std::size_t breaks = 0;
    for (;; ++length) {
        if (at_ + length == end_ && (length > longestRow || !refill()))
            break;
        const char c = buffer_[at_ + length];
        if (c == '"')
            isInside = !isInside;
        else if (c == '\n' && !isInside)
            break;
        else if (c == '\n')
            ++breaks;
    }
    endsWithoutLineBreak_ = at_ + length == end_;
    endsInsideQuotes_ = isInside;
    char* read = buffer_.data() + at_;
    char* const end = read + length;
    for (;;) {
        char* const cell = read;
        char* write = read;
        bool isQuoted = false;
        bool isOpen = false;
        if (read < end && *read == '"') {
            isQuoted = isOpen = true;
            ++read;
        }
        for (; read < end && (isOpen || *read != separator_); ++read) {
            if (isOpen && *read == '"' && !(read + 1 < end && read[1] == '"')) {
                isOpen = false;
                continue;
            }
            if (isOpen && *read == '"')
                ++read;
            if (isOpen || !isQuoted) // what stands after the closing quote belongs to no cell
                *write++ = *read;
        }
        if (!isQuoted && read == end && write > cell && write[-1] == '\r')
            --write;
        cells_.emplace_back(cell, static_cast<std::size_t>(write - cell));
        if (read == end)
            break;
        ++read;
    }
    at_ = endsInsideQuotes_ ? end_ : std::min(at_ + length + 1, end_);
    isSourceDone_ = isSourceDone_ || endsInsideQuotes_;
    line_ += breaks + 1;
    return true;
}

std::optional<double> parseFigure(std::string_view cell)
{
    double value = 0.0;
    const char* const end = cell.data() + cell.size();
    const auto [stop, fault] = fast_float::from_chars(cell.data(), end, value);
    if (fault != std::errc() || stop != end || !std::isfinite(value))
        return std::nullopt;
    return value;
}

} // namespace sieve::intake
