#include "core/storage/digest.h"

#include <cstdint>
#include <fmt/format.h>
#define XXH_INLINE_ALL // header only: the loop is compiled for this program
#include <xxhash.h>

namespace sieve::storage {

struct Digest::State {
    XXH3_state_t sum;
};

Digest::Digest() : state_(std::make_unique<State>())
{
    XXH3_INITSTATE(&state_->sum);
    XXH3_64bits_reset(&state_->sum);
}

Digest::~Digest() = default;
Digest::Digest(Digest&&) noexcept = default;
Digest& Digest::operator=(Digest&&) noexcept = default;

void Digest::add(std::string_view bytes)
{
    const std::uint64_t size = bytes.size();
    XXH3_64bits_update(&state_->sum, &size, sizeof size);
    XXH3_64bits_update(&state_->sum, bytes.data(), bytes.size());
}

void Digest::add(std::span<const double> figures)
{
    const auto bytes = std::as_bytes(figures);
    add(std::string_view(reinterpret_cast<const char*>(bytes.data()), bytes.size()));
}

void Digest::add(double figure)
{
    add(std::span(&figure, 1));
}

std::string Digest::text() const
{
    return fmt::format("{:016x}", XXH3_64bits_digest(&state_->sum));
}

} // namespace sieve::storage
