#include "core/intake/intake_report.h"

#include "core/base/csv_cell.h"

#include <algorithm>
#include <fmt/format.h>
#include <nlohmann/json.hpp>
#include <tuple>

namespace sieve::intake {

void IntakeReport::add(Finding finding)
{
    FindingCount& alike = counts_[{finding.file, finding.why}];
    ++alike.count;
    alike.done = finding.done;
    if (alike.count <= mostAlike)
        findings.push_back(std::move(finding));
}

void IntakeReport::add(IntakeReport&& part)
{
    files += part.files;
    rows += part.rows;
    rowsLeftOut += part.rowsLeftOut;
    for (Finding& finding : part.findings)
        add(std::move(finding));
    for (const auto& [key, alike] : part.counts_)
        if (alike.count > mostAlike) {
            counts_[key].count += alike.count - mostAlike;
            counts_[key].done = alike.done;
        }
}

void IntakeReport::finish()
{
    std::ranges::stable_sort(findings, {}, [](const Finding& each) {
        return std::tie(each.file, each.line, each.column);
    });
    for (const auto& [key, alike] : counts_)
        if (alike.count > mostAlike)
            findings.push_back({key.first, 0, "",
                                fmt::format("{} more rows", alike.count - mostAlike), key.second,
                                alike.done});
    counts_.clear();
}

std::string toCsv(const IntakeReport& report)
{
    std::string csv = "file,line,column,what,why,done\n";
    for (const Finding& finding : report.findings)
        csv += fmt::format("{},{},{},{},{},{}\n", csvCell(finding.file), finding.line,
                           csvCell(finding.column), csvCell(finding.what), csvCell(finding.why),
                           csvCell(finding.done));
    return csv;
}

std::string toJson(const IntakeReport& report)
{
    nlohmann::ordered_json json{{"files", report.files},
                                {"rows", report.rows},
                                {"rows_left_out", report.rowsLeftOut},
                                {"findings", nlohmann::ordered_json::array()}};
    for (const Finding& each : report.findings)
        json["findings"].push_back({{"file", each.file},
                                    {"line", each.line},
                                    {"column", each.column},
                                    {"what", each.what},
                                    {"why", each.why},
                                    {"done", each.done}});
    // What stood in a file need not be UTF-8; a report of it must be.
    return json.dump(1, ' ', false, nlohmann::json::error_handler_t::replace) + "\n";
}

Result<IntakeReport> reportFromJson(std::string_view text)
{
    try {
        const auto json = nlohmann::json::parse(text);
        IntakeReport report;
        report.files = json.at("files");
        report.rows = json.at("rows");
        report.rowsLeftOut = json.at("rows_left_out");
        for (const auto& each : json.at("findings"))
            report.findings.push_back({each.at("file"), each.at("line"), each.at("column"),
                                       each.at("what"), each.at("why"), each.at("done")});
        return report;
    } catch (const nlohmann::json::exception& fault) {
        return LocatedError{{}, fault.what(), "take the dataset in again"};
    }
}

} // namespace sieve::intake
