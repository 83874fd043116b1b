#pragma once

#include <cstddef>
#include <memory>
#include <span>
#include <string>
#include <string_view>

namespace sieve::storage {

/// A sum over bytes (XXH3) that tells them from all others met in practice; no seal against
/// somebody who wants two to be alike.
class Digest {
public:
    Digest();
    ~Digest();
    Digest(Digest&&) noexcept;
    Digest& operator=(Digest&&) noexcept;

    /// The size goes in too, so that parts cannot run into one another.
    void add(std::string_view bytes);
    void add(std::span<const double> figures); ///< bit by bit
    void add(double figure);
    std::string text() const; ///< 16 hexadecimal digits

private:
    struct State;
    std::unique_ptr<State> state_;
};

} // namespace sieve::storage
