#pragma once

#include "core/base/day.h"

#include <cstddef>
#include <cstdint>
#include <cstring>
#include <optional>
#include <span>
#include <string>
#include <string_view>
#include <type_traits>

namespace sieve {

/// Writes values one after another as bytes: figures as this machine holds them, texts and lists
/// with their length before them.
class Packer {
public:
    template <class Figure>
    requires std::is_arithmetic_v<Figure> || std::is_enum_v<Figure>
    void add(Figure figure)
    {
        const auto* first = reinterpret_cast<const char*>(&figure);
        bytes_.append(first, sizeof figure);
    }
    void add(std::string_view text)
    {
        add(static_cast<std::uint32_t>(text.size()));
        bytes_.append(text);
    }
    void add(Day day) { add(day.serial()); }
    void add(const std::optional<Day>& day)
    {
        add(static_cast<std::uint8_t>(day.has_value()));
        add(day.value_or(Day::fromSerial(0)));
    }
    const std::string& bytes() const { return bytes_; }

private:
    std::string bytes_;
};

/// Reads them back. Bytes that end too early, as damaged ones do, give zeros and empty texts, and
/// `isWhole` tells.
class Unpacker {
public:
    explicit Unpacker(std::span<const std::byte> bytes) : bytes_(bytes) {}

    template <class Figure>
    requires std::is_arithmetic_v<Figure> || std::is_enum_v<Figure> Figure read()
    {
        Figure figure{};
        if (isShort(sizeof figure))
            return figure;
        std::memcpy(&figure, bytes_.data(), sizeof figure);
        bytes_ = bytes_.subspan(sizeof figure);
        return figure;
    }
    std::string readText()
    {
        const auto size = read<std::uint32_t>();
        if (isShort(size))
            return {};
        std::string text(reinterpret_cast<const char*>(bytes_.data()), size);
        bytes_ = bytes_.subspan(size);
        return text;
    }
    Day readDay() { return Day::fromSerial(read<std::int32_t>()); }
    std::optional<Day> readOptionalDay()
    {
        const bool isThere = read<std::uint8_t>() != 0;
        const Day day = readDay();
        return isThere ? std::optional(day) : std::nullopt;
    }
    /// How many entries a list has; never more than the bytes that are left could hold.
    std::size_t readCount()
    {
        const auto count = read<std::uint32_t>();
        return isShort(count) ? 0 : count;
    }
    bool isWhole() const { return isWhole_; }

private:
    bool isShort(std::size_t bytes)
    {
        if (bytes <= bytes_.size())
            return false;
        isWhole_ = false;
        bytes_ = {};
        return true;
    }

    std::span<const std::byte> bytes_;
    bool isWhole_ = true;
};

} // namespace sieve
