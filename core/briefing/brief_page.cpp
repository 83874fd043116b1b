#include "core/briefing/brief_page.h"

#include <fmt/format.h>

namespace sieve::briefing {

using exports::dayInWords;
using exports::escapedHtml;
using exports::PageLook;

namespace {

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

} // namespace

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
                                   exports::fontOf(colours), colours.ink, titleOf(brief),
                                   colours.softInk, escapedHtml(headWords(brief)));
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
    return exports::pageOf(titleOf(brief), bodyOf(brief, style), style.look);
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

} // namespace sieve::briefing
