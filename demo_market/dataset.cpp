#include "demo_market/dataset.h"

#include "demo_market/company.h"
#include "demo_market/isles.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <fmt/format.h>
#include <fstream>

namespace sieve::demo_market {

namespace {

namespace fs = std::filesystem;
using market::InstrumentKind;
using market::InstrumentRecord;

constexpr std::string_view mainExchange = "Carrow Exchange";
constexpr std::string_view youngExchange = "Tarn Bourse";
constexpr std::size_t mainShares = 136;
constexpr std::size_t youngShares = 44;

Birth drawBirth(Dice& dice, std::size_t sessions)
{
    constexpr std::array characters{
        Character::Grower,     Character::Grower,   Character::Grower,       Character::Steady,
        Character::Steady,     Character::Steady,   Character::Cyclical,     Character::Cyclical,
        Character::Turnaround, Character::Indebted, Character::Unprofitable, Character::Declining};
    Birth birth;
    birth.character = characters.at(dice.below(characters.size()));
    birth.beta = dice.between(0.5, 1.5);
    const double draw = dice.share(); // few are large, many are small
    birth.size = 4.0 + 900.0 * draw * draw * draw * draw * draw + 60.0 * dice.share();
    if (dice.chance(0.24))
        birth.firstSession = 60 + dice.below(sessions - 180);
    if (dice.chance(0.09) && birth.firstSession + 600 < sessions) {
        birth.lastSession =
            birth.firstSession + 400 + dice.below(sessions - birth.firstSession - 450);
        constexpr std::array endings{Ending::Failed, Ending::Bought, Ending::Bought, Ending::Moved};
        birth.ending = endings.at(dice.below(endings.size()));
    }
    return birth;
}

InstrumentRecord makeShare(Register& names, Dice& dice, bool isYoung,
                           const std::vector<Day>& sessions, const std::vector<Weather>& weather,
                           std::size_t number)
{
    const Industry& industry = industries()[(number * 7 + (isYoung ? 3 : 0)) % industries().size()];
    const Register::Entry entry = names.enter(dice, industry.trade);
    InstrumentRecord record;
    record.instrument.symbol = entry.symbol + (isYoung ? ".T" : ".C");
    record.instrument.name = entry.name;
    record.instrument.exchange = isYoung ? youngExchange : mainExchange;
    record.instrument.sector = industry.sector;
    record.instrument.industry = industry.name;
    record.instrument.currency = "vl";
    Birth birth = drawBirth(dice, sessions.size());
    if (isYoung) {
        birth.size *= 0.4;
        birth.beta += 0.2;
    }
    record.instrument.optionable = birth.size > 60.0;
    record.instrument.shortable = birth.size > 15.0;
    record.instrument.about = fmt::format("{} of the Vellan Isles: {}.", entry.name, industry.name);
    live(record, birth, sessions, weather, dice.fork(number));
    return record;
}

double rounded(double price)
{
    return std::floor(price * 100.0 + 0.5) / 100.0;
}

/// A fund or index whose level follows the mean of some shares' changes.
InstrumentRecord makeBasket(market::Instrument instrument,
                            const std::vector<InstrumentRecord>& shares,
                            const std::vector<Day>& sessions, double start, Dice dice,
                            bool (*isMember)(const InstrumentRecord&, const std::string&))
{
    InstrumentRecord basket;
    std::vector<double> changes(sessions.size());
    std::vector<double> members(sessions.size());
    for (const InstrumentRecord& share : shares) {
        if (!isMember(share, instrument.sector))
            continue;
        const market::Bars& bars = share.bars;
        std::size_t session = 0;
        for (std::size_t bar = 1; bar < bars.size(); ++bar) {
            while (sessions[session] < bars.days[bar])
                ++session;
            double before = bars.close[bar - 1];
            for (const market::Action& action : share.actions)
                if (action.kind == market::ActionKind::Split &&
                    action.exDate > bars.days[bar - 1] && action.exDate <= bars.days[bar])
                    before /= action.value;
            changes[session] += bars.close[bar] / before - 1.0;
            members[session] += 1.0;
        }
    }
    double level = start;
    for (std::size_t session = 0; session < sessions.size(); ++session) {
        const double before = level;
        level *= 1.0 + (members[session] > 0.0 ? changes[session] / members[session] : 0.0);
        const double open = rounded(before + (level - before) * 0.3 * dice.share());
        const double close = rounded(level);
        const double reach = level * 0.002;
        const double high = rounded(std::max(open, close) + reach * dice.share());
        const double low = rounded(std::min(open, close) - reach * dice.share());
        const bool isTraded = instrument.kind != InstrumentKind::Index;
        const double volume = isTraded ? std::floor(dice.between(20'000, 90'000)) : 0.0;
        basket.bars.add({sessions[session], open, high, low, close, volume});
    }
    basket.instrument = std::move(instrument);
    return basket;
}

void addBaskets(std::vector<InstrumentRecord>& records, const std::vector<Day>& sessions,
                const Dice& dice)
{
    const std::vector<InstrumentRecord> shares = records;
    const auto inSector = [](const InstrumentRecord& share, const std::string& sector) {
        return share.instrument.sector == sector;
    };
    constexpr std::array<std::pair<std::string_view, std::string_view>, 6> funds{
        {{"FTEC.C", "Technology"},
         {"FENG.C", "Energy"},
         {"FSHP.C", "Shipping"},
         {"FHLT.C", "Health"},
         {"FMCH.C", "Machines"},
         {"FFIN.C", "Finance"}}};
    std::uint64_t stream = 9000;
    for (const auto& [symbol, sector] : funds) {
        market::Instrument fund;
        fund.symbol = symbol;
        fund.name = fmt::format("Isles {} Fund", sector);
        fund.exchange = mainExchange;
        fund.kind = InstrumentKind::Fund;
        fund.sector = sector;
        fund.currency = "vl";
        records.push_back(makeBasket(fund, shares, sessions, 40.0, dice.fork(++stream), inSector));
    }
    market::Instrument index;
    index.symbol = "CRWX.C";
    index.name = "Carrow 200";
    index.exchange = mainExchange;
    index.kind = InstrumentKind::Index;
    index.currency = "vl";
    records.push_back(makeBasket(index, shares, sessions, 2000.0, dice.fork(++stream),
                                 [](const InstrumentRecord& share, const std::string&) {
                                     return share.instrument.exchange == mainExchange;
                                 }));
}

// Writing

class File {
public:
    explicit File(const fs::path& path) : path_(path), stream_(path, std::ios::binary) { check(); }
    template <class... Parts> void line(fmt::format_string<Parts...> form, Parts&&... parts)
    {
        stream_ << fmt::format(form, std::forward<Parts>(parts)...) << '\n';
    }
    void close()
    {
        stream_.close();
        check();
    }

private:
    void check() const
    {
        if (!stream_)
            throw std::system_error(errno, std::generic_category(), path_.string());
    }
    fs::path path_;
    std::ofstream stream_;
};

std::string price(double value) // two or four decimals, from whole numbers alone
{
    const auto steps = static_cast<long long>(std::floor(value * 10'000.0 + 0.5));
    if (steps % 100 == 0)
        return fmt::format("{}.{:02}", steps / 10'000, steps % 10'000 / 100);
    return fmt::format("{}.{:04}", steps / 10'000, steps % 10'000);
}

std::string figure(double value)
{
    const bool isNegative = value < 0.0;
    const double size = std::fabs(value);
    if (size == std::floor(size))
        return fmt::format("{}{}", isNegative ? "-" : "", static_cast<long long>(size));
    return (isNegative ? "-" : "") + price(size);
}

std::string day(const std::optional<Day>& day)
{
    return day ? day->iso() : std::string();
}

void writeInstruments(const DemoMarket& market, const fs::path& folder)
{
    File file(folder / "instruments.csv");
    file.line(
        "symbol,name,exchange,kind,sector,industry,currency,listed_on,offer_price,delisted_on,"
        "delisted_why,optionable,shortable,about");
    for (const InstrumentRecord& record : market.records) {
        const market::Instrument& each = record.instrument;
        file.line("{},{},{},{},{},{},{},{},{},{},{},{},{},\"{}\"", each.symbol, each.name,
                  each.exchange, market::instrumentKindName(each.kind), each.sector, each.industry,
                  each.currency, day(each.listedOn),
                  isMissing(each.offerPrice) ? "" : price(each.offerPrice), day(each.delistedOn),
                  each.delistedWhy, each.optionable ? "yes" : "no", each.shortable ? "yes" : "no",
                  each.about);
    }
    file.close();
}

void writeActions(const DemoMarket& market, const fs::path& folder)
{
    File file(folder / "actions.csv");
    file.line("symbol,ex_date,kind,value");
    for (const InstrumentRecord& record : market.records) {
        for (const market::Action& action : record.actions)
            file.line("{},{},{},{}", record.instrument.symbol, action.exDate.iso(),
                      market::actionKindName(action.kind), figure(action.value));
    }
    file.close();
}

void writeStatements(const DemoMarket& market, const fs::path& folder)
{
    File file(folder / "statements.csv");
    file.line("symbol,period_end,period,known_on,item,value");
    for (const InstrumentRecord& record : market.records)
        for (const market::StatementRow& row : record.statements)
            file.line("{},{},{},{},{},{}", record.instrument.symbol, row.periodEnd.iso(),
                      row.period == market::Period::Quarter ? "quarter" : "year", row.knownOn.iso(),
                      market::statementItems()[row.item].key, figure(row.value));
    file.close();
}

void writeShares(const DemoMarket& market, const fs::path& folder)
{
    File file(folder / "shares.csv");
    file.line("symbol,date,outstanding,free_float,short_interest");
    for (const InstrumentRecord& record : market.records)
        for (const market::ShareCount& count : record.shares)
            file.line("{},{},{},{},{}", record.instrument.symbol, count.date.iso(),
                      figure(count.outstanding), figure(count.freeFloat),
                      figure(count.shortInterest));
    file.close();
}

void writeBars(const InstrumentRecord& record, const fs::path& folder)
{
    File file(folder / (record.instrument.symbol + ".csv"));
    file.line("date,open,high,low,close,volume");
    const market::Bars& bars = record.bars;
    for (std::size_t bar = 0; bar < bars.size(); ++bar)
        file.line("{},{},{},{},{},{}", bars.days[bar].iso(), price(bars.open[bar]),
                  price(bars.high[bar]), price(bars.low[bar]), price(bars.close[bar]),
                  figure(bars.volume[bar]));
    file.close();
}

} // namespace

DemoMarket makeMarket(std::uint64_t seed)
{
    DemoMarket market;
    market.description = {"Vellan demo market", std::string(generatorVersion), "vl", "CRWX.C"};
    Dice dice(seed);
    const std::vector<Day> sessions =
        sessionsBetween(*Day::parse("2020-10-01"), *Day::parse("2026-09-30"));
    const std::vector<Weather> mainWeather = makeWeather(sessions, 0, dice.fork(1));
    const std::vector<Weather> youngWeather = makeWeather(sessions, 70, dice.fork(2));
    Register names;
    for (std::size_t number = 0; number < mainShares; ++number)
        market.records.push_back(
            makeShare(names, dice, false, sessions, mainWeather, 100 + number));
    for (std::size_t number = 0; number < youngShares; ++number)
        market.records.push_back(
            makeShare(names, dice, true, sessions, youngWeather, 1000 + number));
    addBaskets(market.records, sessions, dice);
    std::ranges::sort(market.records, {},
                      [](const InstrumentRecord& record) { return record.instrument.symbol; });
    return market;
}

void writeDataset(const DemoMarket& market, const fs::path& folder)
{
    const fs::path bars = folder / "bars" / "daily";
    fs::remove_all(bars);
    fs::create_directories(bars);
    for (const InstrumentRecord& record : market.records)
        writeBars(record, bars);
    writeInstruments(market, folder);
    writeActions(market, folder);
    writeStatements(market, folder);
    writeShares(market, folder);
    File file(folder / "dataset.toml"); // last: its presence says that the rest is whole
    file.line("name = \"{}\"\nversion = \"{}\"\ncurrency = \"{}\"\nbenchmark = \"{}\"\n",
              market.description.name, market.description.version, market.description.currency,
              market.description.benchmark);
    for (const std::string_view exchange : {mainExchange, youngExchange})
        file.line("[[exchange]]\nname = \"{}\"\nopens = \"09:00\"\ncloses = \"17:00\"\n", exchange);
    file.close();
}

} // namespace sieve::demo_market
