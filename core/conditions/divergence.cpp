#include "core/conditions/divergence.h"

#include "core/engine/across.h"
#include "core/patterns/swings.h"

#include <algorithm>
#include <optional>

namespace sieve::conditions {

namespace {

using patterns::Swing;
using patterns::Turn;

class Search {
public:
    Search(std::span<const double> closes, std::span<const double> series, std::size_t bar,
           const DivergenceRule& rule)
        : closes_(closes.first(std::min(bar + 1, closes.size()))),
          series_(series.first(std::min(closes_.size(), series.size()))), rule_(rule),
          points_(patterns::turningPoints(closes_, rule.reach))
    {
    }

    std::vector<DivergenceFound> run() const
    {
        std::vector<DivergenceFound> found;
        for (std::size_t at = points_.size(); at-- > 0;)
            if (const auto divergence = endingAt(at))
                found.push_back(*divergence);
        return found;
    }

private:
    bool tops(Turn turn, double a, double b) const { return turn == Turn::High ? a > b : a < b; }

    /// The series' best within three bars of a point, none of them later than `last`.
    double seriesAt(const Swing& point, std::size_t last) const
    {
        double best = missing;
        for (std::size_t bar = point.bar - std::min<std::size_t>(point.bar, 3);
             bar <= std::min(point.bar + 3, last) && bar < series_.size(); ++bar)
            if (!isMissing(series_[bar]) &&
                (isMissing(best) || tops(point.turn, series_[bar], best)))
                best = series_[bar];
        return best;
    }

    double after(std::size_t known, std::size_t sessions) const
    {
        return known + sessions < closes_.size() && closes_[known] > 0.0
                   ? closes_[known + sessions] / closes_[known] - 1.0
                   : missing;
    }

    std::optional<DivergenceFound> endingAt(std::size_t at) const
    {
        const Swing& second = points_[at];
        const double now = seriesAt(second, second.knownOn);
        if (isMissing(now))
            return std::nullopt;
        for (std::size_t earlier = at; earlier-- > 0;) {
            const Swing& first = points_[earlier];
            if (second.bar - first.bar > rule_.mostApart)
                break;
            if (first.turn != second.turn)
                continue;
            if (!tops(second.turn, second.price, first.price))
                break; // what stands in between tops it
            const double then = seriesAt(first, first.knownOn);
            if (second.bar - first.bar < rule_.leastApart || isMissing(then) ||
                !tops(second.turn, then, now))
                continue;
            return DivergenceFound{second.turn == Turn::High ? Divergence::Weakening
                                                             : Divergence::Strengthening,
                                   first.bar,
                                   second.bar,
                                   second.knownOn,
                                   then,
                                   now,
                                   after(second.knownOn, 21),
                                   after(second.knownOn, 63)};
        }
        return std::nullopt;
    }

    std::span<const double> closes_;
    std::span<const double> series_;
    DivergenceRule rule_;
    std::vector<Swing> points_;
};

} // namespace

std::vector<DivergenceFound> findDivergences(std::span<const double> closes,
                                             std::span<const double> series, std::size_t bar,
                                             const DivergenceRule& rule)
{
    return Search(closes, series, bar, rule).run();
}

std::vector<DivergenceFound> oncePerTurn(std::span<const DivergenceFound> found)
{
    std::vector<DivergenceFound> once;
    for (const DivergenceFound& each : found)
        if (std::ranges::none_of(once, [&](const DivergenceFound& other) {
                return other.second == each.second && other.kind == each.kind;
            }))
            once.push_back(each);
    return once;
}

DivergenceRecord recordOf(std::span<const DivergenceFound> found, Divergence kind)
{
    DivergenceRecord record;
    std::vector<double> changes;
    for (const DivergenceFound& each : found)
        if (each.kind == kind && !isMissing(each.after63)) {
            changes.push_back(each.after63);
            const bool isLower = each.after63 < 0.0;
            record.fulfilled += isLower == (kind == Divergence::Weakening) ? 1 : 0;
        }
    record.count = changes.size();
    record.median = engine::valueOfTheDay(engine::Op::Median, changes);
    return record;
}

} // namespace sieve::conditions
