#pragma once

#include "core/engine/bar_frame.h"
#include "core/engine/day_table.h"
#include "core/engine/plan.h"

#include <cstddef>
#include <cstdint>
#include <functional>
#include <map>
#include <memory>
#include <span>
#include <vector>

namespace sieve::engine {

/// One value an instrument, in the market's order. Yes is 1, a text its number in the market's
/// table, a day its serial.
using Column = std::vector<double>;
using ColumnPtr = std::shared_ptr<const Column>;

/// A part that goes across stocks, on the sessions of the market on which somebody asked for it.
struct AcrossValues {
    DayTable table;
    /// An instrument's row in the table where a group shares one, Groups::none where it has none;
    /// empty where each instrument has its own, or the whole market one.
    std::vector<std::uint32_t> rows;
    std::vector<std::uint32_t> places; ///< by session: its place in the table
};

using AcrossTable = std::map<NodeId, AcrossValues>;

/// Where a pass takes from what does not lie along the instrument's own bars.
struct Surroundings {
    const market::Market& market;
    const AcrossTable& across;
    /// The market of one instrument that stands for all, weighed in that way.
    std::function<const market::Market&(std::size_t weight)> composite;
};

/// Thrown when a part turned out to need bars whose columns across stocks nobody has made: the
/// question must be asked again with `Depth::WholeHistory`.
struct NeedsWholeHistory {};

enum class Depth {
    AsNeeded,     ///< each part reads as far back as it does as a rule
    WholeHistory, ///< as far as it could ever need
};

class ScaledValues;
class OtherValues;

/// Evaluates parts along one instrument's bars. First each part learns which bars its users need,
/// then each is computed once, inputs first. One pass object serves many instruments in turn and
/// keeps its memory.
/// Threads: one thread at a time; each thread has its own.
class BarPass {
public:
    BarPass(const Surroundings& surroundings, const Plan& plan, std::span<const NodeId> targets,
            Depth depth = Depth::AsNeeded);
    ~BarPass();
    BarPass(BarPass&&) noexcept;

    /// Computes the targets for bars [from, to), as known on each bar's day.
    /// Errors: NeedsWholeHistory, see there.
    void run(const BarFrame& frame, std::size_t from, std::size_t to);
    /// Says whose turn is next, before a run: while that computes, the bars of the next instrument
    /// that a run like the last one reads are fetched into the processor's caches. It pays where
    /// few bars of many instruments are asked for.
    void announce(const market::Market& market, std::size_t next);
    std::size_t targets() const { return targets_.size(); }
    /// A target's values for the bars last asked for; valid until the next run.
    std::span<const double> values(std::size_t target) const;

    /// Only learns which bars a run of [from, to) will touch, inputs of other bars aside.
    void prepare(const BarFrame& frame, std::size_t from, std::size_t to);
    /// The parts that go across stocks: calls `take(node, from, to)` with the bars prepared.
    template <class Take> void visitAcross(Take take) const
    {
        for (const Step& step : steps_)
            if (isAcross(step.op) && step.from < step.to)
                take(step.id, step.from, step.to);
    }
    /// The first bar that any part will touch after `prepare`.
    std::size_t firstBar() const;
    /// Computes bars [from, to) of what was prepared; false when more history is needed: then
    /// deepen() and prepare anew.
    bool compute(std::size_t from, std::size_t to);
    /// Lets the part that wanted more bars look farther back, until the next restore().
    void deepen();
    void restore();

private:
    /// One part with its place in the plan and its values for the bars in hand. What every run
    /// reads comes first, in one line of the processor's cache.
    struct alignas(64) Step {
        Op op = Op::Constant;
        std::uint32_t stage = 0; ///< see steps_
        bool isPassing = false;  ///< nobody but its stage reads it: it lives for a block
        std::size_t from = 0;
        std::size_t to = 0;
        const double* at = nullptr;          ///< value of bar `base`
        std::size_t base = 0;                ///< `from`, or where the block in hand begins
        std::span<const std::size_t> inputs; ///< steps; a part of inputs_

        std::vector<double> store;
        const Node* node = nullptr;
        std::size_t doneFrom = 0; ///< bars whose values this run has made, as far as it began anew
        std::size_t doneTo = 0;
        std::size_t reach = 0; ///< of an indicator, in bars; grows by deepen()
        NodeId id = 0;
        const market::Market* textsOf = nullptr; ///< of a text: where `number` is its number
        double number = missing;
        std::unique_ptr<ScaledValues> scaled;
        std::unique_ptr<OtherValues> other;

        bool isNeeded() const { return from < to; }
        /// Whether its values may be another's, which it only points to.
        bool liesInPlace() const { return op == Op::BarColumn || op == Op::Prior; }
        bool isDone() const { return doneFrom == from && doneTo == to; }
        void include(std::size_t first, std::size_t end);
        const double* valueAt(std::size_t bar) const { return at + (bar - base); }
        std::span<double> storeOf(std::size_t first, std::size_t end)
        {
            return std::span(store).subspan(first - base, end - first);
        }
    };

    void setStages(std::span<const std::vector<std::size_t>> inputs);
    void moveBy(std::size_t distance);
    void findNeeds(const Step& step);
    void reserve();
    bool compute(Step& step, std::size_t from, std::size_t to);
    void combineStage(std::span<Step> stage, std::size_t from, std::size_t to);
    void textConstant(Step& step, std::size_t from, std::size_t to);
    void combineStep(Step& step, std::size_t from, std::size_t to);
    void barColumn(Step& step, std::size_t from, std::size_t to);
    bool indicator(Step& step, std::size_t from, std::size_t to);
    void acrossColumn(Step& step, std::size_t from, std::size_t to);
    void prior(Step& step, std::size_t from, std::size_t to);
    void pick(Step& step, std::size_t from, std::size_t to);
    void contains(Step& step, std::size_t from, std::size_t to);
    std::size_t yearEndBefore(std::size_t bar) const;

    const Surroundings& surroundings_;
    const Plan& plan_;
    Depth depth_;
    bool hasAcross_ = false;
    bool countsBars_ = true;   ///< which bars are needed depends on their distance only
    bool isMovable_ = false;   ///< the first bar cut nothing off what was prepared: it can be moved
    std::size_t earliest_ = 0; ///< bar that was prepared
    /// Inputs first, in stages: those of an odd stage are value by value, and run through a block
    /// of bars together, while what they hand each other is in the processor's nearest caches.
    std::vector<Step> steps_;
    std::vector<std::size_t> inputs_;  ///< of one step after another
    std::vector<std::size_t> targets_; ///< steps
    std::vector<std::size_t> reading_; ///< steps whose bars or rows are fetched ahead
    bool hasDone_ = false;             ///< a step may bear what a run had made of it
    BarFrame frame_;
    std::size_t from_ = 0;
    std::size_t to_ = 0;
    std::size_t wanting_ = 0;                                   ///< the step that had too few bars
    std::vector<std::pair<std::size_t, std::size_t>> deepened_; ///< steps and their reach before
};

} // namespace sieve::engine
