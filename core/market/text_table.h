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

private:
    std::vector<std::string> texts_{""};
    std::map<std::string, std::uint32_t, std::less<>> numbers_{{"", 0}};
};

} // namespace sieve::market
