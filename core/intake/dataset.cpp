#include "core/intake/dataset.h"

#include "core/intake/csv.h"
#include "core/intake/rows.h"

#include <algorithm>
#include <array>
#include <atomic>
#include <fmt/format.h>
#include <fstream>
#include <map>
#include <tbb/parallel_for.h>
#include <toml++/toml.h>

namespace sieve::intake {

namespace {

namespace fs = std::filesystem;
using market::InstrumentRecord;

using Records = std::map<std::string, InstrumentRecord, std::less<>>;

std::string readFile(const fs::path& path)
{
    std::ifstream file(path, std::ios::binary | std::ios::ate);
    if (!file)
        throw std::system_error(errno, std::generic_category(), path.string());
    std::string text(static_cast<std::size_t>(file.tellg()), '\0');
    file.seekg(0);
    file.read(text.data(), static_cast<std::streamsize>(text.size()));
    if (!file)
        throw std::system_error(EIO, std::generic_category(), path.string());
    return text;
}

market::MarketDescription readDescription(const fs::path& folder, IntakeReport& report)
{
    market::MarketDescription description;
    description.name = folder.filename().string();
    const fs::path path = folder / "dataset.toml";
    if (!fs::exists(path))
        return description;
    ++report.files;
    try {
        const toml::table file = toml::parse(readFile(path));
        description.name = file["name"].value_or(description.name);
        description.version = file["version"].value_or(std::string());
        description.currency = file["currency"].value_or(std::string());
        description.benchmark = file["benchmark"].value_or(std::string());
    } catch (const toml::parse_error& error) {
        report.findings.push_back({"dataset.toml", error.source().begin.line, "",
                                   std::string(error.description()), "this is no TOML",
                                   "file left out"});
    }
    return description;
}

void takeInstrument(Rows& rows, Records& records)
{
    market::Instrument instrument;
    instrument.symbol = rows.text("symbol");
    if (instrument.symbol.empty())
        return rows.leaveOut("symbol", "a row without a symbol");
    if (records.contains(instrument.symbol))
        return rows.leaveOut("symbol", "the symbol stands on an earlier row too");
    instrument.name = rows.text("name");
    instrument.exchange = rows.text("exchange");
    if (const std::string kind = rows.text("kind"); !kind.empty()) {
        const auto known = market::instrumentKindNamed(kind);
        if (!known)
            return rows.leaveOut("kind",
                                 "no kind of instrument: share, fund, trust, receipt, index");
        instrument.kind = *known;
    }
    instrument.sector = rows.text("sector");
    instrument.industry = rows.text("industry");
    instrument.currency = rows.text("currency");
    instrument.about = rows.text("about");
    instrument.delistedWhy = rows.text("delisted_why");
    instrument.optionable = rows.text("optionable") == "yes";
    instrument.shortable = rows.text("shortable") == "yes";
    instrument.listedOn = rows.day("listed_on", Cell::MayBeEmpty);
    instrument.delistedOn = rows.day("delisted_on", Cell::MayBeEmpty);
    instrument.offerPrice = rows.figure("offer_price", Cell::MayBeEmpty);
    if (rows.isTaken())
        records[instrument.symbol].instrument = std::move(instrument);
}

/// The record of the row's symbol; null, and the row left out, when there is none.
InstrumentRecord* recordOf(Rows& rows, Records& records)
{
    const auto found = records.find(rows.text("symbol"));
    if (found != records.end())
        return &found->second;
    rows.leaveOut("symbol", "no instrument has this symbol");
    return nullptr;
}

void takeAction(Rows& rows, Records& records)
{
    InstrumentRecord* record = recordOf(rows, records);
    if (!record)
        return;
    const auto day = rows.day("ex_date", Cell::Required);
    const double value = rows.figure("value", Cell::Required);
    if (!rows.isTaken())
        return;
    if (value <= 0.0)
        return rows.leaveOut("value", "an action needs a value above 0");
    const std::string kind = rows.text("kind");
    if (kind == "split")
        record->splits.push_back({*day, value});
    else if (kind == "dividend")
        record->dividends.push_back({*day, value});
    else
        rows.leaveOut("kind", "no kind of action: split, dividend");
}

void takeStatement(Rows& rows, Records& records)
{
    InstrumentRecord* record = recordOf(rows, records);
    if (!record)
        return;
    const auto item = market::statementItemNamed(rows.text("item"));
    if (!item)
        return rows.leaveOut("item", "no item of the statements");
    const std::string period = rows.text("period");
    if (period != "quarter" && period != "year")
        return rows.leaveOut("period", "neither quarter nor year");
    const auto end = rows.day("period_end", Cell::Required);
    const auto known = rows.day("known_on", Cell::Required);
    const double value = rows.figure("value", Cell::Required);
    if (!rows.isTaken())
        return;
    if (*known < *end)
        return rows.leaveOut("known_on", "known before the period ended");
    record->statements.push_back(
        {*item, period == "quarter" ? market::Period::Quarter : market::Period::Year, *end, *known,
         value});
}

void takeShareCount(Rows& rows, Records& records)
{
    InstrumentRecord* record = recordOf(rows, records);
    if (!record)
        return;
    const auto day = rows.day("date", Cell::Required);
    const market::ShareCount count{day.value_or(Day::fromSerial(0)),
                                   rows.figure("outstanding", Cell::Required),
                                   rows.figure("free_float", Cell::MayBeEmpty),
                                   rows.figure("short_interest", Cell::MayBeEmpty)};
    if (rows.isTaken() && count.outstanding <= 0.0)
        rows.leaveOut("outstanding", "a company has more than 0 shares");
    if (rows.isTaken())
        record->shares.push_back(count);
}

void readTable(const fs::path& folder, std::string_view name,
               std::span<const std::string_view> required, IntakeReport& report, Records& records,
               void (*take)(Rows&, Records&))
{
    const fs::path path = folder / name;
    if (!fs::exists(path))
        return;
    const std::string text = readFile(path);
    Rows rows(std::string(name), text, required, report);
    while (rows.next())
        take(rows, records);
}

/// One bar; missing volume is kept as not known, any other fault leaves the row out.
void takeBar(Rows& rows, market::Bars& bars)
{
    const auto day = rows.day("date", Cell::Required);
    const double open = rows.figure("open", Cell::Required);
    const double high = rows.figure("high", Cell::Required);
    const double low = rows.figure("low", Cell::Required);
    const double close = rows.figure("close", Cell::Required);
    const double volume = rows.figure("volume", Cell::MayBeEmpty);
    if (!rows.isTaken())
        return;
    if (std::min({open, high, low, close}) <= 0.0)
        return rows.leaveOut("", "a price at or below 0");
    if (high < low)
        return rows.leaveOut("high", "the high lies under the low");
    if (std::max(open, close) > high || std::min(open, close) < low)
        return rows.leaveOut("", "open or close outside low to high");
    if (volume < 0.0)
        return rows.leaveOut("volume", "a volume below 0");
    if (day->isWeekend())
        rows.note("date", "a bar on a weekend", "kept as it is");
    bars.add({*day, open, high, low, close, volume});
}

/// Puts bars in order and leaves out all but the first of each day.
void order(market::Bars& bars, const std::string& file, IntakeReport& report)
{
    if (std::ranges::is_sorted(bars.days, std::less_equal<>()))
        return;
    std::vector<std::size_t> places(bars.size());
    for (std::size_t i = 0; i < places.size(); ++i)
        places[i] = i;
    if (!std::ranges::is_sorted(bars.days)) {
        std::ranges::stable_sort(places, {}, [&](std::size_t i) { return bars.days[i]; });
        report.findings.push_back(
            {file, 0, "date", "", "days out of order", "put in order, oldest first"});
    }
    market::Bars ordered;
    ordered.reserve(bars.size());
    for (const std::size_t i : places) {
        if (!ordered.days.empty() && ordered.days.back() == bars.days[i]) {
            report.findings.push_back(
                {file, 0, "date", bars.days[i].iso(), "a second bar of the day", "row left out"});
            ++report.rowsLeftOut;
            continue;
        }
        ordered.add(bars.at(i));
    }
    bars = std::move(ordered);
}

/// Reports overnight jumps by a whole factor (1/2, 1/3, … or 2, 3, …) that no split explains.
void noteJumps(const InstrumentRecord& record, const std::string& file, IntakeReport& report)
{
    const market::Bars& bars = record.bars;
    for (std::size_t bar = 1; bar < bars.size(); ++bar) {
        const double ratio = bars.close[bar - 1] / bars.open[bar];
        const double factor = ratio > 1.0 ? ratio : 1.0 / ratio;
        const double whole = std::round(factor);
        if (whole < 2.0 || whole > 50.0 || std::fabs(factor / whole - 1.0) > 0.015)
            continue;
        const auto explains = [&](const market::Split& split) {
            return split.exDate > bars.days[bar - 1] && split.exDate <= bars.days[bar];
        };
        if (std::ranges::none_of(record.splits, explains))
            report.findings.push_back(
                {file, 0, "open",
                 fmt::format("{}: {} after a close of {}", bars.days[bar].iso(), bars.open[bar],
                             bars.close[bar - 1]),
                 "a jump that looks like a split, and actions.csv has none", "kept as it is"});
    }
}

std::vector<fs::path> barFiles(const fs::path& folder)
{
    std::vector<fs::path> files;
    std::error_code fault;
    for (const auto& entry : fs::directory_iterator(folder / "bars" / "daily", fault))
        if (entry.path().extension() == ".csv")
            files.push_back(entry.path());
    std::ranges::sort(files);
    return files;
}

void readBars(const std::vector<fs::path>& files, Records& records, IntakeReport& report,
              const Progress& progress)
{
    constexpr std::array<std::string_view, 5> required{"date", "open", "high", "low", "close"};
    std::vector<IntakeReport> reports(files.size());
    std::vector<market::Bars> bars(files.size());
    std::atomic<std::size_t> done = 0;
    tbb::parallel_for(std::size_t{0}, files.size(), [&](std::size_t i) {
        if (progress.stopRequested())
            throw Stopped{};
        const std::string text = readFile(files[i]);
        const std::string name = "bars/daily/" + files[i].filename().string();
        Rows rows(name, text, required, reports[i]);
        bars[i].reserve(text.size() / 40);
        while (rows.next())
            takeBar(rows, bars[i]);
        order(bars[i], name, reports[i]);
        progress.report(static_cast<double>(++done) / static_cast<double>(files.size()),
                        "taking in prices");
    });
    for (std::size_t i = 0; i < files.size(); ++i) {
        const std::string symbol = files[i].stem().string();
        const std::string name = "bars/daily/" + files[i].filename().string();
        auto found = records.find(symbol);
        if (found == records.end()) {
            reports[i].findings.push_back({name, 0, "", symbol,
                                           "instruments.csv has no such symbol",
                                           "kept as a share of which nothing else is known"});
            found = records.try_emplace(symbol).first;
            found->second.instrument.symbol = symbol;
        }
        found->second.bars = std::move(bars[i]);
        noteJumps(found->second, name, reports[i]);
        report.files += reports[i].files;
        report.rows += reports[i].rows;
        report.rowsLeftOut += reports[i].rowsLeftOut;
        std::ranges::move(reports[i].findings, std::back_inserter(report.findings));
    }
}

} // namespace

Result<Intake> readDataset(const fs::path& folder, const Progress& progress)
{
    const std::vector<fs::path> files = barFiles(folder);
    if (files.empty())
        return LocatedError{
            {},
            fmt::format("{} holds no prices: there is no file bars/daily/*.csv", folder.string()),
            "choose a folder in the form of docs/dataset.md"};
    IntakeReport report;
    Records records;
    const market::MarketDescription description = readDescription(folder, report);
    constexpr std::array<std::string_view, 1> symbol{"symbol"};
    constexpr std::array<std::string_view, 4> action{"symbol", "ex_date", "kind", "value"};
    constexpr std::array<std::string_view, 6> statement{"symbol",   "period_end", "period",
                                                        "known_on", "item",       "value"};
    constexpr std::array<std::string_view, 3> shares{"symbol", "date", "outstanding"};
    readTable(folder, "instruments.csv", symbol, report, records, takeInstrument);
    readTable(folder, "actions.csv", action, report, records, takeAction);
    readTable(folder, "statements.csv", statement, report, records, takeStatement);
    readTable(folder, "shares.csv", shares, report, records, takeShareCount);
    for (auto& [name, record] : records) {
        std::ranges::sort(record.splits, {}, &market::Split::exDate);
        std::ranges::sort(record.dividends, {}, &market::Dividend::exDate);
        std::ranges::sort(record.shares, {}, &market::ShareCount::date);
    }
    readBars(files, records, report, progress);

    std::vector<InstrumentRecord> list;
    bool hasBars = false;
    for (auto& [name, record] : records) {
        hasBars = hasBars || record.bars.size() > 0;
        list.push_back(std::move(record));
    }
    if (!hasBars)
        return LocatedError{{},
                            fmt::format("no bar of {} could be taken", folder.string()),
                            report.findings.empty()
                                ? "its files are empty"
                                : fmt::format("the first fault: {} line {}: {}",
                                              report.findings[0].file, report.findings[0].line,
                                              report.findings[0].why)};
    return Intake{std::make_shared<const market::Market>(description, std::move(list)),
                  std::move(report)};
}

} // namespace sieve::intake
