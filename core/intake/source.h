#pragma once

#include "core/base/progress.h"
#include "core/base/result.h"
#include "core/intake/bar_file.h"
#include "core/intake/intake_report.h"

#include <filesystem>
#include <optional>
#include <string>
#include <vector>

namespace sieve::intake {

/// Where an intake reads from, and in what form.
struct Source {
    enum class Form { Dataset, Prices };
    std::filesystem::path path; ///< a folder, or one file of prices
    Form form = Form::Dataset;
};

/// A folder with bars/, dataset.toml or any table or folder of a dataset is one (an update need not
/// have bars); a table of prices, or a folder of such tables, is prices alone.
/// Errors: neither; the remedy names docs/dataset.md.
Result<Source> sourceAt(const std::filesystem::path& path);

/// The first table of a folder of prices, or the file itself; empty when there is none.
std::filesystem::path firstTable(const std::filesystem::path& source);

/// The files of bars that the source has, each with its layout: all as `mapping` says, or as each
/// header shows. A file whose layout is not clear is left out and reported.
/// Errors: Stopped.
std::vector<BarFile> barFilesOf(const Source& source, const std::optional<PriceLayout>& mapping,
                                IntakeReport& report, const Progress& progress);

/// All files that stand in the source, by path; of one that is a file, that.
std::vector<std::filesystem::path> filesOf(const Source& source);

/// What stands in the source's files, in short: changes whenever one comes, goes, or is written.
std::string fingerprintOf(const Source& source);

} // namespace sieve::intake
