#include "core/engine/operators/series.h"

#include "core/engine/operators/operator.h"

#include <algorithm>

namespace sieve::engine {

void Series::include(const Bars& bars)
{
    if (bars.isEmpty())
        return;
    from = isNeeded() ? std::min(from, bars.from) : bars.from;
    to = std::max(to, bars.to);
}

void Series::reserve(std::size_t bars)
{
    if (columnSize_ < bars) {
        store.resize(bars * by->columns, node->number); // a constant's values are there with it
        columnSize_ = bars;
    }
    at = store.data();
    base = from;
}

} // namespace sieve::engine
