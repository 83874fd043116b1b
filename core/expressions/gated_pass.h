#pragma once

#include "core/expressions/bar_pass.h"

#include <cstddef>
#include <optional>
#include <span>
#include <vector>

namespace sieve::expressions {

/// A pass over one instrument's bars that spares what can change nothing: where a cheap criterion
/// of a screen says no on hundreds of bars in a row (too small, too thinly traded, of another
/// kind), the screen is no, and its other criteria are not asked there. The values are those of a
/// BarPass, bit by bit.
/// Threads: as BarPass.
class GatedPass {
public:
    GatedPass(const Surroundings& surroundings, const Plan& plan, std::span<const NodeId> targets,
              Depth depth = Depth::AsNeeded);

    /// As of BarPass.
    void run(const BarFrame& frame, std::size_t from, std::size_t to);
    std::span<const double> values(std::size_t target) const;

private:
    struct Bars {
        std::size_t from = 0;
        std::size_t to = 0;
    };

    void findOpen(std::size_t from, std::size_t to);

    std::size_t screen_ = 0;           ///< which target is gated
    std::optional<BarPass> gate_;      ///< its cheap criteria, where it has such
    std::optional<BarPass> rest_;      ///< the screen itself, where the gate is open
    std::optional<BarPass> others_;    ///< all targets; of a gated screen those beside it
    std::vector<std::size_t> placeOf_; ///< a target: its place in `others_`
    std::vector<double> closed_;       ///< by bar: whether a cheap criterion says no
    std::vector<Bars> open_;
    std::vector<double> values_; ///< of the screen
};

} // namespace sieve::expressions
