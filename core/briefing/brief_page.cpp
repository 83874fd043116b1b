#include "core/briefing/brief_page.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <fmt/format.h>

namespace sieve::briefing {

namespace {

std::string fontOf(const PageLook& colours)
{
    return fmt::format("font-family:{};font-size:13px", colours.font);
}

std::string linked(const std::string& inside, const std::string& address, const PageStyle& style)
{
    return style.hasLinks ? fmt::format("<a href=\"{}\" style=\"color:{};text-decoration:none\">"
                                        "{}</a>",
                                        address, style.look.mark, inside)
                          : inside;
}

std::string moreWords(const Part& part)
{
    return fmt::format("and {} more", part.more);
}

std::string noChangeWords(const Brief& brief)
{
    return fmt::format("Nothing changed since {}.", dayInWords(brief.since));
}

std::string headWords(const Brief& brief)
{
    return fmt::format("{} · what changed since {}", brief.market, dayInWords(brief.since));
}

/// Shortened: the year is that of the page.
std::string dayOfLine(const Line& line, const Brief& brief)
{
    if (!line.on)
        return {};
    std::string words = dayInWords(*line.on);
    if (line.on->date().year() == brief.day.date().year())
        words.resize(words.size() - 5);
    return words;
}

std::string partAsHtml(const Brief& brief, std::size_t at, const PageStyle& style)
{
    const Part& part = brief.parts[at];
    const PageLook& colours = style.look;
    const std::string cell = fmt::format(
        "padding:3px 12px 3px 0;border-bottom:1px solid {};vertical-align:top", colours.rule);
    const bool leads = part.lead.to != Lead::To::Nothing;
    const std::string title = escapedHtml(part.title);
    std::string html = fmt::format(
        "<p style=\"font-size:15px;font-weight:600;margin:16px 0 4px 0\">{}</p>\n"
        "<table width=\"100%\" cellspacing=\"0\" style=\"border-collapse:collapse;width:100%\">\n",
        leads ? linked(title, fmt::format("part:{}", at), style) : title);
    for (std::size_t i = 0; i < part.lines.size(); ++i) {
        const Line& line = part.lines[i];
        html += fmt::format(
            "<tr><td width=\"27%\" style=\"{0};width:27%;font-weight:600\">{1}</td>"
            "<td style=\"{0}\">{2}</td>"
            "<td width=\"14%\" align=\"right\" "
            "style=\"{0};width:14%;text-align:right;color:{3};padding-right:0\">{4}</td>"
            "</tr>\n",
            cell, linked(escapedHtml(line.subject), fmt::format("line:{}.{}", at, i), style),
            escapedHtml(line.words), colours.softInk,
            line.on ? dayOfLine(line, brief) : "&nbsp;"); // an empty cell loses what follows it
    }
    html += "</table>\n";
    if (part.more > 0)
        html += fmt::format("<p style=\"color:{};margin:4px 0\">{}</p>\n", colours.softInk,
                            moreWords(part));
    return html;
}

/// A figure as it is read: four digits at least, no more than six places.
std::string figureText(double value)
{
    const double size = std::fabs(value);
    return fmt::format("{:.{}f}", value,
                       size >= 1000.0 || (size >= 1.0 && value == std::round(value)) ? 0
                       : size >= 1.0                                                 ? 2
                                                                                     : 4);
}

std::string cellText(const exports::Cell& cell, Unit unit)
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

Unit unitOfColumn(const exports::Sheet& sheet, std::size_t column)
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

std::string titleOf(const Brief& brief)
{
    return "Brief of " + dayInWords(brief.day);
}

std::string bodyOf(const Brief& brief, const PageStyle& style)
{
    const PageLook& colours = style.look;
    std::string html = fmt::format("<div style=\"{};color:{}\">\n"
                                   "<p style=\"font-size:20px;font-weight:600;margin:0\">{}</p>\n"
                                   "<p style=\"color:{};margin:2px 0 0 0\">{}</p>\n",
                                   fontOf(colours), colours.ink, titleOf(brief), colours.softInk,
                                   escapedHtml(headWords(brief)));
    for (std::size_t part = 0; part < brief.parts.size(); ++part)
        html += partAsHtml(brief, part, style);
    if (brief.parts.empty())
        html += fmt::format("<p>{}</p>\n", noChangeWords(brief));
    for (const std::string& fault : brief.faults)
        html += fmt::format("<p style=\"color:{}\">Could not be asked: {}</p>\n", colours.softInk,
                            escapedHtml(fault));
    return html + "</div>\n";
}

std::string pageOf(const Brief& brief, const PageStyle& style)
{
    return fmt::format("<!DOCTYPE html>\n<html lang=\"en\"><head><meta charset=\"utf-8\">"
                       "<title>{}</title></head>\n"
                       "<body style=\"background:{};margin:24px auto;max-width:760px;"
                       "padding:0 16px\">\n{}</body></html>\n",
                       titleOf(brief), style.look.ground, bodyOf(brief, style));
}

std::string textOf(const Brief& brief)
{
    std::string text = titleOf(brief) + "\n" + headWords(brief) + "\n";
    for (const Part& part : brief.parts) {
        text += "\n" + part.title + "\n";
        for (const Line& line : part.lines) {
            text += fmt::format("  {}: {}", line.subject, line.words);
            if (const std::string day = dayOfLine(line, brief); !day.empty())
                text += fmt::format(" ({})", day);
            text += "\n";
        }
        if (part.more > 0)
            text += fmt::format("  {}\n", moreWords(part));
    }
    if (brief.parts.empty())
        text += "\n" + noChangeWords(brief) + "\n";
    for (const std::string& fault : brief.faults)
        text += fmt::format("\nCould not be asked: {}\n", fault);
    return text;
}

exports::Sheet sheetOf(const Brief& brief)
{
    exports::Sheet sheet{{"part", "subject", "words", "day"}, {}, {}};
    for (const Part& part : brief.parts)
        for (const Line& line : part.lines)
            sheet.rows.push_back({part.title, line.subject, line.words,
                                  line.on ? exports::Cell(*line.on) : exports::Cell()});
    return sheet;
}

std::string tableOf(const exports::Sheet& sheet, const PageLook& colours)
{
    const auto isFigure = [&sheet](std::size_t column) {
        return std::ranges::any_of(sheet.rows, [column](const auto& row) {
            return std::holds_alternative<double>(row[column]);
        });
    };
    std::string html = fmt::format("<table cellspacing=\"0\" style=\"border-collapse:collapse;{};"
                                   "color:{}\">\n",
                                   fontOf(colours), colours.ink);
    const auto addRow = [&](const char* tag, const auto& textAt) {
        html += "<tr>";
        for (std::size_t column = 0; column < sheet.columns.size(); ++column)
            html += fmt::format("<{0} align=\"{1}\" style=\"text-align:{1};padding:3px 12px 3px 0;"
                                "border-bottom:1px solid {2}\">{3}</{0}>",
                                tag, isFigure(column) ? "right" : "left", colours.rule,
                                escapedHtml(textAt(column)));
        html += "</tr>\n";
    };
    addRow("th", [&](std::size_t column) { return sheet.columns[column]; });
    for (const auto& row : sheet.rows)
        addRow("td", [&](std::size_t column) {
            return unbroken(cellText(row[column], unitOfColumn(sheet, column)));
        });
    return html + "</table>\n";
}

std::string textOf(const exports::Sheet& sheet)
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

} // namespace sieve::briefing
