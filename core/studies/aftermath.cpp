#include "core/studies/aftermath.h"
#include "core/base/parallel.h"

#include "core/base/quantile.h"
#include "core/base/require.h"
#include "core/market/as_of.h"
#include "core/studies/prices.h"

#include <algorithm>
#include <cmath>

namespace sieve::studies {

namespace {

constexpr std::size_t spanCount = Terms::spanCount;

/// The change of the close `span` bars after a bar against the open of the next one.
double changeFromOpen(const Prices& prices, std::size_t bar, int span)
{
    return changeAfter(prices, bar, priceBoughtAt(prices, bar, BoughtAt::NextOpen), span);
}

void followExit(Aftermath& followed, const Prices& prices, const Terms& terms)
{
    const double stop = followed.bought * (1.0 - terms.stop);
    const double target = followed.bought * (1.0 + terms.target);
    const auto changeTo = [&](double price) { return price / followed.bought - 1.0; };
    const auto endAt = [&](End end, double price) {
        followed.end = end;
        followed.result = changeTo(price);
    };
    double lowest = followed.bought;
    const std::size_t first = followed.of.bar + 1;
    for (std::size_t bar = first; bar < prices.size(); ++bar) {
        ++followed.bars;
        const bool isFirst = bar == first; // bought at its open
        const double open = prices.open[bar];
        if (!isFirst && open <= stop)
            endAt(End::Stopped, open);
        else if (!isFirst && open >= target)
            endAt(End::Reached, open);
        else if (prices.low[bar] <= stop)
            endAt(End::Stopped, stop);
        else if (prices.high[bar] >= target)
            endAt(End::Reached, target);
        else if (followed.bars == terms.within)
            endAt(End::Neither, prices.close[bar]);
        // Sold at the open or at the stop, it does not see what the bar did below.
        const bool isSoldAtOpen =
            followed.end != End::Open && !isFirst && (open <= stop || open >= target);
        const double seen = isSoldAtOpen                   ? open
                            : followed.end == End::Stopped ? stop
                                                           : prices.low[bar];
        lowest = std::min(lowest, seen);
        if (followed.end != End::Open)
            break;
        followed.result = changeTo(prices.close[bar]); // what it is worth now
    }
    if (followed.end == End::Open && prices.isGone)
        followed.end = End::Neither;
    followed.worst = changeTo(lowest);
}

/// For each of some days, ascending: the mean over all stocks that traded on it of what followed.
/// Sums are made block by block of stocks, so that they are the same however many threads there
/// are.
class Others {
public:
    Others(const market::Market& market, std::vector<Day> days, const Terms& terms, Day day,
           const Progress& progress)
        : days_(std::move(days)), means_(days_.size() * spanCount, missing)
    {
        constexpr std::size_t together = 64;
        const std::size_t blocks = (market.size() + together - 1) / together;
        std::vector<std::vector<Sum>> sums(blocks);
        inParallel(blocks, [&](std::size_t block) {
            if (progress.stopRequested())
                return;
            sums[block].resize(means_.size());
            for (std::size_t stock = block * together;
                 stock < std::min(market.size(), (block + 1) * together); ++stock)
                if (!market.isIndex(stock))
                    add(pricesOf(market, stock, day, Columns::OpenAndClose), terms, sums[block]);
        });
        if (progress.stopRequested())
            throw Stopped{};
        for (std::size_t i = 0; i < means_.size(); ++i) {
            Sum all;
            for (const auto& block : sums) {
                all.sum += block[i].sum;
                all.count += block[i].count;
            }
            if (all.count > 0)
                means_[i] = all.sum / static_cast<double>(all.count);
        }
    }

    double mean(Day day, std::size_t span) const
    {
        const auto at =
            static_cast<std::size_t>(std::ranges::lower_bound(days_, day) - days_.begin());
        return means_[at * spanCount + span];
    }

private:
    struct Sum {
        double sum = 0.0;
        std::size_t count = 0;
    };

    void add(const Prices& prices, const Terms& terms, std::vector<Sum>& sums) const
    {
        if (prices.size() == 0)
            return;
        std::size_t bar = 0;
        const auto begin = std::ranges::lower_bound(days_, prices.days.front());
        for (auto at = begin; at != days_.end(); ++at) {
            while (bar < prices.size() && prices.days[bar] < *at)
                ++bar;
            if (bar >= prices.size())
                return;
            if (prices.days[bar] != *at)
                continue;
            for (std::size_t span = 0; span < spanCount; ++span) {
                const double change = changeFromOpen(prices, bar, terms.spans[span]);
                if (isMissing(change))
                    continue;
                Sum& sum = sums[static_cast<std::size_t>(at - days_.begin()) * spanCount + span];
                sum.sum += change;
                ++sum.count;
            }
        }
    }

    std::vector<Day> days_;
    std::vector<double> means_;
};

double meanOf(const std::vector<double>& values)
{
    double sum = 0.0;
    for (const double value : values)
        sum += value;
    return values.empty() ? missing : sum / static_cast<double>(values.size());
}

} // namespace

std::string_view endName(End end)
{
    constexpr std::array<std::string_view, 4> names{"reached", "stopped", "neither", "open"};
    return names.at(static_cast<std::size_t>(end));
}

namespace {

bool areSound(const Terms& terms)
{
    return terms.within >= 1 && terms.stop >= 0.0 && terms.stop <= 1.0 && terms.target > 0.0 &&
           std::ranges::all_of(terms.spans, [](int span) { return span >= 1; });
}

/// Gives follow(prices, the stock's cases) for each stock that has some.
template <class Follow> void eachStock(std::span<Aftermath> cases, const market::Market& market,
                                       Day day, const Progress& progress, Follow follow)
{
    std::vector<std::size_t> begins; // of each stock's
    for (std::size_t i = 0; i < cases.size(); ++i)
        if (i == 0 || cases[i].of.stock != cases[i - 1].of.stock)
            begins.push_back(i);
    begins.push_back(cases.size());
    inParallel(begins.size() - 1, [&](std::size_t before) {
        const std::size_t each = before + 1;
        if (progress.stopRequested())
            return;
        const auto own = cases.subspan(begins[each - 1], begins[each] - begins[each - 1]);
        follow(pricesOf(market, own.front().of.stock, day, Columns::All), own);
    });
    if (progress.stopRequested())
        throw Stopped{};
}

/// The exits of one stock's cases, and which of them are independent.
void followExits(const Prices& prices, std::span<Aftermath> own, const Terms& terms)
{
    std::size_t heldUntil = 0; // by the last independent one
    for (Aftermath& followed : own) {
        followed.isIndependent = followed.of.bar >= heldUntil;
        if (followed.isIndependent)
            heldUntil = followed.of.bar + static_cast<std::size_t>(terms.within);
        followed.end = End::Open;
        followed.bars = 0;
        followed.result = followed.worst = missing;
        if (!isMissing(followed.bought))
            followExit(followed, prices, terms);
    }
}

} // namespace

std::vector<Aftermath> aftermathOf(std::span<const Occurrence> occurrences, const Terms& terms,
                                   const market::Market& market, Day day, const Progress& progress)
{
    require(std::ranges::is_sorted(occurrences) && areSound(terms), "aftermathOf: no such terms");
    std::vector<Aftermath> all(occurrences.size());
    for (std::size_t i = 0; i < all.size(); ++i)
        all[i].of = occurrences[i];
    eachStock(all, market, day, progress, [&](const Prices& prices, std::span<Aftermath> own) {
        for (Aftermath& followed : own) {
            followed.day = prices.days[followed.of.bar];
            if (followed.of.bar + 1 < prices.size())
                followed.bought = prices.open[followed.of.bar + 1];
            for (std::size_t span = 0; span < spanCount; ++span)
                followed.changes[span] = changeFromOpen(prices, followed.of.bar, terms.spans[span]);
        }
        followExits(prices, own, terms);
    });
    std::vector<Day> days;
    for (const Aftermath& followed : all)
        days.push_back(followed.day);
    std::ranges::sort(days);
    days.erase(std::unique(days.begin(), days.end()), days.end());
    const Others others(market, std::move(days), terms, day, progress);
    for (Aftermath& followed : all)
        for (std::size_t span = 0; span < spanCount; ++span)
            if (!isMissing(followed.changes[span]))
                followed.others[span] = others.mean(followed.day, span);
    return all;
}

std::vector<Aftermath> withOtherExits(std::span<const Aftermath> cases, const Terms& terms,
                                      const market::Market& market, Day day,
                                      const Progress& progress)
{
    require(areSound(terms) && std::ranges::is_sorted(cases, {}, &Aftermath::of),
            "withOtherExits: no such terms");
    std::vector<Aftermath> all(cases.begin(), cases.end());
    eachStock(all, market, day, progress, [&](const Prices& prices, std::span<Aftermath> own) {
        followExits(prices, own, terms);
    });
    return all;
}

std::vector<double> pathOf(const Aftermath& followed, int before, int after,
                           const market::Market& market, Day day)
{
    std::vector<double> path(static_cast<std::size_t>(before + after), missing);
    const auto last = market::lastBarBy(market, followed.of.stock, day);
    const std::size_t bought = followed.of.bar + 1;
    if (!last || *last < bought)
        return path;
    const std::size_t skipped = static_cast<std::size_t>(before) -
                                std::min<std::size_t>(bought, static_cast<std::size_t>(before));
    const std::size_t first = bought + skipped - static_cast<std::size_t>(before);
    const std::size_t count = std::min(path.size() - skipped, *last + 1 - first);
    const std::span<double> told = std::span(path).subspan(skipped, count);
    market.adjusted(followed.of.stock, market::BarField::Close,
                    market.footing(followed.of.stock, *last), first, told);
    for (double& close : told)
        close = close / followed.bought - 1.0;
    return path;
}

Summary summaryOf(std::span<const Aftermath> cases, const Terms& terms,
                  std::optional<std::size_t> stock)
{
    Summary sum;
    std::array<std::vector<double>, spanCount> changes;
    std::array<std::vector<double>, spanCount> others;
    std::vector<double> results;
    std::vector<double> bars;
    std::vector<double> worst;
    std::vector<Day> days;
    for (const Aftermath& each : cases) {
        if (stock && each.of.stock != *stock)
            continue;
        ++sum.cases;
        sum.independent += each.isIndependent ? 1 : 0;
        days.push_back(each.day);
        for (std::size_t span = 0; span < spanCount; ++span)
            if (!isMissing(each.changes[span])) {
                changes[span].push_back(each.changes[span]);
                others[span].push_back(each.others[span]);
            }
        switch (each.end) {
        case End::Reached:
            ++sum.reached;
            break;
        case End::Stopped:
            ++sum.stopped;
            break;
        case End::Neither:
            ++sum.neither;
            break;
        case End::Open:
            ++sum.open;
            break;
        }
        if (!isMissing(each.worst))
            worst.push_back(each.worst);
        if (each.end != End::Open) {
            results.push_back(each.result);
            bars.push_back(each.bars);
        }
    }
    for (std::size_t span = 0; span < spanCount; ++span) {
        Summary::Span& of = sum.spans[span];
        std::vector<double>& values = changes[span];
        of.known = values.size();
        of.mean = meanOf(values);
        of.others = meanOf(others[span]);
        std::ranges::sort(values);
        of.lowerQuarter = quantileOf(values, 0.25);
        of.median = quantileOf(values, 0.5);
        of.upperQuarter = quantileOf(values, 0.75);
        if (!values.empty())
            of.shareUp = static_cast<double>(std::ranges::count_if(
                             values, [](double change) { return change > 0.0; })) /
                         static_cast<double>(values.size());
    }
    std::ranges::sort(worst);
    sum.medianWorst = quantileOf(worst, 0.5);
    sum.worst = worst.empty() ? missing : worst.front();
    sum.meanResult = meanOf(results);
    sum.meanBars = meanOf(bars);
    std::ranges::sort(days);
    std::optional<Day> last; // the first day of the period in hand
    for (const Day each : days)
        if (!last || last->weekdaysTo(each) >= terms.within) {
            ++sum.periods;
            last = each;
        }
    return sum;
}

} // namespace sieve::studies
