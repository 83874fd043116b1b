#include "core/studies/report.h"

#include <algorithm>
#include <cctype>
#include <cmath>
#include <fmt/format.h>

namespace sieve::studies {

namespace {

using exports::escapedHtml;
using exports::PageLook;

class ReportWriter {
public:
    explicit ReportWriter(const PageLook& look) : look_(look)
    {
        html_ = fmt::format("<div style=\"{};color:{}\">\n", exports::fontOf(look), look.ink);
    }

    void addTitle(const std::string& title, const std::string& under)
    {
        html_ += fmt::format("<p style=\"font-size:20px;font-weight:600;margin:0\">{}</p>\n"
                             "<p style=\"color:{};margin:2px 0 0 0\">{}</p>\n",
                             escapedHtml(title), look_.softInk, escapedHtml(under));
    }
    void addHead(const std::string& head)
    {
        html_ +=
            fmt::format("<p style=\"font-size:15px;font-weight:600;margin:16px 0 4px 0\">{}</p>\n",
                        escapedHtml(head));
    }
    /// Line breaks stay.
    void addWords(const std::string& words, const char* weight = "400")
    {
        std::string inside = escapedHtml(words);
        for (std::size_t at = 0; (at = inside.find('\n', at)) != std::string::npos; at += 5)
            inside.replace(at, 1, "<br/>");
        html_ += fmt::format("<p style=\"margin:6px 0;font-weight:{}\">{}</p>\n", weight, inside);
    }
    void addList(std::span<const std::string> lines)
    {
        html_ += "<ul style=\"margin:4px 0\">\n";
        for (const std::string& line : lines)
            html_ += fmt::format("<li>{}</li>\n", escapedHtml(line));
        html_ += "</ul>\n";
    }
    void addPicture(const ReportPicture& picture)
    {
        addHead(picture.title);
        html_ +=
            fmt::format("<p><img src=\"{}\" width=\"{}\" alt=\"{}\"/></p>\n",
                        escapedHtml(picture.address), picture.width, escapedHtml(picture.title));
    }
    void addTable(const std::string& title, exports::Sheet sheet)
    {
        addHead(title);
        const std::size_t rows = sheet.rows.size();
        sheet.rows.resize(std::min(rows, mostReportRows));
        html_ += exports::tableOf(sheet, look_);
        if (rows > mostReportRows)
            html_ += fmt::format("<p style=\"color:{};margin:4px 0\">and {} more</p>\n",
                                 look_.softInk, rows - mostReportRows);
    }
    std::string taken() { return std::move(html_) + "</div>\n"; }

private:
    PageLook look_;
    std::string html_;
};

exports::Sheet linesSheet(const std::vector<std::pair<std::string, std::string>>& lines,
                          const char* first, const char* second)
{
    exports::Sheet sheet{{first, second}, {}};
    for (const auto& [name, value] : lines)
        sheet.rows.push_back({name, value});
    return sheet;
}

/// A figure is told in its own unit, so that each is a text here.
exports::Cell figureCell(const KeptFigure& figure)
{
    if (isMissing(figure.value))
        return {};
    if (figure.unit == Unit::Percent)
        return fmt::format("{:.1f} %", 100.0 * figure.value);
    if (figure.unit == Unit::Ratio)
        return fmt::format("{:.2f}", figure.value);
    std::string digits = fmt::format("{:.0f}", std::fabs(figure.value));
    for (std::size_t at = digits.size(); at > 3; at -= 3)
        digits.insert(at - 3, ",");
    return (figure.value < 0.0 ? "-" : "") + digits;
}

} // namespace

std::string titleOf(const KeptRun& run)
{
    return run.name.empty() ? std::string("A condition without a name") : run.name;
}

std::vector<std::string> assumptionsOf(KeptRun::Kind kind)
{
    std::vector<std::string> all{
        "Stocks that were delisted since are in the answer until their last bar.",
        "Membership, statements, names and prices are those that were known on each day."};
    switch (kind) {
    case KeptRun::Kind::Followed:
        all.emplace_back("Cases are held against all stocks of the universe that traded on their "
                         "days, a day as heavy as its cases.");
        all.emplace_back("Intervals draw whole stretches of days anew; chance draws as many stocks "
                         "by lot on the same days. No costs are taken off.");
        break;
    case KeptRun::Kind::Standings:
        all.emplace_back("What a screen finds at a close is bought at the next open and sold at "
                         "the close of the end. No costs are taken off.");
        break;
    case KeptRun::Kind::Portfolio:
        all.emplace_back("Decisions are made at a close with what was known then; orders are "
                         "filled on the next session, within the day's range.");
        all.emplace_back("Nothing that is traded moves a price.");
        break;
    }
    all.emplace_back("What happened once need not happen again.");
    return all;
}

std::string reportOf(const KeptRun& run, std::span<const ReportPicture> pictures,
                     std::span<const ReportTable> tables, const PageLook& look)
{
    ReportWriter report(look);
    std::string kind(kindWords(run.kind));
    kind.front() = static_cast<char>(std::toupper(static_cast<unsigned char>(kind.front())));
    report.addTitle(titleOf(run), fmt::format("{} · {} · as known on {}", kind, run.market,
                                              exports::dayInWords(run.day)));
    report.addWords(run.sentence, "600");
    if (!run.cautions.empty()) {
        report.addHead("What weakens it");
        report.addList(run.cautions);
    }
    for (const ReportPicture& picture : pictures)
        report.addPicture(picture);
    exports::Sheet figures{{"figure", "value"}, {}};
    for (const KeptFigure& figure : run.figures)
        figures.rows.push_back({figure.name, figureCell(figure)});
    report.addTable("Figures", std::move(figures));
    for (const ReportTable& table : tables)
        report.addTable(table.title, table.sheet);
    if (!run.notes.empty()) {
        report.addHead("Notes");
        report.addWords(run.notes);
    }
    report.addTable("What was asked", linesSheet(termsOf(run), "term", "value"));
    report.addHead("What it supposes");
    report.addList(assumptionsOf(run.kind));
    report.addTable("Made with", linesSheet({{"program", "Wise Sieve " + run.program},
                                             {"market", run.market},
                                             {"the market's file", run.data},
                                             {"asked on", run.askedOn.iso()},
                                             {"digest of the answer", run.answer}},
                                            "what", "which"));
    return report.taken();
}

} // namespace sieve::studies
