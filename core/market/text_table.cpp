#include "core/market/text_table.h"

#include <deque>
#include <mutex>
#include <shared_mutex>

namespace sieve::market {

namespace {

/// Texts that somebody asked for and a market did not have: each has one number, so that two of
/// them are equal only where they are the same. They are few: what people type.
class ForeignTexts {
public:
    double figureOf(std::string_view text)
    {
        const std::scoped_lock lock(mutex_);
        const auto known = numbers_.find(text);
        if (known != numbers_.end())
            return known->second;
        texts_.emplace_back(text);
        const double figure = -static_cast<double>(texts_.size());
        numbers_.emplace(text, figure);
        return figure;
    }
    const std::string& textOf(double figure)
    {
        const std::shared_lock lock(mutex_);
        return texts_.at(static_cast<std::size_t>(-figure) - 1);
    }

private:
    std::shared_mutex mutex_;
    std::deque<std::string> texts_; // who was given one may keep it while others come
    std::map<std::string, double, std::less<>> numbers_;
};

ForeignTexts& foreignTexts()
{
    static ForeignTexts texts;
    return texts;
}

} // namespace

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

double TextTable::figureOf(std::string_view text) const
{
    const auto number = find(text);
    return number ? static_cast<double>(*number) : foreignTexts().figureOf(text);
}

const std::string& TextTable::textOf(double figure) const
{
    return figure < 0.0 ? foreignTexts().textOf(figure) : text(static_cast<std::uint32_t>(figure));
}

} // namespace sieve::market
