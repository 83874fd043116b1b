#pragma once

#include "core/base/progress.h"
#include "core/intake/intake_report.h"
#include "core/intake/records.h"

#include <cstdint>
#include <filesystem>
#include <optional>
#include <string_view>
#include <vector>

namespace sieve::intake {

/// What a tag of filed statements feeds.
struct FilingTag {
    std::uint32_t item = 0;       ///< of market::statementItems, or `sharesItem`
    std::uint32_t preference = 0; ///< of several tags in one filing the lowest counts
};
inline constexpr std::uint32_t sharesItem = 0xFFFF; ///< the count of shares outstanding

/// The table is core/intake/filing_tags.toml. Empty: a tag that feeds nothing.
std::optional<FilingTag> filingTagNamed(std::string_view tag);

/// Reads the bulk statement files of a securities regulator from a dataset's folder `filings`, and
/// the folders in it: tab-separated tables of submissions (sub.txt, sub.tsv) and of numbers
/// (num.txt, num.tsv), also .gz, beside `companies.csv`, which gives each company number its
/// symbol.
///
/// Every figure is known from the day on which it was filed. Figures of a quarter and of a year are
/// taken as they stand, and a quarter of which only year-to-date figures are filed is what these
/// grew by since the quarter before. A figure that a later filing (an amendment, or a report that
/// repeats the year before) states anew is a restatement, if it differs. Figures of parts of a
/// company, and of companies without a symbol, are passed over. What is stated per share and comes
/// out of several filings is set on the footing of the last of them: `splits` are those of each
/// record.
/// Errors: std::system_error with the path; Stopped.
void readFilings(const std::filesystem::path& folder, Records& records,
                 const std::vector<std::vector<market::Action>>& splits, IntakeReport& report,
                 const Progress& progress);
/// The splits that are known of each record.
std::vector<std::vector<market::Action>> splitsOf(const Records& records);

} // namespace sieve::intake
