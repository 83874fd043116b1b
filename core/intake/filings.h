#pragma once

#include "core/base/progress.h"
#include "core/intake/intake_report.h"
#include "core/intake/records.h"

#include <filesystem>

namespace sieve::intake {

/// Reads the bulk statement files of a securities regulator from a dataset's folder `filings`.
void readFilings(const std::filesystem::path& folder, Records& records, IntakeReport& report,
                 const Progress& progress);

} // namespace sieve::intake
