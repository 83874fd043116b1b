#pragma once

#include "core/engine/bar_pass.h"

#include <cstddef>
#include <cstdint>
#include <optional>
#include <span>
#include <vector>

namespace sieve::engine {

/// A pass over one instrument's bars that spares what can change nothing. The criteria of screens
/// are asked one after another, the cheap ones first, and each only on the bars on which a screen
/// that has it is not decided yet, short runs of other bars between them included; a figure that is
/// wanted only where a screen holds, on those bars alone. The values are those of a BarPass, bit by
/// bit.
/// Threads: as BarPass.
class GatedPass {
public:
    /// `onlyWhere`: see Evaluator::sweep; or empty.
    GatedPass(const Context& context, const Plan& plan, std::span<const NodeId> targets,
              Depth depth = Depth::AsNeeded, std::span<const std::size_t> onlyWhere = {});

    /// As of BarPass.
    void run(const BarFrame& frame, std::size_t from, std::size_t to);
    std::span<const double> values(std::size_t target) const;
    void fetchNext(const market::Market& market, std::size_t next)
    {
        plain_->fetchNext(market, next);
    }

private:
    /// A bit a bar, from the first that is asked for.
    using BitRow = std::vector<std::uint64_t>;

    /// A target that is made of criteria.
    struct Screen {
        std::vector<std::size_t> steady; ///< places of its criteria that all bars answer alike
        BitRow open;                     ///< no criterion said no yet
        BitRow known;                    ///< none of them was missing
        Bars hull;                       ///< from its first to its last open bar, in whole blocks
        std::vector<double> values;
    };
    /// What a screen asks of a level.
    struct Ask {
        std::size_t screen = 0;
        std::vector<std::size_t> criteria; ///< places among the targets of the level's pass
    };
    /// Criteria that are asked together.
    struct Level {
        BarPass pass;
        std::size_t farApart = 0; ///< bars; over fewer closed ones it costs less to go on
        std::vector<Ask> asks;
        std::vector<Bars> wanted; ///< a criterion: from the first to the last bar it is asked on
    };
    /// A figure that is wanted where a target holds.
    struct Figure {
        std::size_t where = 0; ///< the target
        std::vector<double> values;
    };
    /// Where a target's values are.
    struct Place {
        enum class In { Plain, Screens, Figures } in = In::Plain;
        std::size_t at = 0;
    };
    struct Criterion;

    std::vector<Criterion> addScreens(const Plan& plan, std::span<const NodeId> targets,
                                      std::vector<NodeId>& steady);
    void addLevels(const Context& context, const Plan& plan, std::vector<Criterion> criteria,
                   Depth depth);
    void begin(const BarFrame& frame);
    void select(Level& level);
    void ask(Level& level, const BarFrame& frame, const Bars& bars);
    void narrow(const Level& level);
    void tell(Screen& screen) const;
    void fillFigures(const BarFrame& frame);
    Bars hullOf(const BitRow& open) const;

    std::vector<Place> places_;     ///< a target
    std::optional<BarPass> plain_;  ///< targets that are asked whole
    std::optional<BarPass> steady_; ///< criteria that all bars answer alike
    std::vector<Screen> screens_;
    std::vector<Level> levels_;       ///< the other criteria
    std::optional<BarPass> asFigure_; ///< targets that are wanted where another holds
    std::vector<Figure> figures_;
    Bars asked_;
    std::size_t words_ = 0;            ///< of a bit row
    std::vector<Bars> selection_;      ///< the bars on which a screen of a level is open
    BitRow marks_;                     ///< the same, bar by bar
    std::vector<Bars> wanted_;         ///< of the targets of the pass in hand
    std::vector<std::uint64_t> notNo_; ///< a bit row a criterion of the level in hand
    std::vector<std::uint64_t> known_;
};

} // namespace sieve::engine
