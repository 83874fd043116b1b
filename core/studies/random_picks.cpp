#include "core/studies/random_picks.h"

#include "core/base/parallel.h"

#include <algorithm>
#include <limits>

namespace sieve::studies {

namespace {

/// A case's place was taken by a stock in one picking.
struct Draw {
    std::uint32_t stock = 0;
    std::uint32_t picking = 0;
    std::uint32_t ofCase = 0;
};

constexpr std::uint32_t nobody = std::numeric_limits<std::uint32_t>::max();

/// Stocks that were in the universe on one of the cases' days.
std::vector<std::uint32_t> eligibleOf(const std::vector<PickedStock>& stocks,
                                      const std::vector<std::size_t>& sessionsOfCases)
{
    std::vector<std::size_t> days = sessionsOfCases;
    std::ranges::sort(days);
    days.erase(std::unique(days.begin(), days.end()), days.end());
    std::vector<std::uint32_t> eligible;
    for (std::size_t stock = 0; stock < stocks.size(); ++stock)
        if (std::ranges::any_of(days, [&](std::size_t day) { return stocks[stock].isIn.at(day); }))
            eligible.push_back(static_cast<std::uint32_t>(stock));
    return eligible;
}

std::vector<Draw> drawsOf(const Following& told, const std::vector<PickedStock>& stocks,
                          const std::vector<std::size_t>& sessionsOfCases, std::size_t pickings)
{
    const auto eligible = eligibleOf(stocks, sessionsOfCases);
    std::vector<std::size_t> places(told.cases.size()); // of the cases' stocks among them
    for (std::size_t at = 0; at < told.cases.size(); ++at)
        places[at] = static_cast<std::size_t>(
            std::ranges::lower_bound(eligible, told.cases[at].of.stock) - eligible.begin());
    const std::size_t cases = told.cases.size();
    std::vector<Draw> draws(pickings * cases);
    inParallel(pickings, [&](std::size_t number) {
        StandIns standIns(eligible, Chance(told.question.seed, number));
        for (std::size_t at = 0; at < cases; ++at) {
            const auto isThere = [&](std::uint32_t stock) {
                return stocks[stock].isIn.at(sessionsOfCases[at]);
            };
            draws[number * cases + at] = {standIns.pick(places[at], isThere).value_or(nobody),
                                          static_cast<std::uint32_t>(number),
                                          static_cast<std::uint32_t>(at)};
        }
    });
    return draws;
}

/// Puts draws of one stock next to each other, in the order in which they were made.
std::vector<std::size_t> groupByStock(std::vector<Draw>& draws, std::size_t stocks)
{
    std::vector<std::size_t> begins(stocks + 2);
    const auto groupOf = [&](const Draw& draw) {
        return draw.stock == nobody ? stocks : std::size_t{draw.stock};
    };
    for (const Draw& draw : draws)
        ++begins[groupOf(draw) + 1];
    for (std::size_t i = 1; i < begins.size(); ++i)
        begins[i] += begins[i - 1];
    std::vector<Draw> grouped(draws.size());
    std::vector<std::size_t> next(begins.begin(), begins.end() - 1);
    for (const Draw& draw : draws)
        grouped[next[groupOf(draw)]++] = draw;
    draws = std::move(grouped);
    return begins;
}

/// The bar of each session, or the next one after it.
std::vector<std::size_t> barsOn(const Prices& prices, std::span<const Day> sessions)
{
    std::vector<std::size_t> bars;
    bars.reserve(sessions.size());
    std::size_t bar = 0;
    for (const Day session : sessions) {
        while (bar < prices.size() && prices.days[bar] < session)
            ++bar;
        bars.push_back(bar);
    }
    return bars;
}

} // namespace

void testAgainstChance(Following& told, const market::Market& market,
                       const std::vector<PickedStock>& stocks, std::span<const Day> sessions,
                       const Progress& progress)
{
    const std::size_t cases = told.cases.size();
    if (cases == 0 || told.question.picks < 1)
        return;
    const std::size_t pickings =
        std::min(static_cast<std::size_t>(told.question.picks), mostDraws / cases);
    if (pickings < static_cast<std::size_t>(std::min(fewestPicks, told.question.picks)))
        return;
    std::vector<std::size_t> sessionsOfCases;
    for (const FollowedCase& each : told.cases)
        sessionsOfCases.push_back(static_cast<std::size_t>(
            std::ranges::lower_bound(sessions, each.day) - sessions.begin()));
    std::vector<Draw> draws = drawsOf(told, stocks, sessionsOfCases, pickings);
    const std::vector<std::size_t> begins = groupByStock(draws, stocks.size());

    // A sum for each block of stocks, picking and horizon: the same with any number of threads.
    constexpr std::size_t together = 64;
    const std::size_t horizons = told.horizons.size();
    const std::size_t blocks = (stocks.size() + together - 1) / together;
    std::vector<std::vector<double>> sums(blocks);
    inParallel(blocks, [&](std::size_t block) {
        sums[block].resize(pickings * horizons);
        for (std::size_t stock = block * together;
             stock < std::min(stocks.size(), (block + 1) * together); ++stock) {
            if (begins[stock] == begins[stock + 1] || progress.stopRequested())
                continue;
            const Prices prices =
                pricesOf(market, stock, told.day, Columns::OpenAndClose, told.question.dividends);
            const std::vector<std::size_t> bars = barsOn(prices, sessions);
            for (std::size_t i = begins[stock]; i < begins[stock + 1]; ++i) {
                const Draw& draw = draws[i];
                const std::size_t bar = bars[sessionsOfCases[draw.ofCase]];
                const double price = priceBoughtAt(prices, bar, told.question.boughtAt);
                for (std::size_t horizon = 0; horizon < horizons; ++horizon) {
                    const FollowedHorizon& each = told.horizons[horizon];
                    if (isMissing(each.changes[draw.ofCase]))
                        continue;
                    const double change = changeAfter(prices, bar, price, each.bars);
                    sums[block][draw.picking * horizons + horizon] +=
                        isMissing(change) ? each.others[draw.ofCase] : change;
                }
            }
        }
    });
    if (progress.stopRequested())
        throw Stopped{};
    for (std::size_t i = begins[stocks.size()]; i < draws.size(); ++i) // whom nobody could replace
        for (std::size_t horizon = 0; horizon < horizons; ++horizon)
            if (const double mean = told.horizons[horizon].others[draws[i].ofCase];
                !isMissing(mean))
                sums[0][draws[i].picking * horizons + horizon] += mean;
    told.picks = static_cast<int>(pickings);
    for (std::size_t horizon = 0; horizon < horizons; ++horizon) {
        FollowedHorizon& each = told.horizons[horizon];
        if (each.own.known == 0)
            continue;
        const double own = each.own.mean * static_cast<double>(each.own.known);
        std::size_t asGood = 0;
        for (std::size_t number = 0; number < pickings; ++number) {
            double sum = 0.0;
            for (const auto& block : sums)
                sum += block[number * horizons + horizon];
            // Where a picking is the cases themselves, the same sum in another order is no less.
            asGood += sum >= own - 1e-9 * (1.0 + std::abs(own)) ? 1U : 0U;
        }
        each.chance = static_cast<double>(1 + asGood) / static_cast<double>(1 + pickings);
    }
}

} // namespace sieve::studies
