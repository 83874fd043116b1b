#pragma once

#include "core/base/csv_cell.h"
#include "core/base/day.h"

#include <filesystem>
#include <fmt/format.h>
#include <optional>
#include <string>
#include <utility>

namespace sieve::demo_market {

/// A text that is written whole into a file. Figures are written from whole numbers alone, so that
/// no library's rounding shows.
class TextFile {
public:
    template <class... Parts> void line(fmt::format_string<Parts...> form, Parts&&... parts)
    {
        fmt::format_to(std::back_inserter(text_), form, std::forward<Parts>(parts)...);
        text_ += '\n';
    }
    void add(std::string_view text) { text_ += text; }
    void add(char c) { text_ += c; }
    void addWhole(std::int64_t number);
    void addPrice(double price); ///< two decimals, or four where two do not do
    const std::string& text() const { return text_; }
    /// Errors: std::system_error with the path.
    void write(const std::filesystem::path& path) const;

private:
    std::string text_;
};

std::string priceText(double price);
std::string figureText(double figure); ///< whole, or as a price; empty when missing
std::string dayText(const std::optional<Day>& day);
/// For a text of XML.
std::string xmlText(std::string_view text);

} // namespace sieve::demo_market
