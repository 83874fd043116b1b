#include "core/intake/tables.h"

#include "core/intake/fact_rows.h"
#include "core/intake/rows.h"

#include <array>
#include <fmt/format.h>
#include <initializer_list>
#include <set>
#include <system_error>
#include <toml++/toml.h>
#include <tuple>

namespace sieve::intake {

namespace {

namespace fs = std::filesystem;

/// The table's path, or that of its .gz; empty when there is none.
fs::path pathOf(const fs::path& folder, std::string_view name)
{
    std::error_code none; // what cannot be looked at is not there
    for (const std::string ending : {"", ".gz"})
        if (const fs::path path = folder / (std::string(name) + ending);
            fs::is_regular_file(path, none))
            return path;
    return {};
}

/// Reads one table row by row; what a row lacks leaves it out before `take` has to look.
template <class Take> void readTable(const fs::path& folder, std::string_view name,
                                     std::initializer_list<std::string_view> required,
                                     IntakeReport& report, const Progress& progress, Take take)
{
    const fs::path path = pathOf(folder, name);
    if (path.empty())
        return;
    Rows rows(path.filename().string(), CsvReader(openBytes(path)), std::span(required), report);
    constexpr std::size_t looksEvery = 4096;
    for (std::size_t row = 0; rows.next(); ++row) {
        if (row % looksEvery == 0 && progress.stopRequested())
            throw Stopped{};
        take(rows);
    }
}

std::optional<int> minuteOf(std::string_view clock)
{
    const auto moment = Minute::parse("2000-01-01T" + std::string(clock) + "Z");
    return moment ? std::optional(moment->minuteOfDay()) : std::nullopt;
}

/// Keys that nobody reads, and values of known keys that are no text.
void noteOtherKeys(const toml::table& table, std::initializer_list<std::string_view> texts,
                   IntakeReport& report)
{
    for (const auto& [key, node] : table) {
        const bool isKnown = std::ranges::find(texts, key.str()) != texts.end();
        if (!isKnown || !node.is_string())
            report.add({"dataset.toml", node.source().begin.line, std::string(key.str()), "",
                        isKnown ? "the value is no text in quotes"
                                : "no key that the description of a dataset has",
                        "passed over"});
    }
}

market::Exchange exchangeOf(const toml::table& table, IntakeReport& report)
{
    market::Exchange exchange;
    exchange.name = table["name"].value_or(std::string());
    exchange.zone = table["zone"].value_or(std::string());
    const auto note = [&](const char* column, const std::string& what, const char* why) {
        const toml::node* node = table.get(column);
        report.add({"dataset.toml", node ? node->source().begin.line : 0, column, shown(what), why,
                    "not known"});
    };
    noteOtherKeys(table, {"name", "zone", "opens", "closes"}, report);
    if (!exchange.zone.empty() && !market::isKnownZone(exchange.zone)) {
        note("zone", exchange.zone, "no zone of the IANA time zone database");
        exchange.zone.clear();
    }
    const auto clock = [&](const char* key) -> std::optional<int> {
        const std::string text = table[key].value_or(std::string());
        const auto minute = minuteOf(text);
        if (!text.empty() && !minute)
            note(key, text, "no time of day such as 09:30");
        return minute;
    };
    exchange.opensAt = clock("opens");
    exchange.closesAt = clock("closes");
    return exchange;
}

void readExchanges(const toml::table& file, market::MarketDescription& description,
                   IntakeReport& report)
{
    const toml::node* all = file.get("exchange");
    const auto take = [&](const toml::node& node) {
        const toml::table* table = node.as_table();
        if (!table)
            return report.add({"dataset.toml", node.source().begin.line, "exchange", "",
                               "an exchange is a table [[exchange]]", "passed over"});
        market::Exchange exchange = exchangeOf(*table, report);
        const auto known =
            std::ranges::find(description.exchanges, exchange.name, &market::Exchange::name);
        if (known == description.exchanges.end()) {
            description.exchanges.push_back(std::move(exchange));
        } else {
            exchange.holidays = std::move(known->holidays);
            *known = std::move(exchange);
        }
    };
    if (!all)
        return;
    if (const toml::array* several = all->as_array())
        for (const toml::node& node : *several)
            take(node);
    else
        take(*all); // [exchange]: one
}

void readDescription(const fs::path& folder, Records& records, IntakeReport& report)
{
    market::MarketDescription& description = records.description;
    if (description.name.empty())
        description.name = fs::absolute(folder).lexically_normal().filename().string();
    const fs::path path = folder / "dataset.toml";
    if (!fs::is_regular_file(path))
        return;
    ++report.files;
    constexpr std::uintmax_t longest = 16U << 20U;
    if (fs::file_size(path) > longest)
        return report.add({"dataset.toml", 0, "", "", "longer than 16 MiB", "file left out"});
    try {
        toml::table file = toml::parse_file(path.string());
        for (const auto& [key, text] : {std::pair("name", &description.name),
                                        {"version", &description.version},
                                        {"currency", &description.currency},
                                        {"benchmark", &description.benchmark}})
            *text = file[key].value_or(*text);
        readExchanges(file, description, report);
        file.erase("exchange");
        noteOtherKeys(file, {"name", "version", "currency", "benchmark"}, report);
    } catch (const toml::parse_error& error) {
        report.add({"dataset.toml", error.source().begin.line, "", std::string(error.description()),
                    "this is no TOML", "file left out"});
    }
}

void takeHoliday(Rows& rows, market::MarketDescription& description)
{
    const std::string name = rows.text("exchange");
    const auto exchange = std::ranges::find(description.exchanges, name, &market::Exchange::name);
    if (exchange == description.exchanges.end())
        return rows.leaveOut("exchange", "dataset.toml has no exchange of this name");
    const auto date = rows.day("date", Cell::Required);
    const std::string_view clock = rows.cell("closes_at");
    const auto closesAt = minuteOf(clock);
    if (!clock.empty() && !closesAt)
        rows.leaveOut("closes_at", "no time of day such as 13:00");
    if (!rows.isTaken())
        return;
    auto& holidays = exchange->holidays;
    const auto place = std::ranges::lower_bound(holidays, *date, {}, &market::Holiday::date);
    if (place != holidays.end() && place->date == *date)
        *place = {*date, closesAt};
    else
        holidays.insert(place, {*date, closesAt});
}

/// A row of currency_rates.csv, to be brought among the known ones.
struct RateRow {
    std::string currency;
    market::ExchangeRate rate;
    std::size_t line = 0;
};

void takeRate(Rows& rows, std::vector<RateRow>& taken)
{
    const std::string currency = rows.text("currency");
    const auto date = rows.day("date", Cell::Required);
    const double rate = rows.figure("rate", Cell::Required);
    if (currency.empty())
        rows.leaveOut("currency", "a row without a currency");
    if (rows.isTaken() && rate <= 0.0)
        rows.leaveOut("rate", "a rate is above 0");
    if (rows.isTaken())
        taken.push_back({currency, {*date, rate}, rows.line()});
}

/// The rates of one currency: of rows of one day the first, before what the former market knew.
void mergeRates(std::span<const RateRow> rows, std::vector<market::ExchangeRate>& rates,
                IntakeReport& report)
{
    std::vector<market::ExchangeRate> merged;
    auto former = rates.begin();
    for (const RateRow& row : rows) {
        for (; former != rates.end() && former->date < row.rate.date; ++former)
            merged.push_back(*former);
        if (former != rates.end() && former->date == row.rate.date)
            ++former;
        if (merged.empty() || merged.back().date != row.rate.date) {
            merged.push_back(row.rate);
            continue;
        }
        ++report.rowsLeftOut;
        report.add({"currency_rates.csv", row.line, "", "", "an earlier row tells the same",
                    "row left out"});
    }
    merged.insert(merged.end(), former, rates.end());
    rates = std::move(merged);
}

void readRates(const fs::path& folder, market::MarketDescription& description, IntakeReport& report)
{
    std::vector<RateRow> taken;
    readTable(folder, "currency_rates.csv", {"currency", "date", "rate"}, report, {},
              [&](Rows& rows) { takeRate(rows, taken); });
    std::ranges::stable_sort(
        taken, {}, [](const RateRow& row) { return std::tie(row.currency, row.rate.date); });
    for (std::size_t first = 0; first < taken.size();) {
        const auto rest = std::span(taken).subspan(first);
        const auto other = std::ranges::find_if(
            rest, [&](const RateRow& row) { return row.currency != rest.front().currency; });
        const auto count = static_cast<std::size_t>(other - rest.begin());
        auto& all = description.currencies;
        auto place =
            std::ranges::lower_bound(all, rest.front().currency, {}, &market::Currency::name);
        if (place == all.end() || place->name != rest.front().currency)
            place = all.insert(place, {rest.front().currency, {}});
        mergeRates(rest.first(count), place->rates, report);
        first += count;
    }
}

void takeInstrument(Rows& rows, Records& records, std::set<std::string>& seen)
{
    market::Instrument instrument;
    instrument.symbol = rows.text("symbol");
    if (instrument.symbol.empty())
        return rows.leaveOut("symbol", "a row without a symbol");
    if (seen.contains(instrument.symbol))
        return rows.leaveOut("symbol", "the symbol stands on an earlier row too");
    if (const std::string kind = rows.text("kind"); !kind.empty()) {
        const auto known = market::instrumentKindNamed(kind);
        if (!known)
            return rows.leaveOut("kind",
                                 "no kind of instrument: share, fund, trust, receipt, index");
        instrument.kind = *known;
    }
    instrument.name = rows.text("name");
    instrument.exchange = rows.text("exchange");
    instrument.sector = rows.text("sector");
    instrument.industry = rows.text("industry");
    instrument.currency = rows.text("currency");
    instrument.about = rows.text("about");
    instrument.delistedWhy = rows.text("delisted_why");
    instrument.optionable = rows.cell("optionable") == "yes";
    instrument.shortable = rows.cell("shortable") == "yes";
    instrument.listedOn = rows.day("listed_on", Cell::MayBeEmpty);
    instrument.delistedOn = rows.day("delisted_on", Cell::MayBeEmpty);
    instrument.offerPrice = rows.figure("offer_price", Cell::MayBeEmpty);
    if (!rows.isTaken())
        return;
    seen.insert(instrument.symbol);
    market::Instrument& kept = records[records.add(instrument.symbol)].instrument;
    instrument.memberships = std::move(kept.memberships);
    kept = std::move(instrument);
}

void takeRename(Rows& rows, Records& records)
{
    const std::string before = rows.text("old_symbol");
    const std::string after = rows.text("new_symbol");
    const auto day = rows.day("day", Cell::Required);
    if (!rows.isTaken())
        return;
    if (before.empty() || after.empty() || before == after)
        return rows.leaveOut("new_symbol", "a rename needs two different symbols");
    records.rename(before, after, *day);
}

/// The records of a table's rows by symbol and day. Rows of one instrument mostly stand together,
/// so the last answer is kept.
class RecordFinder {
public:
    explicit RecordFinder(const Records& records) : records_(records) {}

    /// Empty, and the row left out, when nobody bore its symbol on the day, or there is no day.
    std::optional<std::uint32_t> operator()(Rows& rows, std::optional<Day> day)
    {
        if (!day)
            return std::nullopt;
        const std::string_view symbol = rows.cell("symbol");
        if (symbol != symbol_ || day != day_) {
            if (symbol != symbol_ || records_.symbols.wasGivenUp(symbol))
                found_ = records_.find(symbol, *day);
            symbol_ = symbol;
            day_ = day;
        }
        if (!found_)
            rows.leaveOut("symbol", "no instrument has this symbol");
        return found_;
    }

private:
    const Records& records_;
    std::string symbol_;
    std::optional<Day> day_;
    std::optional<std::uint32_t> found_;
};

/// A cell that is one of a few words; empty, and the row left out, when it is none of them.
template <class Value> std::optional<Value> word(Rows& rows, std::string_view column,
                                                 std::optional<Value> (*named)(std::string_view),
                                                 std::string_view words)
{
    const std::optional<Value> value = named(rows.cell(column));
    if (!value)
        rows.leaveOut(column, words);
    return value;
}

void readStatements(const fs::path& folder, Records& records, IntakeReport& report,
                    const Progress& progress)
{
    FactRows<market::StatementRow> taken;
    RecordFinder recordOf(records);
    readTable(folder, "statements.csv",
              {"symbol", "period_end", "period", "known_on", "item", "value"}, report, progress,
              [&](Rows& rows) {
                  const auto known = rows.day("known_on", Cell::Required);
                  const auto record = recordOf(rows, known);
                  const auto end = rows.day("period_end", Cell::Required);
                  const auto item =
                      word(rows, "item", market::statementItemNamed, "no item of the statements");
                  const auto period =
                      word(rows, "period", market::periodNamed, "neither quarter nor year");
                  const double value = rows.figure("value", Cell::Required);
                  if (rows.isTaken() && *known < *end)
                      rows.leaveOut("known_on", "known before the period ended");
                  if (rows.isTaken())
                      taken.add(*record, rows.line(), {*item, *period, *end, *known, value});
              });
    taken.finish(
        records, "statements.csv", report, [](auto& record) -> auto& { return record.statements; },
        [](const market::StatementRow& row) {
            return std::tuple(row.item, row.period, row.periodEnd, row.knownOn);
        });
}

void readEstimates(const fs::path& folder, Records& records, IntakeReport& report,
                   const Progress& progress)
{
    FactRows<market::EstimateRow> taken;
    RecordFinder recordOf(records);
    readTable(folder, "estimates.csv", {"symbol", "known_on", "measure", "period_end", "mean"},
              report, progress, [&](Rows& rows) {
                  const auto known = rows.day("known_on", Cell::Required);
                  const auto record = recordOf(rows, known);
                  const auto end = rows.day("period_end", Cell::Required);
                  const auto measure = word(rows, "measure", market::estimateMeasureNamed,
                                            "no measure: eps, revenue, dividends_per_share");
                  const auto period =
                      rows.cell("period").empty()
                          ? std::optional(market::Period::Year)
                          : word(rows, "period", market::periodNamed, "neither quarter nor year");
                  const double mean = rows.figure("mean", Cell::Required);
                  const double high = rows.figure("high", Cell::MayBeEmpty);
                  const double low = rows.figure("low", Cell::MayBeEmpty);
                  const double analysts = rows.figure("analysts", Cell::MayBeEmpty);
                  if (rows.isTaken() && (high < mean || low > mean))
                      rows.leaveOut("mean", "outside low to high");
                  if (rows.isTaken())
                      taken.add(*record, rows.line(),
                                {*measure, *period, *end, *known, mean, high, low, analysts});
              });
    taken.finish(
        records, "estimates.csv", report, [](auto& record) -> auto& { return record.estimates; },
        [](const market::EstimateRow& row) {
            return std::tuple(row.measure, row.period, row.periodEnd, row.knownOn);
        });
}

void readOwners(const fs::path& folder, Records& records, IntakeReport& report,
                const Progress& progress)
{
    FactRows<market::OwnerRow> taken;
    RecordFinder recordOf(records);
    readTable(folder, "owners.csv", {"symbol", "as_of", "known_on", "kind", "share"}, report,
              progress, [&](Rows& rows) {
                  const auto known = rows.day("known_on", Cell::Required);
                  const auto record = recordOf(rows, known);
                  const auto asOf = rows.day("as_of", Cell::Required);
                  const auto kind = word(rows, "kind", market::ownerKindNamed,
                                         "no kind of owner: insiders, domestic_institutions, "
                                         "foreign_institutions, funds, public");
                  const double share = rows.figure("share", Cell::Required);
                  const double holders = rows.figure("holders", Cell::MayBeEmpty);
                  if (rows.isTaken() && *known < *asOf)
                      rows.leaveOut("known_on", "known before the day that it tells of");
                  if (rows.isTaken() && !(share >= 0.0 && share <= 1.0))
                      rows.leaveOut("share", "a share of the whole lies from 0 to 1");
                  constexpr double most = 2e9;
                  const bool isCount = holders >= 0.0 && holders <= most;
                  if (rows.isTaken())
                      taken.add(*record, rows.line(),
                                {*kind, *asOf, *known,
                                 isCount ? static_cast<std::int32_t>(holders) : -1, share});
              });
    taken.finish(
        records, "owners.csv", report, [](auto& record) -> auto& { return record.owners; },
        [](const market::OwnerRow& row) { return std::tuple(row.kind, row.asOf, row.knownOn); });
}

void readShares(const fs::path& folder, Records& records, IntakeReport& report,
                const Progress& progress)
{
    FactRows<market::ShareCount> taken;
    RecordFinder recordOf(records);
    readTable(
        folder, "shares.csv", {"symbol", "date", "outstanding"}, report, progress, [&](Rows& rows) {
            const auto date = rows.day("date", Cell::Required);
            const auto known = rows.day("known_on", Cell::MayBeEmpty);
            const auto record = recordOf(rows, date);
            const double outstanding = rows.figure("outstanding", Cell::Required);
            const double freeFloat = rows.figure("free_float", Cell::MayBeEmpty);
            const double shortInterest = rows.figure("short_interest", Cell::MayBeEmpty);
            if (rows.isTaken() && outstanding <= 0.0)
                rows.leaveOut("outstanding", "a company has more than 0 shares");
            if (rows.isTaken())
                taken.add(*record, rows.line(),
                          {*date, known.value_or(*date), outstanding, freeFloat, shortInterest});
        });
    taken.finish(
        records, "shares.csv", report, [](auto& record) -> auto& { return record.shares; },
        [](const market::ShareCount& row) { return std::tuple(row.date, row.knownOn); });
}

void readRatings(const fs::path& folder, Records& records, IntakeReport& report,
                 const Progress& progress)
{
    FactRows<market::Rating> taken;
    RecordFinder recordOf(records);
    readTable(folder, "ratings.csv", {"symbol", "date", "house", "action"}, report, progress,
              [&](Rows& rows) {
                  const auto date = rows.day("date", Cell::Required);
                  const auto record = recordOf(rows, date);
                  const auto action = word(rows, "action", market::ratingActionNamed,
                                           "no action: starts, raises, keeps, lowers, ends");
                  const double target = rows.figure("target", Cell::MayBeEmpty);
                  if (rows.isTaken())
                      taken.add(*record, rows.line(), {*date, rows.text("house"), *action, target});
              });
    taken.finish(
        records, "ratings.csv", report,
        [](auto& record) -> auto& { return record.notices.ratings; },
        [](const market::Rating& row) { return std::tuple(row.date, row.house); });
}

void readCalendar(const fs::path& folder, Records& records, IntakeReport& report,
                  const Progress& progress)
{
    FactRows<market::CalendarEntry> taken;
    RecordFinder recordOf(records);
    readTable(
        folder, "calendar.csv", {"symbol", "date", "kind"}, report, progress, [&](Rows& rows) {
            const auto date = rows.day("date", Cell::Required);
            const auto record = recordOf(rows, date);
            const auto kind = word(rows, "kind", market::calendarKindNamed,
                                   "no kind of event: report, dividend, lock-up end");
            const auto when = word(rows, "when", market::calendarTimeNamed,
                                   "no time: before open, during session, after close, or empty");
            if (rows.isTaken())
                taken.add(*record, rows.line(), {*date, *kind, *when});
        });
    taken.finish(
        records, "calendar.csv", report, [](auto& record) -> auto& { return record.calendar; },
        [](const market::CalendarEntry& row) { return std::tuple(row.date, row.kind); });
}

void readMemberships(const fs::path& folder, Records& records, IntakeReport& report,
                     const Progress& progress)
{
    FactRows<market::Membership> taken;
    RecordFinder recordOf(records);
    readTable(folder, "index_members.csv", {"index", "symbol", "from"}, report, progress,
              [&](Rows& rows) {
                  const auto from = rows.day("from", Cell::Required);
                  const auto record = recordOf(rows, from);
                  const auto until = rows.day("to", Cell::MayBeEmpty);
                  if (rows.isTaken() && until && *until <= *from)
                      rows.leaveOut("to", "a stay ends after it begins");
                  if (rows.isTaken())
                      taken.add(*record, rows.line(), {rows.text("index"), *from, until});
              });
    taken.finish(
        records, "index_members.csv", report,
        [](auto& record) -> auto& { return record.instrument.memberships; },
        [](const market::Membership& row) { return std::tuple(row.index, row.from); });
}

} // namespace

void readListings(const fs::path& folder, Records& records, IntakeReport& report)
{
    readDescription(folder, records, report);
    readTable(folder, "holidays.csv", {"exchange", "date"}, report, {},
              [&](Rows& rows) { takeHoliday(rows, records.description); });
    readRates(folder, records.description, report);
    std::set<std::string> seen;
    readTable(folder, "instruments.csv", {"symbol"}, report, {},
              [&](Rows& rows) { takeInstrument(rows, records, seen); });
    readTable(folder, "renames.csv", {"old_symbol", "new_symbol", "day"}, report, {},
              [&](Rows& rows) { takeRename(rows, records); });
}

void readActions(const fs::path& folder, Records& records, IntakeReport& report,
                 const Progress& progress)
{
    FactRows<market::Action> taken;
    RecordFinder recordOf(records);
    readTable(folder, "actions.csv", {"symbol", "ex_date", "kind", "value"}, report, progress,
              [&](Rows& rows) {
                  const auto day = rows.day("ex_date", Cell::Required);
                  const auto record = recordOf(rows, day);
                  const auto kind = word(rows, "kind", market::actionKindNamed,
                                         "no kind of action: split, dividend, spin-off");
                  const double value = rows.figure("value", Cell::Required);
                  if (rows.isTaken() && value <= 0.0)
                      rows.leaveOut("value", "an action needs a value above 0");
                  if (rows.isTaken())
                      taken.add(*record, rows.line(), {*day, *kind, value});
              });
    taken.finish(
        records, "actions.csv", report, [](auto& record) -> auto& { return record.actions; },
        [](const market::Action& row) { return std::tuple(row.exDate, row.kind); },
        [](const market::Action& row) { // two dividends of one day are both paid, of splits one
            return std::tuple(row.exDate, row.kind,
                              row.kind == market::ActionKind::Split ? 0.0 : row.value);
        });
}

void readFacts(const fs::path& folder, Records& records, IntakeReport& report,
               const Progress& progress)
{
    using Reader = void (*)(const fs::path&, Records&, IntakeReport&, const Progress&);
    constexpr std::array<Reader, 7> readers{readStatements, readEstimates, readOwners,
                                            readShares,     readRatings,   readCalendar,
                                            readMemberships};
    for (const Reader read : readers)
        read(folder, records, report, progress);
}

} // namespace sieve::intake
