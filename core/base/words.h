#pragma once

#include <array>
#include <cstddef>
#include <optional>
#include <string_view>
#include <utility>

namespace sieve {

/// The words by which files and the language call the values of an enumeration.
template <class Value, std::size_t count> struct Words {
    std::array<std::pair<Value, std::string_view>, count> pairs;

    constexpr std::string_view word(Value value) const ///< empty when it has none
    {
        for (const auto& [each, name] : pairs)
            if (each == value)
                return name;
        return {};
    }
    constexpr std::optional<Value> value(std::string_view word) const
    {
        for (const auto& [each, name] : pairs)
            if (name == word)
                return each;
        return std::nullopt;
    }
};

} // namespace sieve
