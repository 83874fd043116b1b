#pragma once

#include "core/base/missing.h"

#include <cstddef>
#include <span>
#include <vector>

namespace sieve::conditions {

enum class Divergence {
    Weakening,    ///< a higher high of the line, a lower one of the series
    Strengthening ///< a lower low of the line, a higher one of the series
};

/// Two turning points of a line that a series beside it did not confirm.
struct DivergenceFound {
    Divergence kind = Divergence::Weakening;
    std::size_t first = 0; ///< bars of the two turning points
    std::size_t second = 0;
    std::size_t knownOn = 0;     ///< the bar on which the second had shown itself
    double firstValue = missing; ///< of the series there
    double secondValue = missing;
    /// Of the line over so many sessions after `knownOn`; missing while they are not over.
    double after21 = missing;
    double after63 = missing;
};

struct DivergenceRule {
    std::size_t reach = 8; ///< a turning point tops (undercuts) so many bars on either side
    std::size_t mostApart = 126;
    std::size_t leastApart = 10;
};

/// Every divergence known by `bar`, the newest first. A turning point of the line (see
/// patterns::turningPoints) is held against each earlier one of its kind within reach that it tops
/// (undercuts), with nothing in between that tops it; the nearest that diverges counts. The series
/// is read at its own highest (lowest) within three bars of each point, by `knownOn`.
/// Nothing after `bar` changes the list or what stands in it.
std::vector<DivergenceFound> findDivergences(std::span<const double> closes,
                                             std::span<const double> series, std::size_t bar,
                                             const DivergenceRule& rule = {});

/// What followed divergences of one kind.
/// Each turning point once: of those that several series did not confirm, the first.
std::vector<DivergenceFound> oncePerTurn(std::span<const DivergenceFound> found);

struct DivergenceRecord {
    std::size_t count = 0;     ///< of which the 63 sessions after are over
    std::size_t fulfilled = 0; ///< the line then stood lower (weakening) or higher (strengthening)
    double median = missing;   ///< of its change over these sessions
};
DivergenceRecord recordOf(std::span<const DivergenceFound> found, Divergence kind);

} // namespace sieve::conditions
