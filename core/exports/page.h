#pragma once

#include "core/exports/sheet.h"

#include <string>
#include <string_view>

namespace sieve::exports {

// Pages for people, as HTML with inline styles alone, which mail programs keep.

/// A day as a person reads it: "Wed 30 Sep 2026".
std::string dayInWords(Day day);

/// Colours and letters of a page, as CSS has them.
struct PageLook {
    std::string ground = "#ffffff";
    std::string ink = "#20282e";
    std::string softInk = "#626a70";
    std::string rule = "#d8d2c4";
    std::string mark = "#0e6b6b";
    std::string font = "Inter,sans-serif"; ///< families, the first one that is there
};
/// The letters of a page's outermost element, as CSS.
std::string fontOf(const PageLook& look);

/// A text with what HTML would read as its own written out.
std::string escapedHtml(std::string_view text);

/// A whole file around the inside of its body.
std::string pageOf(std::string_view title, std::string_view body, const PageLook& look = {});

/// A sheet as an HTML table: figures to the right with at most so many digits as are read, shares
/// in percent, what is not known as a dash.
std::string tableOf(const Sheet& sheet, const PageLook& look = {});
/// The same as lines of text under their heads.
std::string textOf(const Sheet& sheet);

} // namespace sieve::exports
