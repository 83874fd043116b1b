// Built into the library of plain kernels (tests/CMakeLists.txt), where `indicators` and
// `engine` stand for other namespaces.
#include "tests/core/indicators/plain.h"

#include "core/engine/operators/values.h"
#include "core/indicators/catalog.h"

namespace sieve::test {

bool computePlain(std::string_view key, std::span<const std::span<const double>> columns,
                  int period, std::array<double, 2> factors, std::size_t firstBar, std::size_t from,
                  std::span<double> out)
{
    return indicators::indicatorNamed(key)->compute({columns, {period, factors}, {firstBar, from}},
                                                    out);
}

void combinePlain(int op, std::span<const double* const> inputs, std::span<double> out)
{
    engine::combine(static_cast<engine::Op>(op), inputs, out);
}

} // namespace sieve::test
