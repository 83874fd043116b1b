#pragma once

#include <cstdint>
#include <cstring>
#include <string>
#define XXH_INLINE_ALL
#include <xxhash.h>

// The checksums of a market file turn every change away at the door. Made right again after one,
// what lies behind them must bear it too.

namespace sieve::test {

template <class Figure> inline Figure figureAt(const std::string& bytes, std::size_t at)
{
    Figure figure{};
    if (at + sizeof figure <= bytes.size())
        std::memcpy(&figure, bytes.data() + at, sizeof figure);
    return figure;
}

inline void putSum(std::string& bytes, std::size_t at, std::uint64_t from, std::uint64_t size)
{
    if (from > bytes.size() || size > bytes.size() - from || at + 8 > bytes.size())
        return;
    const std::uint64_t sum = XXH3_64bits(bytes.data() + from, size);
    std::memcpy(bytes.data() + at, &sum, sizeof sum);
}

/// See the layout at the top of market_file.cpp: header, and at its end the table of contents.
inline void makeSumsRight(std::string& bytes)
{
    constexpr std::size_t headerBytes = 64;
    if (bytes.size() < headerBytes)
        return;
    const std::uint64_t size = bytes.size();
    std::memcpy(bytes.data() + 16, &size, sizeof size);
    const auto contents = figureAt<std::uint64_t>(bytes, 24);
    const auto contentsBytes = figureAt<std::uint64_t>(bytes, 32);
    if (contents < size && contentsBytes <= size - contents) {
        std::size_t at = static_cast<std::size_t>(contents) + 12;
        for (auto left = figureAt<std::uint32_t>(bytes, at - 4); left > 0 && at < size; --left) {
            const auto name = figureAt<std::uint32_t>(bytes, at);
            if (name > size - at)
                break;
            at += 4 + name;
            putSum(bytes, at + 16, figureAt<std::uint64_t>(bytes, at),
                   figureAt<std::uint64_t>(bytes, at + 8));
            at += 24;
        }
    }
    putSum(bytes, 40, contents, contentsBytes);
    putSum(bytes, 56, 0, 56);
}

} // namespace sieve::test
