#include "core/intake/intake_report.h"

#include <fmt/format.h>

namespace sieve::intake {

namespace {

std::string quoted(const std::string& text)
{
    std::string cell = "\"";
    for (const char c : text) {
        cell += c;
        if (c == '"')
            cell += '"';
    }
    return cell + '"';
}

} // namespace

std::string toCsv(const IntakeReport& report)
{
    std::string csv = "file,line,column,what,why,done\n";
    for (const Finding& finding : report.findings)
        csv += fmt::format("{},{},{},{},{},{}\n", quoted(finding.file), finding.line,
                           quoted(finding.column), quoted(finding.what), quoted(finding.why),
                           quoted(finding.done));
    return csv;
}

} // namespace sieve::intake
