#include "core/screens/guidance.h"
#include "core/base/parallel.h"

#include "core/base/ties.h"
#include <algorithm>
#include <cmath>

namespace sieve::screens {

namespace {

class Guiding {
public:
    explicit Guiding(const Answers& answers) : answers_(answers) {}

    Guidance run()
    {
        const std::size_t count = answers_.criteria.size();
        guidance_.loosenings.resize(count);
        guidance_.spreads.resize(count);
        keptOut_.resize(count);
        passing_.resize(count);
        std::vector<std::vector<Scaled>> misses(count);
        inParallel(count, [&](std::size_t i) {
            const CriterionAnswer& criterion = answers_.criteria[i];
            keptOut_[i] = stocksOf(answers_.keptOutBy(i));
            passing_[i] = criterion.passing.count();
            if (!criterion.limits.empty())
                guidance_.spreads[i] = spreadOf(criterion, stocksOf(answers_.left[i]));
            if (!counts(criterion))
                return;
            const std::vector<double> widths = widthsOf(criterion);
            misses[i] = nearMisses(i, widths);
            guidance_.loosenings[i] = looseningOf(i, widths);
        });
        for (std::size_t i = 0; i < count; ++i)
            if (counts(answers_.criteria[i]) && keptOut_[i].empty() &&
                passing_[i] == answers_.stocks.size())
                guidance_.idle.push_back(i);
        findMostCostly();
        comparePairs();
        keepNearest(misses);
        return std::move(guidance_);
    }

private:
    struct Scaled {
        double distance; ///< as a share of the field's width
        NearMiss miss;
    };

    static bool counts(const CriterionAnswer& criterion)
    {
        return criterion.column && criterion.isOn;
    }

    std::vector<std::size_t> stocksOf(const StockBits& bits) const
    {
        std::vector<std::size_t> stocks;
        stocks.reserve(bits.count());
        bits.each([&](std::size_t place) { stocks.push_back(answers_.stocks[place]); });
        return stocks;
    }

    static Distribution spreadOf(const CriterionAnswer& criterion,
                                 std::span<const std::size_t> stocks)
    {
        std::vector<double> figures;
        figures.reserve(stocks.size());
        for (const std::size_t stock : stocks)
            figures.push_back(criterion.limits[0].shown(stock));
        return distributionOf(figures);
    }

    /// The widths over which what its limits show is spread in the universe, from some hundreds of
    /// its stocks: they only set distances in proportion.
    std::vector<double> widthsOf(const CriterionAnswer& criterion) const
    {
        const std::size_t step = std::max<std::size_t>(1, answers_.stocks.size() / 512);
        std::vector<double> widths;
        std::vector<double> figures;
        for (const LimitFigures& limit : criterion.limits) {
            figures.clear();
            for (std::size_t i = 0; i < answers_.stocks.size(); i += step)
                figures.push_back(limit.shown(answers_.stocks[i]));
            const Distribution spread = distributionOf(figures, 1);
            widths.push_back(spread.high - spread.low);
        }
        return widths;
    }

    std::vector<Scaled> nearMisses(std::size_t criterion, std::span<const double> widths) const
    {
        std::vector<Scaled> misses;
        for (std::size_t i = 0; i < widths.size(); ++i) {
            const LimitFigures& limit = answers_.criteria[criterion].limits[i];
            const double width = widths[i];
            for (const std::size_t stock : keptOut_[criterion]) {
                const double distance = limit.shortfall(stock);
                const bool isKeptByEquality = distance == 0.0 && fails(limit, stock);
                if (!(distance > 0.0) && !isKeptByEquality)
                    continue;
                const double apart = std::fabs(limit.shown(stock) - limit.shownBound());
                misses.push_back({width > 0.0 && !isMissing(apart) ? apart / width : 1.0,
                                  {stock, criterion, (*limit.field)[stock], (*limit.bound)[stock],
                                   distance, limit.limit.unit}});
            }
        }
        return misses;
    }

    void keepNearest(std::span<const std::vector<Scaled>> misses)
    {
        std::vector<Scaled> all;
        for (const auto& some : misses)
            all.insert(all.end(), some.begin(), some.end());
        std::ranges::stable_sort(all, {}, &Scaled::distance);
        for (const Scaled& miss : all)
            if (guidance_.nearMisses.size() < mostNearMisses)
                guidance_.nearMisses.push_back(miss.miss);
    }

    /// Whether a figure stands just on a bound that it had to pass.
    static bool fails(const LimitFigures& limit, std::size_t stock)
    {
        const bool isStrict =
            limit.limit.op == engine::Op::Greater || limit.limit.op == engine::Op::Less;
        return isStrict && isTied((*limit.field)[stock], (*limit.bound)[stock]);
    }

    /// The next step of the limit that keeps most out.
    std::optional<Loosening> looseningOf(std::size_t criterion,
                                         std::span<const double> widths) const
    {
        std::optional<Loosening> best;
        const auto& limits = answers_.criteria[criterion].limits;
        for (std::size_t i = 0; i < limits.size(); ++i) {
            if (!limits[i].limit.fixed)
                continue;
            const double step = roundStep(widths[i] / 20.0);
            for (int steps = 1; steps <= 20 && !isMissing(step); ++steps) {
                const double far = steps * step;
                const double sign = limits[i].limit.wantsMore() ? -1.0 : 1.0;
                const double bound =
                    std::round((*limits[i].limit.fixed + sign * far) / step) * step;
                const std::size_t adds = addedBy(criterion, i, bound);
                if (adds == 0)
                    continue;
                if (!best || adds > best->adds)
                    best = Loosening{criterion, i, bound, adds};
                break;
            }
        }
        return best;
    }

    std::size_t addedBy(std::size_t criterion, std::size_t limit, double bound) const
    {
        const auto& limits = answers_.criteria[criterion].limits;
        std::size_t added = 0;
        for (const std::size_t stock : keptOut_[criterion]) {
            bool isIn = true;
            for (std::size_t i = 0; i < limits.size(); ++i) {
                const double at = i == limit ? bound : (*limits[i].bound)[stock];
                const double figure = (*limits[i].field)[stock];
                isIn = isIn && limits[i].limit.shortfall(figure, at) == 0.0 &&
                       (i == limit || !fails(limits[i], stock));
            }
            added += isIn ? 1U : 0U;
        }
        return added;
    }

    void findMostCostly()
    {
        std::size_t most = 0;
        for (std::size_t i = 0; i < keptOut_.size(); ++i)
            if (keptOut_[i].size() > most) {
                most = keptOut_[i].size();
                guidance_.mostCostly = i;
            }
    }

    void comparePairs()
    {
        const auto& criteria = answers_.criteria;
        for (std::size_t i = 0; i < criteria.size(); ++i)
            for (std::size_t j = i + 1; j < criteria.size(); ++j) {
                if (!counts(criteria[i]) || !counts(criteria[j]) || passing_[i] == 0 ||
                    passing_[j] == 0)
                    continue;
                const std::size_t both = (criteria[i].passing & criteria[j].passing).count();
                const std::size_t either = passing_[i] + passing_[j] - both;
                if (both == 0)
                    guidance_.contradictions.push_back({i, j});
                else if (either >= 10 && either < answers_.stocks.size() &&
                         static_cast<double>(both) >= 0.97 * static_cast<double>(either))
                    guidance_.repetitions.push_back({i, j});
            }
    }

    const Answers& answers_;
    Guidance guidance_;
    std::vector<std::vector<std::size_t>> keptOut_; ///< a criterion: by it alone
    std::vector<std::size_t> passing_;
};

} // namespace

Guidance guidanceOf(const Answers& answers)
{
    return Guiding(answers).run();
}

} // namespace sieve::screens
