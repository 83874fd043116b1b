#pragma once

#include "core/base/result.h"

#include <cstddef>
#include <map>
#include <string>
#include <string_view>
#include <vector>

namespace sieve::intake {

/// One row that was not taken as it stands, or was taken although it looks odd.
struct Finding {
    std::string file;     ///< within the dataset
    std::size_t line = 0; ///< from 1; 0 is the file as a whole
    std::string column;   ///< empty: the row as a whole
    std::string what;     ///< what stands there
    std::string why;      ///< what is wrong with it
    std::string done;     ///< what was done: "row left out", "kept as it is", …

    friend bool operator==(const Finding&, const Finding&) = default;
};

/// What an intake read and all that it found wrong. Nothing is dropped without a finding; where a
/// file has the same fault more than `mostAlike` times, the rest is told by its number.
class IntakeReport {
public:
    std::size_t files = 0;
    std::size_t rows = 0;
    std::size_t rowsLeftOut = 0;
    std::vector<Finding> findings; ///< after `finish`: by file and line

    void add(Finding finding);
    /// Adds all that another part of the same intake found.
    void add(IntakeReport&& part);
    /// Tells the numbers of what was too often alike, and puts all in order.
    void finish();

    static constexpr std::size_t mostAlike = 200;

private:
    struct FindingCount {
        std::size_t count = 0;
        std::string done;
    };
    std::map<std::pair<std::string, std::string>, FindingCount> counts_; ///< by file and why
};

/// The findings as CSV with a header line.
std::string toCsv(const IntakeReport& report);
/// The numbers and the findings.
std::string toJson(const IntakeReport& report);
Result<IntakeReport> reportFromJson(std::string_view json);

} // namespace sieve::intake
