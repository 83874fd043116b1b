#pragma once

#include "core/engine/bar_pass.h"

#include <cstddef>
#include <optional>
#include <span>
#include <vector>

namespace sieve::engine {

/// A pass over one instrument's bars that spares what can change nothing. The criteria of a screen
/// are asked one after another, the cheap ones first, and each only on the bars on which none said
/// no before, short runs of other bars between them included. The values are those of a BarPass,
/// bit by bit.
/// Threads: as BarPass.
class GatedPass {
public:
    GatedPass(const Context& context, const Plan& plan, std::span<const NodeId> targets,
              Depth depth = Depth::AsNeeded);

    /// As of BarPass.
    void run(const BarFrame& frame, std::size_t from, std::size_t to);
    std::span<const double> values(std::size_t target) const;
    void fetchNext(const market::Market& market, std::size_t next)
    {
        others_->fetchNext(market, next);
    }

private:
    /// Criteria that are asked together.
    struct Level {
        BarPass pass;
        std::size_t farApart = 0; ///< bars; over fewer closed ones it costs less to go on
    };

    void addLevels(const Context& context, const Plan& plan, std::span<const NodeId> criteria,
                   Depth depth);
    void ask(Level& level, const BarFrame& frame, const Bars& bars);
    void narrowSelection(std::size_t farApart);

    std::optional<std::size_t> screen_; ///< which target is gated
    std::optional<BarPass> steady_;     ///< its criteria that all bars answer alike
    std::vector<Level> levels_;         ///< its other criteria
    std::optional<BarPass> others_;     ///< all targets; of a gated screen those beside it
    std::vector<std::size_t> placeOf_;  ///< a target: its place in `others_`
    std::size_t from_ = 0;              ///< bar of the first value
    std::vector<double> values_;        ///< of the screen, as far as it was asked
    std::vector<Bars> selection_;       ///< those on which the screen is not decided yet
    std::vector<Bars> nextSelection_;
    std::vector<char> marks_;
    std::vector<const double*> answers_;
};

} // namespace sieve::engine
