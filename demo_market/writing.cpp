#include "demo_market/dataset.h"
#include "demo_market/filings.h"
#include "demo_market/minutes.h"
#include "demo_market/text_file.h"

#include <algorithm>
#include <atomic>
#include <exception>
#include <functional>
#include <map>
#include <mutex>
#include <thread>

// Writes the demo market as an open dataset: a function a file of docs/dataset.md.

namespace sieve::demo_market {

namespace {

namespace fs = std::filesystem;
using market::InstrumentRecord;

constexpr std::size_t mostWithMinutes = 300;

/// The receipts' statements are told by filings alone.
bool filesAbroad(const InstrumentRecord& record)
{
    return record.instrument.kind == market::InstrumentKind::Receipt;
}

std::string clock(int minute)
{
    return fmt::format("{:02}:{:02}", minute / 60, minute % 60);
}

/// Calls `work` for each number below `count` on all processors; what one throws is thrown on.
void inParallel(std::size_t count, const std::function<void(std::size_t)>& work)
{
    std::atomic<std::size_t> next = 0;
    std::exception_ptr fault;
    std::mutex mutex;
    std::vector<std::jthread> workers;
    for (unsigned i = 0; i < std::max(1U, std::thread::hardware_concurrency()); ++i)
        workers.emplace_back([&] {
            try {
                for (std::size_t each = next++; each < count; each = next++)
                    work(each);
            } catch (...) {
                const std::lock_guard lock(mutex);
                fault = std::current_exception();
            }
        });
    workers.clear();
    if (fault)
        std::rethrow_exception(fault);
}

/// A table of rows of all records.
template <class Rows, class Line> void writeTable(const DemoMarket& market, const fs::path& path,
                                                  std::string_view head, Rows rowsOf, Line line)
{
    TextFile file;
    file.line("{}", head);
    for (const InstrumentRecord& record : market.records)
        for (const auto& row : rowsOf(record))
            line(file, record.instrument.symbol, row);
    file.write(path);
}

void writeListings(const DemoMarket& market, const fs::path& folder)
{
    TextFile instruments;
    instruments.line(
        "symbol,name,exchange,kind,sector,industry,currency,listed_on,offer_price,delisted_on,"
        "delisted_why,optionable,shortable,about");
    for (const InstrumentRecord& record : market.records) {
        const market::Instrument& each = record.instrument;
        instruments.line("{},{},{},{},{},{},{},{},{},{},{},{},{},{}", each.symbol,
                         csvCell(each.name), each.exchange, market::instrumentKindName(each.kind),
                         each.sector, each.industry, each.currency, dayText(each.listedOn),
                         isMissing(each.offerPrice) ? "" : priceText(each.offerPrice),
                         dayText(each.delistedOn), each.delistedWhy, each.optionable ? "yes" : "no",
                         each.shortable ? "yes" : "no", csvCell(each.about));
    }
    instruments.write(folder / "instruments.csv");
    writeTable(
        market, folder / "renames.csv", "old_symbol,new_symbol,day",
        [](const auto& record) { return record.instrument.formerSymbols; },
        [](TextFile& file, const std::string& symbol, const market::FormerSymbol& row) {
            file.line("{},{},{}", row.symbol, symbol, row.until.iso());
        });
    writeTable(
        market, folder / "index_members.csv", "index,symbol,from,to",
        [](const auto& record) { return record.instrument.memberships; },
        [](TextFile& file, const std::string& symbol, const market::Membership& row) {
            file.line("{},{},{},{}", row.index, symbol, row.from.iso(), dayText(row.until));
        });
    if (!market.description.currencies.empty()) {
        TextFile rates;
        rates.line("currency,date,rate");
        for (const market::Currency& currency : market.description.currencies)
            for (const market::ExchangeRate& each : currency.rates)
                rates.line("{},{},{}", currency.name, each.date.iso(), each.rate);
        rates.write(folder / "currency_rates.csv");
    }
    TextFile holidays;
    holidays.line("exchange,date,closes_at");
    for (const market::Exchange& exchange : market.description.exchanges)
        for (const market::Holiday& holiday : exchange.holidays)
            holidays.line("{},{},{}", exchange.name, holiday.date.iso(),
                          holiday.closesAt ? clock(*holiday.closesAt) : "");
    holidays.write(folder / "holidays.csv");
}

void writeCompanyFacts(const DemoMarket& market, const fs::path& folder)
{
    writeTable(
        market, folder / "actions.csv", "symbol,ex_date,kind,value",
        [](const auto& record) { return record.actions; },
        [](TextFile& file, const std::string& symbol, const market::Action& row) {
            file.line("{},{},{},{}", symbol, row.exDate.iso(), market::actionKindName(row.kind),
                      figureText(row.value));
        });
    writeTable(
        market, folder / "statements.csv", "symbol,period_end,period,known_on,item,value",
        [](const auto& record) {
            return filesAbroad(record) ? std::vector<market::StatementRow>() : record.statements;
        },
        [](TextFile& file, const std::string& symbol, const market::StatementRow& row) {
            file.line("{},{},{},{},{},{}", symbol, row.periodEnd.iso(),
                      market::periodName(row.period), row.knownOn.iso(),
                      market::statementItems()[row.item].key, figureText(row.value));
        });
    writeTable(
        market, folder / "estimates.csv",
        "symbol,known_on,measure,period,period_end,mean,high,low,analysts",
        [](const auto& record) { return record.estimates; },
        [](TextFile& file, const std::string& symbol, const market::EstimateRow& row) {
            file.line("{},{},{},{},{},{},{},{},{}", symbol, row.knownOn.iso(),
                      market::estimateMeasureName(row.measure), market::periodName(row.period),
                      row.periodEnd.iso(), figureText(row.mean), figureText(row.high),
                      figureText(row.low), figureText(row.analysts));
        });
    writeTable(
        market, folder / "owners.csv", "symbol,as_of,known_on,kind,share,holders",
        [](const auto& record) { return record.owners; },
        [](TextFile& file, const std::string& symbol, const market::OwnerRow& row) {
            file.line("{},{},{},{},{},{}", symbol, row.asOf.iso(), row.knownOn.iso(),
                      market::ownerKindName(row.kind), figureText(row.share), row.holders);
        });
    writeTable(
        market, folder / "shares.csv", "symbol,date,outstanding,free_float,short_interest",
        [](const auto& record) { return record.shares; },
        [](TextFile& file, const std::string& symbol, const market::ShareCount& row) {
            file.line("{},{},{},{},{}", symbol, row.date.iso(), figureText(row.outstanding),
                      figureText(row.freeFloat), figureText(row.shortInterest));
        });
    writeTable(
        market, folder / "ratings.csv", "symbol,date,house,action,target",
        [](const auto& record) { return record.notices.ratings; },
        [](TextFile& file, const std::string& symbol, const market::Rating& row) {
            file.line("{},{},{},{},{}", symbol, row.date.iso(), csvCell(row.house),
                      market::ratingActionName(row.action), figureText(row.target));
        });
    writeTable(
        market, folder / "calendar.csv", "symbol,date,when,kind",
        [](const auto& record) { return record.calendar; },
        [](TextFile& file, const std::string& symbol, const market::CalendarEntry& row) {
            file.line("{},{},{},{}", symbol, row.date.iso(), market::calendarTimeName(row.when),
                      market::calendarKindName(row.kind));
        });
}

/// A feed a year.
void writeNews(const DemoMarket& market, const fs::path& folder)
{
    std::map<int, TextFile> feeds;
    for (const InstrumentRecord& record : market.records)
        for (const market::NewsItem& item : record.notices.news) {
            TextFile& feed = feeds[int(item.time.day().date().year())];
            feed.line("<entry><id>isles:{}</id><title>{}</title><updated>{}:00Z</updated>"
                      "<summary>{}</summary><category term=\"{}\"/></entry>",
                      item.id, xmlText(item.title), item.time.iso().substr(0, 16),
                      xmlText(item.summary), record.instrument.symbol);
        }
    fs::remove_all(folder / "news");
    fs::create_directories(folder / "news");
    for (const auto& [year, entries] : feeds) {
        TextFile file;
        file.line("<?xml version=\"1.0\" encoding=\"utf-8\"?>");
        file.line("<feed xmlns=\"http://www.w3.org/2005/Atom\"><title>Isles wire {}</title>"
                  "<id>isles:{}</id><updated>{}-12-31T00:00:00Z</updated>",
                  year, year, year);
        file.add(entries.text());
        file.line("</feed>");
        file.write(folder / "news" / fmt::format("{}.xml", year));
    }
}

/// An instrument's bars, under each symbol that it bore.
void writeBars(const InstrumentRecord& record, const fs::path& folder)
{
    const market::Bars& bars = record.bars;
    std::size_t bar = 0;
    const auto writeUntil = [&](const std::string& symbol, std::size_t end) {
        TextFile file;
        file.line("date,open,high,low,close,volume");
        for (; bar < end; ++bar) {
            file.add(bars.days[bar].iso());
            for (const double price :
                 {bars.open[bar], bars.high[bar], bars.low[bar], bars.close[bar]}) {
                file.add(',');
                file.addPrice(price);
            }
            file.add(',');
            file.addWhole(static_cast<std::int64_t>(bars.volume[bar]));
            file.add('\n');
        }
        file.write(folder / (symbol + ".csv"));
    };
    for (const market::FormerSymbol& former : record.instrument.formerSymbols)
        writeUntil(former.symbol,
                   static_cast<std::size_t>(std::ranges::lower_bound(bars.days, former.until) -
                                            bars.days.begin()));
    writeUntil(record.instrument.symbol, bars.size());
}

/// The most traded by value of their last sessions.
std::vector<const InstrumentRecord*> mostTraded(const DemoMarket& market, std::size_t sessions)
{
    std::vector<std::pair<double, const InstrumentRecord*>> traded;
    for (const InstrumentRecord& record : market.records) {
        if (record.instrument.delistedOn || record.instrument.kind == market::InstrumentKind::Index)
            continue;
        double value = 0.0;
        for (std::size_t back = 1; back <= std::min(sessions, record.bars.size()); ++back)
            value += record.bars.close[record.bars.size() - back] *
                     record.bars.volume[record.bars.size() - back];
        traded.emplace_back(-value, &record);
    }
    std::ranges::stable_sort(traded, {}, [](const auto& each) { return each.first; });
    std::vector<const InstrumentRecord*> most;
    for (std::size_t i = 0; i < std::min(mostWithMinutes, traded.size()); ++i)
        most.push_back(traded[i].second);
    return most;
}

void writeMinutes(const DemoMarket& market, const fs::path& folder, std::size_t sessions)
{
    const std::vector<const InstrumentRecord*> most = mostTraded(market, sessions);
    inParallel(most.size(), [&](std::size_t i) {
        const InstrumentRecord& record = *most[i];
        const auto exchange = std::ranges::find(
            market.description.exchanges, record.instrument.exchange, &market::Exchange::name);
        const double liveliness = 0.85 - 0.7 * static_cast<double>(i) / mostWithMinutes;
        TextFile file;
        file.line("time,open,high,low,close,volume");
        addMinutes(file, record.bars, sessions, *exchange, liveliness, Dice(31'000 + i));
        file.write(folder / (record.instrument.symbol + ".csv"));
    });
}

void writeDescription(const market::MarketDescription& description, const fs::path& folder)
{
    TextFile file;
    file.line("name = \"{}\"\nversion = \"{}\"\ncurrency = \"{}\"\nbenchmark = \"{}\"\n",
              description.name, description.version, description.currency, description.benchmark);
    for (const market::Exchange& exchange : description.exchanges)
        file.line("[[exchange]]\nname = \"{}\"\nzone = \"{}\"\nopens = \"{}\"\ncloses = \"{}\"\n",
                  exchange.name, exchange.zone, clock(*exchange.opensAt),
                  clock(*exchange.closesAt));
    file.write(folder / "dataset.toml");
}

} // namespace

void writeDataset(const DemoMarket& market, const fs::path& folder, std::size_t minuteSessions)
{
    fs::remove_all(folder / "bars");
    fs::create_directories(folder / "bars" / "daily");
    inParallel(market.records.size(),
               [&](std::size_t i) { writeBars(market.records[i], folder / "bars" / "daily"); });
    if (minuteSessions > 0) {
        fs::create_directories(folder / "bars" / "minute");
        writeMinutes(market, folder / "bars" / "minute", minuteSessions);
    }
    writeListings(market, folder);
    writeCompanyFacts(market, folder);
    writeNews(market, folder);
    fs::remove_all(folder / "filings");
    std::vector<const InstrumentRecord*> abroad;
    for (const InstrumentRecord& record : market.records)
        if (filesAbroad(record))
            abroad.push_back(&record);
    if (!abroad.empty())
        writeFilings(abroad, folder / "filings");
    writeDescription(market.description, folder); // last: its presence says that the rest is whole
}

} // namespace sieve::demo_market
