#pragma once

#include "core/base/parallel.h"
#include "core/engine/across.h"
#include "core/engine/evaluator.h"

#include <algorithm>
#include <map>
#include <mutex>
#include <set>

namespace sieve::engine {

/// One question to the evaluator. It reads as far back as its parts do as a rule; where that is not
/// enough, it asks again from the first bar (NeedsWholeHistory).
class Evaluator::Question {
public:
    Question(Evaluator& evaluator, const Plan& plan, const Progress& progress)
        : evaluator_(evaluator), market_(*evaluator.market_), plan_(plan), progress_(progress)
    {
    }

    std::vector<ColumnPtr> columns(std::span<const NodeId> targets, Day day);
    std::vector<DayTable> tablesOver(std::span<const NodeId> targets, std::span<const Day> days);
    void sweep(std::span<const NodeId> targets, std::span<const Day> days,
               const std::function<void(const SweepValues&)>& visit,
               std::span<const std::size_t> onlyWhere = {});
    /// Over an instrument's bars [from, end); `line` is the market that it belongs to, where that
    /// is another than the evaluator's.
    std::vector<std::vector<double>> histories(std::span<const NodeId> targets,
                                               const market::Market& line, std::size_t instrument,
                                               std::size_t from, std::size_t end);

private:
    /// Days whose inputs are held for all stocks at once: the memory of one part serves the next,
    /// and need not be had from the system anew. A multiple of the days of a table's block.
    static constexpr std::size_t daysAcrossATime = 1024;
    /// Those that a thread takes at a time: neighbours share the lines of the columns they write.
    static constexpr std::size_t morselSize = 32;

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

    Context contextOf(const AcrossTable& table)
    {
        return {market_, table, [this](const Node& part) { return evaluator_.composite(part); }};
    }
    /// Calls `of(instrument)` for all of them, on all threads; `block` neighbours on one, in order.
    template <class Of> void eachInstrument(Of of, std::size_t block = morselSize) const
    {
        const std::size_t blocks = (market_.size() + block - 1) / block;
        inParallel(blocks, [&](std::size_t at) {
            const std::size_t end = std::min((at + 1) * block, market_.size());
            for (std::size_t instrument = at * block; instrument < end; ++instrument) {
                stopIfTold();
                of(instrument);
            }
        });
    }
    /// sweep() of those instruments that `isWanted` names (empty: all), so many neighbours a
    /// thread.
    /// `deferred` takes the stretches that want more history than the question reads; without it
    /// they are an error (NeedsWholeHistory).
    struct Deferred {
        std::mutex mutex;
        std::set<std::pair<std::size_t, std::size_t>> stretches; ///< instrument, first day
    };
    void sweepSome(std::span<const NodeId> targets, std::span<const Day> days,
                   const std::function<void(const SweepValues&)>& visit,
                   std::span<const char> isWanted, std::size_t block,
                   std::span<const std::size_t> onlyWhere = {}, Deferred* deferred = nullptr);
    void sweepDeferred(std::span<const NodeId> targets, std::span<const Day> days,
                       const std::function<void(const SweepValues&)>& visit,
                       const Deferred& deferred, std::span<const std::size_t> onlyWhere);
    void fillTables(std::span<const NodeId> targets, std::span<const Day> days,
                    std::span<DayTable> tables);
    std::size_t daysAtOnce(std::span<const NodeId> targets, std::size_t days) const;
    bool goesAcross(std::span<const NodeId> targets) const;
    std::vector<Day> cutsOf(std::span<const NodeId> targets) const;
    AcrossTable acrossUnder(std::span<const NodeId> targets, std::span<const Day> days,
                            std::span<const char> isWanted);
    AcrossTable tableOf(const Needs& needs);
    std::vector<AcrossValues> acrossOn(std::span<const NodeId> nodes, std::span<const Day> days);
    /// A part across stocks, about to be worked out for many days.
    struct AcrossPart {
        NodeId node = 0;
        std::size_t firstInput = 0; ///< place of its figure among the tables; its group's follows
        bool isGrouped = false;
        std::optional<StockGroups> steady; ///< where no day changes them
        AcrossValues& values;

        /// Whether a row a group is enough.
        bool isOneAGroup(Op op) const { return steady && engine::isOneAGroup(op); }
    };
    AcrossPart acrossPart(NodeId node, std::size_t firstInput, std::size_t days,
                          AcrossValues& values) const;
    void fillAcross(std::span<const AcrossPart> parts, std::span<const NodeId> inputs,
                    std::span<const Day> days);
    void acrossDays(const AcrossPart& part, std::span<const DayTable> inputs, std::size_t first,
                    std::size_t days) const;
    void cacheAcross(const AcrossPart& part, std::span<const Day> days);
    void removeUntraded(DayTable& figures, std::span<const Day> days) const;
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
    std::vector<Column> sumDays(std::span<const DayPart> parts, std::span<const Day> days);
    /// Whether sums and counts tell its value; a median asks for all figures.
    bool isOfSums(const DayPart& part) const
    {
        return operatorOf(plan_[part.node].op).across.ofSum != nullptr;
    }
    Column medianDays(const DayPart& part, std::span<const Day> days);
    bool counts(const DayPart& part, std::size_t instrument) const
    {
        return (part.isMember.empty() || part.isMember[instrument]) && !market_.isIndex(instrument);
    }
    std::span<const NodeId> inputsOf(NodeId part) const;
    /// Under which a column across stocks is kept: that of all stocks on one day, where a part's
    /// own column has those that did not trade with the value of their newest bar.
    NodeKey acrossKey(NodeId part) const
    {
        const NodeKey key = plan_.key(part);
        return {key.high ^ 0xA5A5'5A5A'0F0F'F0F0ULL, key.low};
    }
    StockGroups steadyGroups(NodeId node) const;
    struct AbsentStocks {
        std::vector<std::size_t> unlisted;
        std::vector<std::size_t> idle;
    };
    AbsentStocks absentOn(Day day) const;
    std::map<NodeId, std::shared_ptr<Column>>
    columnsAlongBars(std::span<const NodeId> nodes, Day day, std::span<const char> isWanted);
    std::shared_ptr<Column> combinedOf(NodeId id, const std::map<NodeId, ColumnPtr>& known) const;
    std::shared_ptr<Column> acrossOf(NodeId id, Day day, const AbsentStocks& absent,
                                     const std::map<NodeId, ColumnPtr>& known) const;
    void addColumnwise(std::span<const NodeId> nodes, Day day, std::map<NodeId, ColumnPtr>& known);
    /// The same question once more, which tells no progress of its own.
    Question aside() const
    {
        Question question(evaluator_, plan_, progress_);
        question.depth_ = depth_;
        question.progressPart_ = {progressPart_.from + progressPart_.share, 0.0};
        return question;
    }
    /// The same question of the whole history, for what turned out to need it.
    Question deep() const
    {
        require(depth_ != Depth::WholeHistory, "Question: more than the whole history");
        Question question = aside();
        question.depth_ = Depth::WholeHistory;
        return question;
    }
    void stopIfTold() const
    {
        if (progress_.stopRequested())
            throw Stopped{};
    }

    Evaluator& evaluator_;
    const market::Market& market_;
    const Plan& plan_;
    Depth depth_ = Depth::AsNeeded;
    const Progress& progress_;
    struct ProgressPart { ///< the part of the whole that the sweep under way is
        double from = 0.0;
        double share = 1.0;

        ProgressPart part(std::size_t first, std::size_t count, std::size_t of) const
        {
            const double each = share / static_cast<double>(of);
            return {from + each * static_cast<double>(first), each * static_cast<double>(count)};
        }
    };
    ProgressPart progressPart_;
};

} // namespace sieve::engine
