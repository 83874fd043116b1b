#pragma once

#include "core/engine/operators/operator.h"

#include <cstddef>
#include <span>
#include <utility>
#include <vector>

namespace sieve::engine {

/// Thrown when a part turned out to need bars whose columns across stocks nobody has made: the
/// question must be asked again with `Depth::WholeHistory`.
struct NeedsWholeHistory {};

/// Evaluates parts along one instrument's bars. First each part learns which bars its users need,
/// then each is computed once, inputs first. One pass object serves many instruments in turn and
/// keeps its memory.
/// Threads: one thread at a time; each thread has its own.
/// For speed alone, without a change of any value:
///   stages      parts value by value run together through 256 bars at a time, so that what they
///   hand
///               each other is still in the processor's nearest cache
///   moved needs a screen asks every instrument for bars as far from its last: what was learnt of
///   one
///               is shifted, not learnt again
///   fetching    with few bars an instrument the processor waits for memory most of the time: the
///               bars and rows of the next one are asked for while this one computes
class BarPass {
public:
    BarPass(const Context& context, const Plan& plan, std::span<const NodeId> targets,
            Depth depth = Depth::AsNeeded);

    /// Computes the targets for bars [from, to), as known on each bar's day; where `ofTargets` is
    /// given, each target for its own ones of these alone, which may be none.
    /// Errors: NeedsWholeHistory, see there.
    void run(const BarFrame& frame, std::size_t from, std::size_t to,
             std::span<const Bars> ofTargets = {});
    /// Says whose turn is next, before a run: what a run like the last one reads of it is fetched
    /// into the processor's caches.
    void fetchNext(const market::Market& market, std::size_t next);
    std::size_t targets() const { return targets_.size(); }
    /// A target's values for the bars last asked for; valid until the next run.
    std::span<const double> values(std::size_t target) const;

    /// Only learns which bars a run of [from, to) will touch, inputs of other bars aside.
    void prepare(const BarFrame& frame, std::size_t from, std::size_t to,
                 std::span<const Bars> ofTargets = {});
    /// The parts that go across stocks: calls `visit(node, from, to)` with the bars prepared.
    template <class Visit> void visitAcross(Visit visit) const
    {
        for (const Series& series : series_)
            if (series.by->family == Family::AcrossStocks && series.isNeeded())
                visit(series.id, series.from, series.to);
    }
    /// The first bar that any part will touch after `prepare`.
    std::size_t firstBar() const;
    /// Computes bars [from, to) of what was prepared; false when more history is needed: then
    /// extendLookback() and prepare anew.
    bool compute(std::size_t from, std::size_t to);
    /// Lets the part that wanted more bars look farther back, until the next resetLookbacks().
    void extendLookback();
    void resetLookbacks();

private:
    void setStages(std::span<const std::vector<std::size_t>> inputs);
    void moveBy(std::size_t distance);
    void findNeeds(const Series& series);
    void reserve();
    void combineStage(std::span<Series> stage, std::size_t from, std::size_t to);

    bool countsBars_ = true;   ///< which bars are needed depends on their distance only
    bool isMovable_ = false;   ///< the first bar cut nothing off what was prepared: it can be moved
    std::size_t earliest_ = 0; ///< bar that was prepared
    Run run_;
    /// Inputs first, in stages: those of an odd stage are value by value, and run through a block
    /// of bars together, while what they hand each other is in the processor's nearest caches.
    std::vector<Series> series_;
    std::vector<Series*> inputs_;       ///< of one series after another
    std::vector<std::size_t> targets_;  ///< places among series_
    std::vector<Bars> ofTargets_;       ///< the bars of each, where they differ; or empty
    std::vector<std::size_t> fetching_; ///< those whose bars or rows are fetched ahead
    bool hasDone_ = false;              ///< a series may bear what a run had made of it
    std::size_t tooShort_ = 0;          ///< the series that had too few bars
    std::vector<std::pair<std::size_t, std::size_t>> extended_; ///< series and lookback before
};

} // namespace sieve::engine
