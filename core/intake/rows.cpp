#include "core/intake/rows.h"

#include "core/base/missing.h"

#include <fmt/format.h>

namespace sieve::intake {

namespace {

/// How many bytes of well-formed UTF-8 stand at the front.
std::size_t wellFormed(std::string_view text)
{
    std::size_t at = 0;
    while (at < text.size()) {
        const auto byte = static_cast<unsigned char>(text[at]);
        const std::size_t length = byte < 0x80              ? 1
                                   : (byte & 0xE0U) == 0xC0 ? 2
                                   : (byte & 0xF0U) == 0xE0 ? 3
                                   : (byte & 0xF8U) == 0xF0 ? 4
                                                            : 0;
        if (length == 0 || byte == 0xC0 || byte == 0xC1 || at + length > text.size())
            return at;
        for (std::size_t i = 1; i < length; ++i)
            if ((static_cast<unsigned char>(text[at + i]) & 0xC0U) != 0x80)
                return at;
        at += length;
    }
    return at;
}

std::string fromLatin1(std::string_view text)
{
    std::string utf8;
    for (const char c : text) {
        const auto byte = static_cast<unsigned char>(c);
        if (byte < 0x80) {
            utf8 += c;
        } else {
            utf8 += static_cast<char>(0xC0U | (byte >> 6U));
            utf8 += static_cast<char>(0x80U | (byte & 0x3FU));
        }
    }
    return utf8;
}

} // namespace

std::string shown(std::string_view cell)
{
    constexpr std::size_t mostShown = 120;
    const bool isCut = cell.size() > mostShown;
    if (isCut) {
        cell = cell.substr(0, mostShown);
        while (!cell.empty() && (static_cast<unsigned char>(cell.back()) & 0xC0U) == 0x80)
            cell.remove_suffix(1); // not through the middle of a character
        if (!cell.empty() && static_cast<unsigned char>(cell.back()) >= 0xC0)
            cell.remove_suffix(1);
    }
    std::string text = wellFormed(cell) == cell.size() ? std::string(cell) : fromLatin1(cell);
    for (char& c : text)
        if (static_cast<unsigned char>(c) < 0x20)
            c = ' ';
    return isCut ? text + "…" : text;
}

void noteEnd(const CsvReader& reader, const std::string& file, IntakeReport& report)
{
    if (const std::string fault = reader.fault(); !fault.empty())
        report.add({file, reader.line(), "", "", fault, "the rest of the file left out"});
    else if (reader.endsWithoutLineBreak())
        report.add({file, reader.line(), "", "",
                    "the file ends without a line break; it may be cut short", "kept as it is"});
}

Rows::Rows(std::string file, CsvReader reader, std::span<const std::string_view> required,
           IntakeReport& report)
    : file_(std::move(file)), reader_(std::move(reader)), report_(report)
{
    ++report_.files;
    isReadable_ = reader_.next() && !reader_.isTooLong();
    if (!isReadable_) {
        const std::string fault = reader_.fault();
        report_.add({file_, 0, "", "",
                     !fault.empty()        ? fault
                     : reader_.isTooLong() ? "the first line is longer than 1 MiB"
                                           : "the file is empty",
                     "file left out"});
        return;
    }
    headerCells_ = reader_.cells().size();
    for (std::size_t place = 0; place < headerCells_; ++place) {
        const std::string_view name = reader_.cells()[place];
        if (!columns_.emplace(name, place).second && !name.empty())
            report_.add({file_, 1, shown(name), "",
                         "the header has more than one column of this name",
                         "the first of them is read"});
    }
    for (const std::string_view name : required) {
        const auto found = columns_.find(name);
        if (found != columns_.end()) {
            cellsNeeded_ = std::max(cellsNeeded_, found->second + 1);
            continue;
        }
        report_.add({file_, 1, std::string(name), "",
                     fmt::format("the header has no column '{}'", name), "file left out"});
        isReadable_ = false;
    }
}

bool Rows::next()
{
    while (isReadable_ && reader_.next()) {
        ++report_.rows;
        isTaken_ = true;
        if (reader_.isTooLong()) {
            leaveOut("", "a line longer than 1 MiB");
            continue;
        }
        if (reader_.endsInsideQuotes()) {
            leaveOut("", "a quote that is never closed: the rest of the file stands inside it");
            isReadable_ = false;
            return false;
        }
        if (reader_.cells().size() >= cellsNeeded_)
            return true;
        leaveOut("",
                 fmt::format("{} cells, the header has {}", reader_.cells().size(), headerCells_));
    }
    if (isReadable_)
        noteEnd(reader_, file_, report_);
    isReadable_ = false;
    return false;
}

std::string_view Rows::cell(std::string_view column) const
{
    const auto found = columns_.find(column);
    if (found == columns_.end() || found->second >= reader_.cells().size())
        return {};
    return reader_.cells()[found->second];
}

std::string Rows::text(std::string_view column)
{
    const std::string_view text = cell(column);
    if (wellFormed(text) == text.size())
        return std::string(text);
    note(column, "not UTF-8", "read as Latin-1");
    return fromLatin1(text);
}

std::optional<Day> Rows::day(std::string_view column, Cell need)
{
    const std::string_view text = cell(column);
    if (text.empty() && need == Cell::MayBeEmpty)
        return std::nullopt;
    const std::optional<Day> day = Day::parse(text);
    if (!day)
        leaveOut(column, "not a day such as 2025-03-14");
    return day;
}

double Rows::figure(std::string_view column, Cell need)
{
    const std::string_view text = cell(column);
    if (text.empty() && need == Cell::MayBeEmpty)
        return missing;
    const std::optional<double> figure = parseFigure(text);
    if (!figure)
        leaveOut(column, text.empty() ? "no figure" : "not a figure such as 12.5");
    return figure.value_or(missing);
}

void Rows::leaveOut(std::string_view column, std::string_view why)
{
    if (isTaken_) { // a row is left out once, for the first thing wrong
        ++report_.rowsLeftOut;
        note(column, why, "row left out");
    }
    isTaken_ = false;
}

void Rows::note(std::string_view column, std::string_view why, std::string_view done)
{
    std::string what(cell(column));
    if (column.empty())
        for (const std::string_view each : reader_.cells())
            what += (what.empty() ? "" : ",") + std::string(each);
    report_.add({file_, reader_.line(), std::string(column), shown(what), std::string(why),
                 std::string(done)});
}

} // namespace sieve::intake
