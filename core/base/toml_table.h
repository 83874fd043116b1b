#pragma once

#include "core/base/day.h"
#include "core/base/missing.h"
#include "core/base/result.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <initializer_list>
#include <span>
#include <string>
#include <string_view>
#include <toml++/toml.h>
#include <type_traits>
#include <utility>
#include <vector>

// Reading a person's TOML so that every mistake is told with its place and nothing is passed over.

namespace sieve {

/// A mistake in a TOML file; caught by readToml() alone.
struct TomlFault {
    LocatedError error;
};

[[noreturn]] inline void failAt(const toml::source_region& where, std::string problem,
                                std::string remedy)
{
    throw TomlFault{
        {{where.begin.line, where.begin.column, 0, 0, 0}, std::move(problem), std::move(remedy)}};
}

template <class T> T valueOr(const toml::table& table, std::string_view key, T initial)
{
    const toml::node* node = table.get(key);
    if (!node)
        return initial;
    if (const auto value = node->value_exact<T>())
        return *value;
    failAt(node->source(), fmt::format("'{}' is of another type", key),
           std::is_same_v<T, std::string> ? "write it in quotes" : "write it without quotes");
}

inline std::vector<std::string> textsOf(const toml::table& table, std::string_view key)
{
    std::vector<std::string> texts;
    const toml::node* node = table.get(key);
    if (!node)
        return texts;
    const toml::array* array = node->as_array();
    if (!array)
        failAt(node->source(), fmt::format("'{}' is no list", key), "write [\"…\", \"…\"]");
    for (const toml::node& each : *array) {
        const auto text = each.value_exact<std::string>();
        if (!text)
            failAt(each.source(), fmt::format("'{}' holds something that is no text", key),
                   "write each in quotes");
        texts.push_back(*text);
    }
    return texts;
}

/// The day under a key, which must be there.
inline Day dayUnder(const toml::table& table, std::string_view key)
{
    const auto day = Day::parse(valueOr<std::string>(table, key, {}));
    if (!day)
        failAt(table.source(), fmt::format("'{}' is no day", key),
               fmt::format("write {} = \"2025-03-14\"", key));
    return *day;
}

/// A number, whole or not; `initial` where there is none.
inline double numberOr(const toml::table& table, std::string_view key, double initial)
{
    const toml::node* node = table.get(key);
    if (!node)
        return initial;
    const auto number = node->value<double>();
    if (!number || !node->is_number())
        failAt(node->source(), fmt::format("'{}' is no number", key),
               fmt::format("write {} = 41.5", key));
    return *number;
}

/// The number under a key, which must be there and finite.
inline double numberUnder(const toml::table& table, std::string_view key)
{
    const double number = numberOr(table, key, missing);
    if (!std::isfinite(number))
        failAt(table.source(), fmt::format("'{}' is no number", key),
               fmt::format("write {} = 41.5", key));
    return number;
}

/// The tables under [[key]], each of which must be one.
inline std::vector<const toml::table*> tablesOf(const toml::table& table, std::string_view key)
{
    std::vector<const toml::table*> tables;
    const toml::node* node = table.get(key);
    if (!node)
        return tables;
    const std::string remedy = fmt::format("begin each with [[{}]]", key);
    if (!node->is_array())
        failAt(node->source(), fmt::format("'{}' is no list", key), remedy);
    for (const toml::node& each : *node->as_array()) {
        if (!each.is_table())
            failAt(each.source(), fmt::format("'{}' holds something that is no table", key),
                   remedy);
        tables.push_back(each.as_table());
    }
    return tables;
}

/// Nothing is passed over: what this version does not know, a newer one may have meant.
inline void refuseOthers(const toml::table& table, std::string_view what,
                         std::initializer_list<std::string_view> known)
{
    for (const auto& [key, node] : table)
        if (std::ranges::find(known, key.str()) == known.end())
            failAt(node.source(), fmt::format("'{}' is no key of {}", key.str(), what),
                   fmt::format("one of {}", fmt::join(known, ", ")));
}

/// What `read` makes of the file's table.
/// Errors: located in `text`: no TOML, or what `read` refused.
template <class Read> auto readToml(std::string_view text, std::string remedy, Read read)
    -> Result<decltype(read(std::declval<const toml::table&>()))>
{
    try {
        return read(toml::parse(text));
    } catch (const toml::parse_error& error) {
        return LocatedError{{error.source().begin.line, error.source().begin.column, 0, 0, 0},
                            std::string(error.description()),
                            std::move(remedy)};
    } catch (const TomlFault& fault) {
        return fault.error;
    }
}

/// A text as a TOML value, in quotes.
std::string quotedToml(const std::string& text);
/// Texts as a TOML list.
std::string quotedToml(std::span<const std::string> texts);

} // namespace sieve
