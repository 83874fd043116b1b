#pragma once

#include "core/base/day.h"

#include <array>
#include <bit>
#include <cstdint>
#include <cstring>

namespace sieve::intake {

// What prices are read with, nine tenths of all that an intake reads: plain figures and days, eight
// characters at a time. Whatever is not plain is left to the readers that know every form.

namespace quick {

inline std::uint64_t eightAt(const char* text)
{
    std::uint64_t eight = 0;
    std::memcpy(&eight, text, sizeof eight);
    return eight; // the first character in the lowest byte
}

/// The high bit of each byte that is no digit.
inline std::uint64_t notDigits(std::uint64_t eight)
{
    const std::uint64_t fromZero = eight ^ 0x3030303030303030U; // digits become 0 to 9
    const std::uint64_t tooHigh = (fromZero & 0x7F7F7F7F7F7F7F7FU) + 0x7676767676767676U;
    return (tooHigh | fromZero) & 0x8080808080808080U;
}

/// The number that eight digits are. Source: the halving of digits, pairs and fours, as described
/// by Daniel Lemire and others, "Number parsing at a gigabyte per second" (2021), section 4.
inline std::uint64_t numberOf(std::uint64_t eightDigits)
{
    eightDigits -= 0x3030303030303030U;
    eightDigits = (eightDigits * 10U) + (eightDigits >> 8U);
    constexpr std::uint64_t mask = 0x000000FF000000FFU;
    constexpr std::uint64_t first = 0x000F424000000064U;
    constexpr std::uint64_t second = 0x0000271000000001U;
    return (((eightDigits & mask) * first) + (((eightDigits >> 16U) & mask) * second)) >> 32U;
}

} // namespace quick

/// Reads a figure of up to seven digits with a point, or of eight without one, at `at` and moves
/// `at` past it; false, and nothing moved, when something else stands there. Requires: eight bytes
/// that may be read from `at` on.
inline bool readQuickFigure(const char*& at, double& figure)
{
    constexpr std::array powersOfTen{1e0, 1e1, 1e2, 1e3, 1e4, 1e5, 1e6, 1e7};
    const std::uint64_t eight = quick::eightAt(at);
    std::uint64_t marks = quick::notDigits(eight);
    unsigned length = marks == 0 ? 8 : static_cast<unsigned>(std::countr_zero(marks)) / 8U;
    std::uint64_t digits = eight;
    unsigned decimals = 0;
    if (length < 8 && at[length] == '.') {
        marks &= marks - 1; // the next mark ends the figure
        const unsigned end = marks == 0 ? 8 : static_cast<unsigned>(std::countr_zero(marks)) / 8U;
        const std::uint64_t whole = (std::uint64_t{1} << (8U * length)) - 1U;
        digits = (eight & whole) | ((eight >> 8U) & ~whole); // the point taken out
        decimals = end - length - 1;
        if (end == 8 && marks == 0)
            return false; // it goes on after the eight
        at += end;
        length = end - 1;
        if (length == 0) {
            at -= end;
            return false;
        }
    } else {
        if (length == 0 || length == 8)
            return false;
        at += length;
    }
    // The digits go to the high bytes, zeros before them: both halves of the quotient are exact.
    const std::uint64_t shift = 8U * (8U - length);
    const std::uint64_t zeros = 0x3030303030303030U >> (8U * length);
    const auto number = static_cast<double>(quick::numberOf((digits << shift) | zeros));
    figure = decimals == 0 ? number : number / powersOfTen[decimals];
    return true;
}

/// Reads ISO days that mostly lie in the month of the one before.
class QuickDays {
public:
    /// False, and nothing moved, when no day stands there.
    /// Requires: ten bytes that may be read from `at` on.
    bool take(const char*& at, std::int32_t& serial)
    {
        const std::uint64_t month = quick::eightAt(at); // "2025-03-"
        const auto tens = static_cast<unsigned char>(at[8] - '0');
        const auto ones = static_cast<unsigned char>(at[9] - '0');
        const int day = tens * 10 + ones;
        if (month != month_ && !learn(at))
            return false;
        if (tens > 3 || ones > 9 || day < 1 || day > days_)
            return false;
        serial = before_ + day;
        at += 10;
        return true;
    }

private:
    bool learn(const char* at)
    {
        const auto first = Day::parse(std::string(at, 8) + "01");
        if (!first)
            return false;
        month_ = quick::eightAt(at);
        before_ = first->serial() - 1;
        days_ = first->plusMonths(1) - *first;
        return true;
    }

    std::uint64_t month_ = 0;
    std::int32_t before_ = 0;
    int days_ = 0;
};

} // namespace sieve::intake
