#pragma once

#include "core/screens/run.h"
#include "core/screens/table.h"

#include <QString>
#include <memory>

namespace sieve::app {

/// A screen with its answer on a day: what every view of the results shows a side of.
struct Sifted {
    screens::Screen screen;
    screens::ScreenRun run;
    std::shared_ptr<const screens::ResultTable> table; ///< the matches with the screen's columns
    std::shared_ptr<engine::Evaluator> evaluator;      ///< that answered
    market::MarketPtr market;                          ///< of which it is
};

using SiftedPtr = std::shared_ptr<const Sifted>;

} // namespace sieve::app
