#include "core/exports/page.h"

#include "core/base/missing.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <fmt/format.h>

namespace sieve::exports {

namespace {

/// A figure as it is read: four digits at least, no more than six places.
std::string figureText(double value)
{
    const double size = std::fabs(value);
    return fmt::format("{:.{}f}", value,
                       size >= 1000.0 || (size >= 1.0 && value == std::round(value)) ? 0
                       : size >= 1.0                                                 ? 2
                                                                                     : 4);
}

std::string cellText(const Cell& cell, Unit unit)
{
    struct Say {
        Unit unit;
        std::string operator()(std::monostate) const { return "–"; }
        std::string operator()(double value) const
        {
            if (isMissing(value))
                return "–";
            return unit == Unit::Percent ? fmt::format("{:.1f} %", 100.0 * value)
                                         : figureText(value);
        }
        std::string operator()(bool value) const { return value ? "yes" : "no"; }
        std::string operator()(const std::string& value) const { return value; }
        std::string operator()(Day value) const { return value.iso(); }
    };
    return std::visit(Say{unit}, cell);
}

/// A figure stays beside its percent sign.
std::string unbroken(std::string text)
{
    if (text.ends_with(" %"))
        text.replace(text.size() - 2, 1, "\u00a0");
    return text;
}

Unit unitOfColumn(const Sheet& sheet, std::size_t column)
{
    return column < sheet.units.size() ? sheet.units[column] : Unit::Plain;
}

} // namespace

std::string dayInWords(Day day)
{
    constexpr std::array weekdays{"Sun", "Mon", "Tue", "Wed", "Thu", "Fri", "Sat"};
    constexpr std::array months{"Jan", "Feb", "Mar", "Apr", "May", "Jun",
                                "Jul", "Aug", "Sep", "Oct", "Nov", "Dec"};
    const auto date = day.date();
    return fmt::format(
        "{} {} {} {}", weekdays.at(day.weekday().c_encoding()), static_cast<unsigned>(date.day()),
        months.at(static_cast<unsigned>(date.month()) - 1), static_cast<int>(date.year()));
}

std::string fontOf(const PageLook& look)
{
    return fmt::format("font-family:{};font-size:13px", look.font);
}

std::string escapedHtml(std::string_view text)
{
    std::string escaped;
    for (const char c : text)
        switch (c) {
        case '&':
            escaped += "&amp;";
            break;
        case '<':
            escaped += "&lt;";
            break;
        case '>':
            escaped += "&gt;";
            break;
        case '"':
            escaped += "&quot;";
            break;
        case '\'':
            escaped += "&#39;";
            break;
        default:
            escaped += c;
        }
    return escaped;
}

std::string pageOf(std::string_view title, std::string_view body, const PageLook& look)
{
    return fmt::format("<!DOCTYPE html>\n<html lang=\"en\"><head><meta charset=\"utf-8\">"
                       "<title>{}</title></head>\n"
                       "<body style=\"background:{};margin:24px auto;max-width:760px;"
                       "padding:0 16px\">\n{}</body></html>\n",
                       escapedHtml(title), look.ground, body);
}

std::string tableOf(const Sheet& sheet, const PageLook& look)
{
    const auto isFigure = [&sheet](std::size_t column) {
        return std::ranges::any_of(sheet.rows, [column](const auto& row) {
            return std::holds_alternative<double>(row[column]);
        });
    };
    // A sheet of paper is some 600 pixels wide.
    constexpr std::size_t manyColumns = 10;
    const bool isNarrow = sheet.columns.size() > manyColumns;
    std::string html = fmt::format("<table cellspacing=\"0\" style=\"border-collapse:collapse;{};"
                                   "color:{}{}\">\n",
                                   fontOf(look), look.ink, isNarrow ? ";font-size:11px" : "");
    const auto addRow = [&](const char* tag, const auto& textAt) {
        html += "<tr>";
        for (std::size_t column = 0; column < sheet.columns.size(); ++column)
            html += fmt::format("<{0} align=\"{1}\" style=\"text-align:{1};padding:3px {4}px 3px 0;"
                                "border-bottom:1px solid {2}\">{3}</{0}>",
                                tag, isFigure(column) ? "right" : "left", look.rule,
                                escapedHtml(textAt(column)), isNarrow ? 5 : 12);
        html += "</tr>\n";
    };
    addRow("th", [&](std::size_t column) { return sheet.columns[column]; });
    for (const auto& row : sheet.rows)
        addRow("td", [&](std::size_t column) {
            return unbroken(cellText(row[column], unitOfColumn(sheet, column)));
        });
    return html + "</table>\n";
}

std::string textOf(const Sheet& sheet)
{
    std::string text;
    for (const auto& row : sheet.rows) {
        std::vector<std::string> cells;
        for (std::size_t column = 0; column < sheet.columns.size(); ++column)
            cells.push_back(column == 0
                                ? cellText(row[column], Unit::Plain)
                                : fmt::format("{} {}", sheet.columns[column],
                                              cellText(row[column], unitOfColumn(sheet, column))));
        text += fmt::format("  {}\n", fmt::join(cells, ", "));
    }
    return text;
}

} // namespace sieve::exports
