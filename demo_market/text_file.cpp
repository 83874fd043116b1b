#include "demo_market/text_file.h"

#include "core/base/missing.h"

#include <array>
#include <cerrno>
#include <charconv>
#include <cmath>
#include <fstream>
#include <system_error>

namespace sieve::demo_market {

namespace {

void appendPrice(std::string& text, double price)
{
    const auto steps = static_cast<std::int64_t>(std::floor(price * 10'000.0 + 0.5));
    std::array<char, 24> digits{};
    const auto whole = std::to_chars(digits.data(), digits.data() + digits.size(), steps / 10'000);
    text.append(digits.data(), whole.ptr);
    const auto rest = static_cast<int>(steps % 10'000);
    text += '.';
    text += static_cast<char>('0' + rest / 1000);
    text += static_cast<char>('0' + rest / 100 % 10);
    if (rest % 100 == 0)
        return;
    text += static_cast<char>('0' + rest / 10 % 10);
    text += static_cast<char>('0' + rest % 10);
}

} // namespace

void TextFile::addWhole(std::int64_t number)
{
    std::array<char, 24> digits{};
    const auto end = std::to_chars(digits.data(), digits.data() + digits.size(), number);
    text_.append(digits.data(), end.ptr);
}

void TextFile::addPrice(double price)
{
    appendPrice(text_, price);
}

void TextFile::write(const std::filesystem::path& path) const
{
    std::ofstream file(path, std::ios::binary);
    file << text_;
    file.close();
    if (!file)
        throw std::system_error(errno, std::generic_category(), path.string());
}

std::string priceText(double price)
{
    std::string text;
    appendPrice(text, price);
    return text;
}

std::string figureText(double figure)
{
    if (isMissing(figure))
        return {};
    const double size = std::fabs(figure);
    const std::string sign = figure < 0.0 ? "-" : "";
    if (size == std::floor(size))
        return sign + std::to_string(static_cast<std::int64_t>(size));
    return sign + priceText(size);
}

std::string dayText(const std::optional<Day>& day)
{
    return day ? day->iso() : std::string();
}

std::string xmlText(std::string_view text)
{
    std::string xml;
    for (const char c : text) {
        if (c == '&')
            xml += "&amp;";
        else if (c == '<')
            xml += "&lt;";
        else if (c == '>')
            xml += "&gt;";
        else
            xml += c;
    }
    return xml;
}

} // namespace sieve::demo_market
