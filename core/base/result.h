#pragma once

#include <cstddef>
#include <string>
#include <utility>
#include <variant>

namespace sieve {

/// A stretch of a text that somebody typed or of a file.
struct SourceRange {
    std::size_t line = 1;   ///< from 1
    std::size_t column = 1; ///< from 1, in characters (UTF-8 code points)
    std::size_t length = 0; ///< in characters
    std::size_t offset = 0; ///< in bytes from the start of the text
    std::size_t bytes = 0;  ///< length in bytes

    friend bool operator==(const SourceRange&, const SourceRange&) = default;
};

struct LocatedError {
    SourceRange where;
    std::string problem; ///< what is wrong, in words of the trade; no full stop
    std::string remedy;  ///< what would be right

    friend bool operator==(const LocatedError&, const LocatedError&) = default;
};

/// For a status line: "Line 1, column 9: no function 'smaa'. Did you mean sma(x, n)?"
std::string sentence(const LocatedError& error);

/// The value read from the user's input, or what is wrong with it and where.
template <class T> class [[nodiscard]] Result {
public:
    Result(T value) : state_(std::move(value)) {}
    Result(LocatedError error) : state_(std::move(error)) {}
    explicit operator bool() const { return state_.index() == 0; }
    const T& operator*() const& { return std::get<0>(state_); } ///< throws when there is none
    T&& operator*() && { return std::get<0>(std::move(state_)); }
    T* operator->() { return &std::get<0>(state_); }
    const T* operator->() const { return &std::get<0>(state_); }
    const LocatedError& error() const { return std::get<1>(state_); } ///< throws when there is none

private:
    std::variant<T, LocatedError> state_;
};

} // namespace sieve
