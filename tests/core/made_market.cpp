#include "tests/core/made_market.h"

#include "core/engine/leaves.h"
#include "demo_market/dice.h"

#include <fmt/format.h>

namespace sieve::test {

Day day(const char* iso)
{
    return *Day::parse(iso);
}

market::Bars barsOf(const std::vector<double>& closes, Day first)
{
    market::Bars bars;
    for (const double close : closes) {
        while (first.isWeekend())
            first = first.plusDays(1);
        bars.add({first, close, close * 1.01, close * 0.99, close,
                  1000.0 * static_cast<double>(bars.size() + 1)});
        first = first.plusDays(1);
    }
    return bars;
}

market::InstrumentRecord recordOf(const std::string& symbol, const std::vector<double>& closes,
                                  const std::string& sector)
{
    market::InstrumentRecord record;
    record.instrument.symbol = symbol;
    record.instrument.name = symbol + " Tidal";
    record.instrument.sector = sector;
    record.instrument.industry = sector + " works";
    record.instrument.exchange = "Carrow Exchange";
    record.bars = barsOf(closes);
    return record;
}

market::MarketPtr marketOf(std::vector<market::InstrumentRecord> records,
                           const std::string& benchmark)
{
    return std::make_shared<const market::Market>(
        market::MarketDescription{"Test market", "1", "vl", benchmark}, std::move(records));
}

std::vector<market::InstrumentRecord> eventfulRecords(int sessions)
{
    std::vector<market::InstrumentRecord> records;
    demo_market::Dice dice(11);
    for (int number = 0; number < 20; ++number) {
        double price = 10.0 + number;
        std::vector<double> closes;
        for (int bar = 0; bar < sessions; ++bar) {
            price *= 1.0 + 0.02 * dice.bell();
            closes.push_back(price);
        }
        market::InstrumentRecord record = recordOf(fmt::format("S{}", 100 + number), closes,
                                                   number % 3 == 0   ? "Energy"
                                                   : number % 3 == 1 ? "Water"
                                                                     : "");
        market::Bars& bars = record.bars;
        if (number % 4 == 1) { // a split of 3 for 1
            record.actions.push_back({bars.days[150], market::ActionKind::Split, 3.0});
            for (std::size_t bar = 150; bar < bars.size(); ++bar)
                for (auto* column : {&bars.open, &bars.high, &bars.low, &bars.close})
                    (*column)[bar] /= 3.0;
        }
        if (number % 5 == 2) { // did not trade for a while, listed late
            market::Bars kept;
            for (std::size_t bar = 40; bar < bars.size(); ++bar) {
                if (bar % 17 == 3 || (bar > 200 && bar < 212))
                    continue;
                kept.add(bars.at(bar));
            }
            record.bars = kept;
        }
        if (number == 7)
            record.instrument.delistedOn = record.bars.days.back().plusDays(-90);
        record.instrument.listedOn = record.bars.days.front();
        const auto add = [&](const char* key, Day end, double value) {
            record.statements.push_back({*market::statementItemNamed(key), market::Period::Quarter,
                                         end, end.plusDays(30), value});
        };
        for (int quarter = 0; quarter < 14; ++quarter) {
            const Day end = day("2022-03-31").plusMonths(3 * quarter);
            add("eps", end, 0.2 + 0.05 * number + 0.01 * quarter * dice.bell());
            if (quarter != 3)
                add("revenue", end, 1e6 * (1.0 + 0.1 * dice.share()) * (1 + number));
            add("equity", end, 5e6);
        }
        record.shares.push_back(
            {record.bars.days.front(), record.bars.days.front(), 1e6 * (1 + number), 5e5, missing});
        records.push_back(std::move(record));
    }
    return records;
}

namespace {

void truncateAfter(market::InstrumentRecord& record, Day last)
{
    const auto& days = record.bars.days;
    record.bars.truncate(
        static_cast<std::size_t>(std::ranges::upper_bound(days, last) - days.begin()));
}

std::vector<market::InstrumentRecord> recordsBy(std::vector<market::InstrumentRecord> records,
                                                Day last)
{
    for (market::InstrumentRecord& record : records) {
        truncateAfter(record, last);
        std::erase_if(record.actions, [last](const auto& each) { return each.exDate > last; });
        std::erase_if(record.shares, [last](const auto& each) { return each.date > last; });
        std::erase_if(record.statements, [last](const auto& each) { return each.knownOn > last; });
        std::erase_if(record.estimates, [last](const auto& each) { return each.knownOn > last; });
        std::erase_if(record.owners, [last](const auto& each) { return each.knownOn > last; });
        std::erase_if(record.notices.ratings,
                      [last](const auto& each) { return each.date > last; });
        std::erase_if(record.notices.news,
                      [last](const auto& each) { return each.time.day() > last; });
        std::erase_if(record.calendar, [last](const auto& each) {
            return each.date > last.plusDays(engine::announcedDays);
        });
        std::erase_if(record.instrument.memberships,
                      [last](const auto& each) { return each.from > last; });
        if (record.instrument.delistedOn && *record.instrument.delistedOn > last)
            record.instrument.delistedOn.reset();
    }
    return records;
}

} // namespace

market::MarketPtr cutAfter(std::vector<market::InstrumentRecord> records, Day last,
                           const std::string& benchmark)
{
    return marketOf(recordsBy(std::move(records), last), benchmark);
}

market::MarketPtr liveOn(const std::vector<market::InstrumentRecord>& records, Day last,
                         const std::string& benchmark)
{
    std::vector<market::InstrumentRecord> past = recordsBy(records, last);
    std::map<std::string, market::Bar> today;
    for (market::InstrumentRecord& record : past) {
        const market::Bars& bars = record.bars;
        if (bars.size() == 0 || bars.days.back() != last)
            continue;
        const std::size_t at = bars.size() - 1;
        today.emplace(record.instrument.symbol,
                      market::Bar{last, bars.open[at], bars.high[at], bars.low[at], bars.close[at],
                                  bars.volume[at]});
        truncateAfter(record, last.plusDays(-1));
    }
    const market::MarketPtr evening = marketOf(std::move(past), benchmark);
    std::vector<market::LiveBar> live;
    for (const auto& [symbol, bar] : today)
        live.push_back({*evening->find(symbol), bar});
    return std::make_shared<const market::Market>(evening, live);
}

language::Field ownField(const std::string& name, const std::string& formula)
{
    language::Field made;
    made.name = name;
    made.title = made.head = "Own " + name;
    made.meaning = "Made for a test";
    made.family = "Own";
    made.formula = formula;
    return made;
}

} // namespace sieve::test
