#include "core/indicators/bars_since.h"

#include "core/base/missing.h"
#include "core/base/require.h"

namespace sieve::indicators {

void barsSince(std::span<const double> conditions, std::span<double> bars)
{
    require(conditions.size() == bars.size(), "barsSince: sizes differ");
    double since = missing;
    for (std::size_t bar = 0; bar < bars.size(); ++bar) {
        since = conditions[bar] == 1.0 ? 0.0 : since + 1.0;
        bars[bar] = since;
    }
}

void streak(std::span<const double> conditions, std::span<double> bars)
{
    require(conditions.size() == bars.size(), "streak: sizes differ");
    double length = 0.0;
    for (std::size_t bar = 0; bar < bars.size(); ++bar) {
        length = conditions[bar] == 1.0 ? length + 1.0 : 0.0;
        bars[bar] = isMissing(conditions[bar]) ? missing : length;
    }
}

} // namespace sieve::indicators
