#pragma once

#include "core/exports/page.h"
#include "core/studies/kept_run.h"

#include <span>
#include <string>

namespace sieve::studies {

struct ReportPicture {
    std::string title;
    std::string address; ///< of an image, such as data:image/png;base64,…
    int width = 0;       ///< in pixels
};

struct ReportTable {
    std::string title;
    exports::Sheet sheet; ///< the first mostReportRows of it are shown, and how many are left out
};

inline constexpr std::size_t mostReportRows = 60;

std::string titleOf(const KeptRun& run);
/// The report of an answer as the inside of an HTML body: the answer, what weakens it, its figures,
/// pictures and tables; what was asked, what every answer of the kind supposes, and of which data,
/// by which program and seed it was made. All texts are shown as they are, whatever they hold.
std::string reportOf(const KeptRun& run, std::span<const ReportPicture> pictures,
                     std::span<const ReportTable> tables, const exports::PageLook& look = {});

/// What every answer of a kind supposes, as sentences.
std::vector<std::string> assumptionsOf(KeptRun::Kind kind);

} // namespace sieve::studies
