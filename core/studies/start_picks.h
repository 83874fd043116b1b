#pragma once

#include "core/engine/evaluator.h"
#include "core/studies/match_bars.h"
#include "core/studies/standings.h"

#include <atomic>
#include <limits>
#include <memory>
#include <mutex>
#include <optional>
#include <vector>

namespace sieve::studies {

/// A stock that a screen picked on a start, with its share of the money.
struct StartPick {
    std::uint32_t stock = 0;
    std::uint32_t start = 0;
    double weight = 0.0; ///< shares of one start add up to 1 before those that cannot be bought
};

/// What the screens of a question pick on its starts.
class StartPicks {
public:
    /// What was found before by the same evaluator is not looked for again.
    /// Requires: screens that check. Errors: of the weights. Stopped.
    static Result<std::shared_ptr<const StartPicks>>
    of(const StandingsQuestion& question, std::span<const screens::Screen* const> screens,
       const language::Names& names, engine::Evaluator& evaluator, const Progress& progress);

    struct Ranked {
        std::uint32_t stock = 0;
        double weight = missing; ///< the figure that shares the money, as it is
    };
    /// The best first. Requires: a screen of which not all are kept.
    std::vector<Ranked> ranked(std::size_t screen, std::size_t start) const;
    /// By stock, then start.
    std::vector<StartPick> picks(std::size_t screen) const;
    /// Whether a stock was in the screen's universe on a start; of a screen without one, listed.
    bool isInUniverse(std::size_t screen, std::size_t stock, std::size_t start) const
    {
        return universes_[universeOf_[screen]][stock].at(start);
    }
    std::size_t universeOf(std::size_t screen) const { return universeOf_[screen]; }
    std::size_t universes() const { return universes_.size(); }
    bool isIn(std::size_t universe, std::size_t stock, std::size_t start) const
    {
        return universes_[universe][stock].at(start);
    }

private:
    /// The best of a screen on one start while stocks come one by one.
    class Best {
    public:
        struct Entry {
            double rank = missing; ///< the larger the better, missing last
            double weight = missing;
            std::uint32_t stock = 0;

            bool isBefore(const Entry& other) const;
        };
        /// Keeps it among the `most` best, as far as it is one of them.
        void offer(const Entry& entry, std::size_t most)
        {
            // Once there are enough with a rank, nothing without one is among them.
            const double worst = worst_.load(std::memory_order_relaxed);
            const bool mayBeAmong =
                worst == noWorst ? !isMissing(entry.rank) ||
                                       entry.stock < worstUnranked_.load(std::memory_order_relaxed)
                                 : entry.rank >= worst;
            if (mayBeAmong)
                keep(entry, most);
        }
        const std::vector<Entry>& entries() const { return entries_; }

    private:
        static constexpr double noWorst = -std::numeric_limits<double>::infinity();

        void keep(const Entry& entry, std::size_t most);

        std::mutex mutex_;
        std::vector<Entry> entries_; ///< a heap whose first one is the worst
        /// Its rank once there are enough: what ranks lower need not wait for the others.
        std::atomic<double> worst_ = noWorst;
        /// The same while the worst has no rank: its stock.
        std::atomic<std::uint32_t> worstUnranked_ = std::numeric_limits<std::uint32_t>::max();
    };
    struct Own {
        std::size_t most = 0;                    ///< 0: all, equally, as `matches`
        std::vector<BarBits> matches;            ///< a stock: a bit a start
        std::vector<std::unique_ptr<Best>> best; ///< a start
        bool isWeighted = false;
    };

    StartPicks(const StandingsQuestion& question, std::span<const screens::Screen* const> screens,
               std::size_t stocks);
    std::size_t bytes() const;
    void addMembers(std::size_t universe, const engine::SweepValues& swept,
                    std::optional<std::size_t> condition);
    void addMatches(std::size_t screen, const engine::SweepValues& swept, std::size_t condition,
                    std::optional<std::size_t> rank, std::optional<std::size_t> weight);

    std::vector<Own> screens_;
    std::vector<std::vector<BarBits>> universes_; ///< a universe, a stock: a bit a start
    std::vector<std::size_t> universeOf_;         ///< a screen
    std::size_t stocks_ = 0;
    std::size_t starts_ = 0;
};

} // namespace sieve::studies
