#pragma once

#include "core/briefing/brief.h"
#include "core/exports/sheet.h"

#include <string>
#include <vector>

namespace sieve::briefing {

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

struct PageStyle {
    PageLook look = {};
    /// Each subject is a link "line:PART.LINE" and each title "part:PART", by their places in the
    /// brief, for a view that leads there.
    bool hasLinks = false;
};

/// A text with what HTML would read as its own written out.
std::string escapedHtml(std::string_view text);

/// The brief as the inside of an HTML body: tables and inline styles alone, which mail programs
/// keep. All texts are shown as they are, whatever they hold.
std::string bodyOf(const Brief& brief, const PageStyle& style = {});
/// The same as a whole file.
std::string pageOf(const Brief& brief, const PageStyle& style = {});
std::string textOf(const Brief& brief);
/// A row a line: part, subject, words, day.
exports::Sheet sheetOf(const Brief& brief);

/// What mails have: a title "Brief of Wed 30 Sep 2026".
std::string titleOf(const Brief& brief);

/// A sheet as an HTML table: figures to the right with at most so many digits as are read, shares
/// in percent, what is not known as a dash.
std::string tableOf(const exports::Sheet& sheet, const PageLook& colours = {});
/// The same as lines of text under their heads.
std::string textOf(const exports::Sheet& sheet);

} // namespace sieve::briefing
