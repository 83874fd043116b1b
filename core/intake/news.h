#pragma once

#include "core/base/progress.h"
#include "core/intake/intake_report.h"
#include "core/intake/records.h"

#include <filesystem>

namespace sieve::intake {

/// Reads the Atom feeds (RFC 4287) of a dataset's folder `news`, *.xml: each category's term of an
/// entry names a symbol that it is about, `updated` or `published` its moment, `id` makes it one.
/// An entry without these, or of nobody, is left out and reported; so is a file that is no Atom.
/// Errors: std::system_error with the path; Stopped.
void readNews(const std::filesystem::path& folder, Records& records, IntakeReport& report,
              const Progress& progress);

} // namespace sieve::intake
