#pragma once

#include <array>
#include <cstddef>
#include <span>
#include <string_view>

namespace sieve::test {

/// What indicators::Indicator::compute does, compiled without vector instructions of 256 bits.
bool computePlain(std::string_view key, std::span<const std::span<const double>> columns,
                  int period, std::array<double, 2> factors, std::size_t firstBar, std::size_t from,
                  std::span<double> out);

/// The same for engine::combine; `op` is an engine::Op.
void combinePlain(int op, std::span<const double* const> inputs, std::span<double> out);

} // namespace sieve::test
