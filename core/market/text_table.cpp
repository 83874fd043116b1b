#include "core/market/text_table.h"

namespace sieve::market {

std::uint32_t TextTable::add(std::string_view text)
{
    if (const auto known = find(text))
        return *known;
    const auto number = static_cast<std::uint32_t>(texts_.size());
    texts_.emplace_back(text);
    numbers_.emplace(text, number);
    return number;
}

std::optional<std::uint32_t> TextTable::find(std::string_view text) const
{
    const auto found = numbers_.find(text);
    return found == numbers_.end() ? std::nullopt : std::optional(found->second);
}

} // namespace sieve::market
