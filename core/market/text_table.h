#pragma once

#include <cstdint>
#include <map>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace sieve::market {

/// Texts by number, so that the engine compares texts as it compares figures. Number 0 is the empty
/// text, which stands for "not known".
class TextTable {
public:
    std::uint32_t add(std::string_view text); ///< the number it has or gets
    std::optional<std::uint32_t> find(std::string_view text) const;
    const std::string& text(std::uint32_t number) const { return texts_.at(number); }
    std::size_t size() const { return texts_.size(); }

    /// A text as the figure that the engine computes with: its number. One that the table does not
    /// have gets a number below 0, which is the same for the same text as long as the program runs.
    /// Threads: any.
    double figureOf(std::string_view text) const;
    /// The text of such a figure. Requires: not missing.
    const std::string& textOf(double figure) const;

private:
    std::vector<std::string> texts_{""};
    std::map<std::string, std::uint32_t, std::less<>> numbers_{{"", 0}};
};

} // namespace sieve::market
