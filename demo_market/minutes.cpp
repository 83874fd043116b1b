#include "demo_market/minutes.h"

#include "demo_market/price_step.h"

#include <algorithm>
#include <cmath>
#include <vector>

namespace sieve::demo_market {

namespace {

struct MinuteBar {
    int minute = 0; ///< of the session
    double open = 0;
    double high = 0;
    double low = 0;
    double close = 0;
    double weight = 0;
};

std::vector<MinuteBar> minutesOf(const market::Bar& bar, int minutes, double liveliness, Dice& dice)
{
    std::vector<MinuteBar> all;
    // No more of them than there are shares to go round.
    liveliness = std::min(liveliness, bar.volume / (5.0 * minutes));
    for (int minute = 0; minute < minutes; ++minute)
        if (minute == 0 || minute == minutes - 1 || dice.chance(liveliness))
            all.push_back({minute});
    const double reach = bar.high - bar.low;
    double wander = 0.0;
    double price = bar.open;
    for (std::size_t i = 0; i < all.size(); ++i) {
        const double part = static_cast<double>(i + 1) / static_cast<double>(all.size());
        wander = 0.9 * wander + reach * 0.06 * (dice.share() - 0.5);
        const bool isLast = i + 1 == all.size();
        const double along = bar.open + (bar.close - bar.open) * part + wander;
        MinuteBar& each = all[i];
        each.open = price;
        each.close = isLast ? bar.close : std::clamp(onStep(along), bar.low, bar.high);
        each.high = std::max(each.open, each.close);
        each.low = std::min(each.open, each.close);
        each.weight = dice.between(0.3, 1.7);
        price = each.close;
    }
    all[dice.below(all.size())].high = bar.high; // somewhere the day's extremes are met
    all[dice.below(all.size())].low = bar.low;
    return all;
}

} // namespace

void addMinutes(TextFile& file, const market::Bars& bars, std::size_t lastSessions,
                const market::Exchange& exchange, double liveliness, Dice dice)
{
    const std::size_t first = bars.size() - std::min(bars.size(), lastSessions);
    for (std::size_t bar = first; bar < bars.size(); ++bar) {
        const auto hours = market::sessionHours(exchange, bars.days[bar]);
        if (!hours)
            continue;
        const int length = hours->closes.serial() - hours->opens.serial();
        const std::vector<MinuteBar> minutes = minutesOf(bars.at(bar), length, liveliness, dice);
        double weights = 0.0;
        for (const MinuteBar& each : minutes)
            weights += each.weight;
        double left = bars.volume[bar];
        for (std::size_t i = 0; i < minutes.size(); ++i) {
            const MinuteBar& each = minutes[i];
            const double share = std::floor(bars.volume[bar] * each.weight / weights);
            const double volume = i + 1 == minutes.size() ? left : std::min(share, left);
            left -= volume;
            const Minute time = hours->opens.plusMinutes(each.minute);
            const int clock = time.minuteOfDay();
            file.add(bars.days[bar].iso()); // both zones of the isles trade within a universal day
            file.add('T');
            for (const int part : {clock / 600, clock / 60 % 10})
                file.add(static_cast<char>('0' + part));
            file.add(':');
            for (const int part : {clock % 60 / 10, clock % 10})
                file.add(static_cast<char>('0' + part));
            file.add("Z,");
            for (const double price : {each.open, each.high, each.low, each.close}) {
                file.addPrice(price);
                file.add(',');
            }
            file.addWhole(static_cast<std::int64_t>(volume));
            file.add('\n');
        }
    }
}

} // namespace sieve::demo_market
