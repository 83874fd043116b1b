#pragma once

#include "core/expressions/plan.h"
#include "core/market/market.h"

#include <cstddef>
#include <map>
#include <memory>
#include <span>
#include <vector>

namespace sieve::expressions {

/// One value an instrument, in the market's order. Yes is 1, a text its number in the market's
/// table, a day its serial.
using Column = std::vector<double>;
using ColumnPtr = std::shared_ptr<const Column>;

/// For each part that goes across stocks: its column on every day that a pass will meet.
using AcrossTable = std::map<NodeId, std::map<Day, ColumnPtr>>;

/// Evaluates parts along one instrument's bars. First each part learns which bars its users need,
/// then each is computed once, inputs first. One pass object serves many instruments in turn and
/// keeps its memory.
/// Threads: one thread at a time; each thread has its own.
class BarPass {
public:
    BarPass(const market::Market& market, const Plan& plan, std::span<const NodeId> targets,
            const AcrossTable& table);

    /// Computes the targets for bars [from, to) on `footing`, as known on each bar's day.
    void run(std::size_t instrument, std::size_t footing, std::size_t from, std::size_t to);
    /// The target's values for the bars last asked for; valid until the next run.
    std::span<const double> values(NodeId target) const;

    /// Only learns which bars of parts that go across stocks a run would need: calls
    /// `take(node, from, to)` for each.
    template <class Take> void visitAcross(std::size_t from, std::size_t to, Take take)
    {
        findNeeds(from, to);
        for (const NodeId id : order_)
            if (isAcross(plan_[id].op) && buffers_[id].isNeeded())
                take(id, buffers_[id].from, buffers_[id].to);
    }

private:
    struct Buffer {
        std::size_t from = 0;
        std::size_t to = 0;
        std::vector<double> values; ///< bars [from, to)
        bool isNeeded() const { return from < to; }
        void include(std::size_t first, std::size_t end);
    };

    void findNeeds(std::size_t from, std::size_t to);
    void compute(NodeId id);
    void leaf(const Node& node, Buffer& out);
    void statement(const Node& node, Buffer& out);
    void shareCount(const Node& node, Buffer& out);
    void valueByValue(const Node& node, Buffer& out);
    void prior(const Node& node, Buffer& out);
    void indicator(const Node& node, Buffer& out);
    void acrossLeaf(NodeId id, Buffer& out);
    double statementFigure(const Node& node, Day day) const;

    const market::Market& market_;
    const Plan& plan_;
    const AcrossTable& table_;
    std::vector<NodeId> targets_;
    std::vector<NodeId> order_;
    std::vector<Buffer> buffers_; ///< by node
    std::size_t instrument_ = 0;
    std::size_t footing_ = 0;
    std::size_t from_ = 0;
    std::size_t to_ = 0;
};

} // namespace sieve::expressions
