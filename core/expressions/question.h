#pragma once

#include "core/expressions/across.h"
#include "core/expressions/evaluator.h"

#include <algorithm>
#include <map>
#include <tbb/blocked_range.h>
#include <tbb/parallel_for.h>

namespace sieve::expressions {

/// One question to the evaluator, at one depth.
class Evaluator::Question {
public:
    Question(Evaluator& evaluator, const Plan& plan, Depth depth, const Progress& progress)
        : evaluator_(evaluator), market_(*evaluator.market_), plan_(plan), depth_(depth),
          progress_(progress)
    {
    }

    std::vector<ColumnPtr> columns(std::span<const NodeId> targets, Day day);
    std::vector<DayTable> tablesOver(std::span<const NodeId> targets, std::span<const Day> days);
    void sweep(std::span<const NodeId> targets, std::span<const Day> days,
               const std::function<void(const SweepValues&)>& visit);
    /// Over an instrument's bars [0, end); `line` is the market that it belongs to, where that is
    /// another than the evaluator's.
    std::vector<std::vector<double>> histories(std::span<const NodeId> targets,
                                               const market::Market& line, std::size_t instrument,
                                               std::size_t end);

private:
    /// Those that a thread takes at a time: neighbours share the lines of the columns they write.
    static constexpr std::size_t instrumentsATime = 32;

    /// For each part across stocks, the sessions on which it is asked for.
    class Needs {
    public:
        explicit Needs(const market::Market& market) : market_(market) {}
        void add(NodeId node, Day first, Day last);
        void add(const Needs& other);
        std::map<NodeId, std::vector<std::size_t>> sessions() const;

    private:
        const market::Market& market_;
        std::map<NodeId, std::vector<int>> changes_; ///< of the number of askers, by session
    };

    Surroundings surroundings(const AcrossTable& table)
    {
        return {market_, table, [this](std::size_t weight) -> const market::Market& {
                    return evaluator_.compositeMarket(weight);
                }};
    }
    /// Calls `of(instrument)` for all of them, on all threads; `block` neighbours on one, in order.
    template <class Of> void eachInstrument(Of of, std::size_t block = instrumentsATime) const
    {
        const std::size_t blocks = (market_.size() + block - 1) / block;
        tbb::parallel_for(std::size_t{0}, blocks, [&](std::size_t at) {
            const std::size_t end = std::min((at + 1) * block, market_.size());
            for (std::size_t instrument = at * block; instrument < end; ++instrument) {
                stopIfTold();
                of(instrument);
            }
        });
    }
    /// sweep() of those instruments that `isWanted` names (empty: all), so many neighbours a
    /// thread.
    void sweepSome(std::span<const NodeId> targets, std::span<const Day> days,
                   const std::function<void(const SweepValues&)>& visit,
                   std::span<const char> isWanted, std::size_t block);
    bool goesAcross(std::span<const NodeId> targets) const;
    std::vector<Day> cutsOf(std::span<const NodeId> targets) const;
    AcrossTable acrossUnder(std::span<const NodeId> targets, std::span<const Day> days,
                            std::span<const char> isWanted);
    AcrossTable tableOf(const Needs& needs);
    std::vector<DayTable> acrossOn(std::span<const NodeId> nodes, std::span<const Day> days);
    DayTable keepTraded(DayTable figures, std::span<const Day> days) const;
    /// A part of the day with what it is made of.
    struct DayPart {
        NodeId node = 0;
        std::vector<NodeId> inputs; ///< the figure, and the group where it changes by day
        std::vector<char> isMember; ///< of a group that stays the same
    };
    DayPart dayPart(NodeId node) const;
    std::optional<std::vector<char>> steadyMembers(NodeId group) const;
    std::vector<Column> daysOf(std::span<const NodeId> nodes, std::span<const Day> days);
    double oneDay(const DayPart& part, Day day);
    std::vector<Column> tallyDays(std::span<const DayPart> parts, std::span<const Day> days);
    Column medianDays(const DayPart& part, std::span<const Day> days);
    bool counts(const DayPart& part, std::size_t instrument) const
    {
        return (part.isMember.empty() || part.isMember[instrument]) &&
               market_.instrument(instrument).kind != market::InstrumentKind::Index;
    }
    std::span<const NodeId> inputsOf(NodeId part) const;
    void acrossDays(NodeId node, std::size_t days, std::span<DayTable> inputs);
    Groups steadyGroups(NodeId node) const;
    struct Standing {
        std::vector<std::size_t> unlisted;
        std::vector<std::size_t> idle;
    };
    Standing standingOn(Day day) const;
    std::map<NodeId, std::shared_ptr<Column>>
    columnsAlongBars(std::span<const NodeId> nodes, Day day, std::span<const char> isWanted);
    std::shared_ptr<Column> combinedOf(NodeId id, const std::map<NodeId, ColumnPtr>& known) const;
    std::shared_ptr<Column> acrossOf(NodeId id, Day day, const Standing& standing,
                                     const std::map<NodeId, ColumnPtr>& known);
    void stopIfTold() const
    {
        if (progress_.stopRequested())
            throw Stopped{};
    }

    Evaluator& evaluator_;
    const market::Market& market_;
    const Plan& plan_;
    Depth depth_;
    const Progress& progress_;
    struct Told { ///< the part of the whole that the sweep under way is
        double from = 0.0;
        double share = 1.0;
    };
    Told told_;
};

} // namespace sieve::expressions
