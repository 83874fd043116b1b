#include "tests/core/made_market.h"

#include "core/engine/operators/notices.h"
#include "demo_market/dice.h"

#include <algorithm>
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

namespace {

/// Rates of the "dn" up to a day: from March 2024, every few days, with a pause of two months.
std::vector<market::ExchangeRate> rates(Day last)
{
    std::vector<market::ExchangeRate> rates;
    demo_market::Dice dice(5);
    double rate = 0.4;
    for (Day date = day("2024-03-01"); date <= last && date < day("2034-01-01");
         date = date.plusDays(1 + static_cast<int>(dice.below(6)))) {
        rate *= 1.0 + 0.02 * dice.bell();
        if (date < day("2024-09-02") || date > day("2024-11-04"))
            rates.push_back({date, rate});
    }
    return rates;
}

market::MarketPtr marketBy(std::vector<market::InstrumentRecord> records, Day last,
                           const std::string& benchmark)
{
    market::MarketDescription description{"Test market", "1", "vl", benchmark};
    const auto isOther = [](const market::InstrumentRecord& record) {
        return record.instrument.currency == otherCurrency;
    };
    if (std::ranges::any_of(records, isOther))
        description.currencies.push_back({otherCurrency, rates(last)});
    return std::make_shared<const market::Market>(std::move(description), std::move(records));
}

} // namespace

market::MarketPtr marketOf(std::vector<market::InstrumentRecord> records,
                           const std::string& benchmark)
{
    return marketBy(std::move(records), day("2099-12-31"), benchmark);
}

namespace {

/// What is known of a company beside its prices and quarters, of every kind of the dataset, with
/// days that lie in the first 420 sessions from January 2024 on.
void addFacts(market::InstrumentRecord& record, int number, demo_market::Dice& dice)
{
    using market::EstimateMeasure;
    using market::Period;
    const Day first = day("2024-03-01").plusDays(7 * number);
    if (number % 3 == 0)
        for (int quarter = 0; quarter < 5; ++quarter)
            record.actions.push_back(
                {first.plusMonths(3 * quarter), market::ActionKind::Dividend, 0.1 + 0.02 * number});
    if (number == 6)
        record.actions.push_back({day("2025-02-12"), market::ActionKind::SpinOff, 1.5});
    std::ranges::sort(record.actions, {}, &market::Action::exDate);
    for (int count = 1; count < 5; ++count) { // counted some weeks before it is known
        const Day counted = first.plusMonths(3 * count);
        record.shares.push_back({counted, counted.plusDays(10 + number), 1e6 * (1 + number + count),
                                 4e5 + 1e4 * count, 1e4 * dice.share()});
    }
    for (int quarter = 0; quarter < 8; ++quarter)
        for (int days : {-60, -20, 10}) { // what was expected of a quarter and its year, revised
            const Day end = day("2023-12-31").plusMonths(3 * quarter);
            const double eps = 0.2 + 0.05 * number + 0.02 * dice.bell();
            record.estimates.push_back({EstimateMeasure::EarningsPerShare, Period::Quarter, end,
                                        end.plusDays(days), eps, eps, eps, 4.0});
            record.estimates.push_back({EstimateMeasure::EarningsPerShare, Period::Year,
                                        day(quarter < 4 ? "2024-12-31" : "2025-12-31"),
                                        end.plusDays(days), 4.0 * eps, eps, eps, 4.0});
        }
    for (int report = 0; report < 5; ++report) {
        const Day asOf = first.plusMonths(3 * report);
        record.owners.push_back({market::OwnerKind::Insiders, asOf, asOf.plusDays(40), 12 + report,
                                 0.02 * (1 + report)});
        record.owners.push_back(
            {market::OwnerKind::Funds, asOf, asOf.plusDays(45), -1, 0.3 + 0.01 * dice.bell()});
        record.calendar.push_back({asOf.plusDays(50), market::CalendarKind::Report,
                                   report % 2 == 0 ? market::CalendarTime::AfterClose
                                                   : market::CalendarTime::BeforeOpen});
        record.notices.ratings.push_back({asOf, report % 2 == 0 ? "Quay House" : "Tern Research",
                                          market::RatingAction::Raises, 12.0 + number + report});
        record.notices.news.push_back({Minute::of(asOf.plusDays(3), 600),
                                       fmt::format("n{}", report), "A new quay is opened", "", ""});
    }
    market::Instrument& instrument = record.instrument;
    instrument.offerPrice = 9.5;
    instrument.currency = number % 5 == 4 ? otherCurrency : "vl";
    instrument.optionable = number % 2 == 0;
    if (number % 4 == 2)
        instrument.exchange = "Outer Exchange";
    if (number % 6 == 4) // in the same place of the order of symbols, in which sums are made
        instrument.formerSymbols.push_back({instrument.symbol + "F", day("2025-04-24")});
    if (number % 2 == 1)
        instrument.memberships.push_back({"S100", day("2024-06-03"), day("2025-05-02")});
}

} // namespace

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
                // One is away for longer than it may be, twice.
                const bool isAway =
                    number == 12 && ((bar > 260 && bar < 290) || (bar > 330 && bar < 360));
                if (bar % 17 == 3 || (bar > 200 && bar < 212) || isAway)
                    continue;
                kept.add(bars.at(bar));
            }
            record.bars = kept;
        }
        if (number == 7)
            record.instrument.delistedOn = record.bars.days.back().plusDays(-90);
        record.instrument.listedOn = record.bars.days.front();
        const auto add = [&](const char* key, Day end, double value, int daysAfter = 30) {
            record.statements.push_back({*market::statementItemNamed(key), market::Period::Quarter,
                                         end, end.plusDays(daysAfter), value});
        };
        for (int quarter = 0; quarter < 14; ++quarter) {
            const Day end = day("2022-03-31").plusMonths(3 * quarter);
            add("eps", end, 0.2 + 0.05 * number + 0.01 * quarter * dice.bell());
            if (quarter != 3)
                add("revenue", end, 1e6 * (1.0 + 0.1 * dice.share()) * (1 + number));
            add("equity", end, 5e6);
            if (quarter % 5 == number % 5) // restated in the next quarter
                add("eps", end, 0.1 + 0.05 * number, 100);
        }
        record.shares.push_back(
            {record.bars.days.front(), record.bars.days.front(), 1e6 * (1 + number), 5e5, missing});
        addFacts(record, number, dice);
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

/// As instruments.csv, renames.csv and index_members.csv would have told of it that evening.
void cutInstrument(market::Instrument& instrument, Day last)
{
    std::erase_if(instrument.memberships, [last](const auto& each) { return each.from > last; });
    for (market::Membership& stay : instrument.memberships)
        if (stay.until && *stay.until > last)
            stay.until.reset();
    while (!instrument.formerSymbols.empty() && instrument.formerSymbols.back().until > last) {
        instrument.symbol = instrument.formerSymbols.back().symbol; // not renamed yet
        instrument.formerSymbols.pop_back();
    }
    if (instrument.delistedOn && *instrument.delistedOn > last) {
        instrument.delistedOn.reset();
        instrument.delistedWhy.clear();
    }
}

/// Each row goes by the day that governs it: bars and actions by their own, what was filed, counted
/// or expected by the day on which it became known, whatever it is about.
std::vector<market::InstrumentRecord> recordsBy(std::vector<market::InstrumentRecord> records,
                                                Day last)
{
    for (market::InstrumentRecord& record : records) {
        truncateAfter(record, last);
        std::erase_if(record.actions, [last](const auto& each) { return each.exDate > last; });
        std::erase_if(record.shares, [last](const auto& each) { return each.knownOn > last; });
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
        cutInstrument(record.instrument, last);
    }
    return records;
}

} // namespace

market::MarketPtr cutAfter(std::vector<market::InstrumentRecord> records, Day last,
                           const std::string& benchmark)
{
    return marketBy(recordsBy(std::move(records), last), last, benchmark);
}

market::MarketPtr withMinutes(const market::MarketPtr& market)
{
    struct Kept {
        market::MarketPtr market;
        std::vector<std::vector<Minute>> minutes;
        std::vector<std::vector<double>> prices;
        std::vector<std::string> notices;
    };
    auto kept = std::make_shared<Kept>();
    kept->market = market;
    kept->minutes.resize(market->size());
    kept->prices.resize(market->size());
    market::MarketParts parts{
        market->description(), {}, {market->sessions().begin(), market->sessions().end()}, kept};
    for (std::size_t at = 0; at < market->size(); ++at)
        kept->notices.push_back(packed(market->notices(at)));
    for (std::size_t at = 0; at < market->size(); ++at) {
        const market::BarsView& bars = market->bars(at);
        for (std::size_t bar = 0; at % 2 == 0 && bar < bars.size(); ++bar) {
            const unsigned weekday = bars.days[bar].weekday().iso_encoding();
            for (int minute = 0; (weekday == 3 || weekday == 5) && minute < 7; ++minute) {
                kept->minutes[at].push_back(Minute::of(bars.days[bar], 600 + minute));
                kept->prices[at].push_back(bars.low[bar] + 0.01 * (minute * minute % 5));
            }
        }
        const std::span<const double> prices = kept->prices[at];
        market::InstrumentView view;
        view.instrument = market->instrument(at);
        view.minuteBars = {kept->minutes[at], prices, prices, prices, prices, prices};
        view.actions = market->actions(at);
        view.shares = market->shares(at);
        view.estimates = market->estimates(at);
        view.owners = market->owners(at);
        view.calendar = market->calendar(at);
        view.notices = std::as_bytes(std::span(kept->notices[at]));
        view.bars = bars;
        view.statements = market->statements(at);
        parts.instruments.push_back(std::move(view));
    }
    return std::make_shared<const market::Market>(std::move(parts));
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
    const market::MarketPtr evening = withMinutes(marketBy(std::move(past), last, benchmark));
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
