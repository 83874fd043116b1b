#include "core/intake/rows.h"

#include "core/base/missing.h"

#include <fmt/format.h>

namespace sieve::intake {

Rows::Rows(std::string file, std::string_view text, std::span<const std::string_view> required,
           IntakeReport& report)
    : file_(std::move(file)), reader_(text), report_(report)
{
    ++report_.files;
    isReadable_ = reader_.next();
    if (!isReadable_) {
        report_.findings.push_back({file_, 0, "", "", "the file is empty", "file left out"});
        return;
    }
    for (const std::string_view name : reader_.cells())
        columns_.emplace(name, columns_.size());
    for (const std::string_view name : required) {
        const auto found = columns_.find(name);
        if (found != columns_.end()) {
            cellsNeeded_ = std::max(cellsNeeded_, found->second + 1);
            continue;
        }
        report_.findings.push_back({file_, 1, std::string(name), "",
                                    fmt::format("the header has no column '{}'", name),
                                    "file left out"});
        isReadable_ = false;
    }
}

bool Rows::next()
{
    while (isReadable_ && reader_.next()) {
        ++report_.rows;
        isTaken_ = true;
        if (reader_.endsInsideQuotes()) {
            leaveOut("", "a quote that is never closed: the rest of the file stands inside it");
            return false;
        }
        if (reader_.cells().size() >= cellsNeeded_)
            return true;
        leaveOut("", fmt::format("{} cells, the header has {}", reader_.cells().size(),
                                 columns_.size()));
    }
    if (isReadable_ && reader_.endsWithoutLineBreak())
        report_.findings.push_back({file_, reader_.line(), "", "",
                                    "the file ends without a line break; it may be cut short",
                                    "kept as it is"});
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
    constexpr std::size_t mostShown = 120;
    if (what.size() > mostShown)
        what = what.substr(0, mostShown) + "…";
    report_.findings.push_back({file_, reader_.line(), std::string(column), std::move(what),
                                std::string(why), std::string(done)});
}

} // namespace sieve::intake
