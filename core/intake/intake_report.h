#pragma once

#include <cstddef>
#include <string>
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

/// What an intake read and all that it found wrong. Nothing is dropped without a finding.
struct IntakeReport {
    std::size_t files = 0;
    std::size_t rows = 0;
    std::size_t rowsLeftOut = 0;
    std::vector<Finding> findings; ///< by file and line
};

/// The findings as CSV with a header line.
std::string toCsv(const IntakeReport& report);

} // namespace sieve::intake
