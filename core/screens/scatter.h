#pragma once

#include "core/screens/run.h"
#include "core/screens/table.h"

#include <array>
#include <cstddef>
#include <cstdint>
#include <string>
#include <vector>

namespace sieve::screens {

/// One figure of a scatter: a field or expression over the universe.
struct ScatterAxis {
    /// A limit of the screen on this very figure.
    struct Bound {
        std::size_t criterion = 0;
        std::size_t limit = 0;
        double at = 0.0;
        bool wantsMore = true;
    };
    TableColumn column; ///< title, unit, decimals and what is wrong; no figures
    Distribution spread;
    std::vector<Bound> bounds;
};

struct ScatterPoint {
    std::size_t stock = 0;
    double across = missing;
    double up = missing;
    double size = 0.0;        ///< 0 to 1, by rank of the third figure; 0.5 where it is not known
    std::uint32_t sector = 0; ///< number among the market's texts; 0: not known
    bool passes = false;
};

/// The stocks of a screen's universe by two figures, with a third as size.
struct Scatter {
    std::array<ScatterAxis, 3> axes;  ///< across, up, size
    std::vector<ScatterPoint> points; ///< those that pass stand last, to be drawn above the others
    std::size_t leftOut = 0;          ///< stocks of which one of the two is not known
};

/// Texts: three fields or expressions; what is wrong with one stands with its column.
Scatter scatterOf(const ScreenRun& run, const std::array<std::string, 3>& texts,
                  const language::Names& names, engine::Evaluator& evaluator,
                  const Progress& progress = {});

} // namespace sieve::screens
