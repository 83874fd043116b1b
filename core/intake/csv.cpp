#include "core/intake/csv.h"

#include <algorithm>
#include <cmath>
#include <fast_float/fast_float.h>

namespace sieve::intake {

CsvReader::CsvReader(std::string_view text) : text_(text)
{
    if (text_.starts_with("\xEF\xBB\xBF"))
        text_.remove_prefix(3);
}

bool CsvReader::next()
{
    while (at_ < text_.size() && (text_[at_] == '\n' || text_[at_] == '\r'))
        line_ += text_[at_++] == '\n' ? 1U : 0U;
    if (at_ >= text_.size())
        return false;
    rowLine_ = line_;
    cells_.clear();
    unquotedCount_ = 0;
    unquoted_.reserve(64); // cells refer into it
    for (;;) {
        if (at_ < text_.size() && text_[at_] == '"') {
            cells_.push_back(quotedCell());
        } else {
            const std::size_t end = std::min(text_.find_first_of(",\n", at_), text_.size());
            std::string_view cell = text_.substr(at_, end - at_);
            if (cell.ends_with('\r'))
                cell.remove_suffix(1);
            cells_.push_back(cell);
            at_ = end;
        }
        if (at_ >= text_.size())
            return true;
        const char separator = text_[at_++];
        if (separator == '\n') {
            ++line_;
            return true;
        }
    }
}

std::string_view CsvReader::quotedCell()
{
    const std::size_t begin = ++at_;
    bool hasDoubled = false;
    for (;; ++at_) {
        if (at_ >= text_.size()) {
            endsInsideQuotes_ = true;
            break;
        }
        if (text_[at_] == '\n')
            ++line_;
        if (text_[at_] != '"')
            continue;
        if (at_ + 1 >= text_.size() || text_[at_ + 1] != '"')
            break;
        hasDoubled = true;
        ++at_;
    }
    std::string_view cell = text_.substr(begin, at_ - begin);
    // Whatever stands between the closing quote and the separator belongs to no cell.
    at_ = std::min(text_.find_first_of(",\n", std::min(at_ + 1, text_.size())), text_.size());
    if (!hasDoubled || unquotedCount_ == 64)
        return cell;
    if (unquoted_.size() == unquotedCount_)
        unquoted_.emplace_back();
    std::string& plain = unquoted_[unquotedCount_++];
    plain.clear();
    for (std::size_t i = 0; i < cell.size(); ++i) {
        plain += cell[i];
        if (cell[i] == '"')
            ++i;
    }
    return plain;
}

std::optional<double> parseFigure(std::string_view cell)
{
    double value = 0.0;
    const char* end = cell.data() + cell.size();
    const auto [stop, fault] = fast_float::from_chars(cell.data(), end, value);
    if (fault != std::errc() || stop != end || !std::isfinite(value))
        return std::nullopt;
    return value;
}

} // namespace sieve::intake
