#pragma once

#include "core/briefing/brief.h"
#include "core/exports/page.h"

#include <string>

namespace sieve::briefing {

struct PageStyle {
    exports::PageLook look = {};
    /// Each subject is a link "line:PART.LINE" and each title "part:PART", by their places in the
    /// brief, for a view that leads there.
    bool hasLinks = false;
};

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

} // namespace sieve::briefing
