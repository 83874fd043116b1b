#include "core/intake/source_intake.h"

#include "core/base/parallel.h"
#include "core/intake/bar_rules.h"
#include "core/intake/bar_spool.h"
#include "core/intake/filings.h"
#include "core/intake/news.h"
#include "core/intake/records.h"
#include "core/intake/report_times.h"
#include "core/intake/rows.h"
#include "core/intake/source.h"
#include "core/intake/tables.h"
#include "core/storage/market_file.h"

#include <algorithm>
#include <atomic>
#include <fmt/format.h>
#include <functional>
#include <future>
#include <limits>
#include <map>
#include <memory>
#include <mutex>
#include <tbb/concurrent_queue.h>
#include <tbb/enumerable_thread_specific.h>
#include <tbb/info.h>
#include <tbb/parallel_pipeline.h>

namespace sieve::intake {

namespace {

namespace fs = std::filesystem;

/// Bars of files in which symbols stand mixed, sorted by symbol; each reading thread has its own.
class Spools {
public:
    explicit Spools(fs::path place) : place_(std::move(place)) {}

    BarSpool& mine()
    {
        auto& own = spools_.local();
        if (!own) {
            constexpr std::size_t mostInMemory = 3'000'000; // bars a thread: about 200 MB
            own = std::make_unique<BarSpool>(fmt::format("{}-{}", place_.string(), number_++),
                                             mostInMemory);
        }
        return *own;
    }
    template <class Visit> void each(Visit visit) const
    {
        for (const auto& own : spools_)
            visit(*own);
    }

private:
    fs::path place_; ///< of their files; each adds a number
    std::atomic<int> number_ = 0;
    tbb::enumerable_thread_specific<std::unique_ptr<BarSpool>> spools_;
};

/// Tells a fraction of the whole that grows by itself as parts are done.
class Advance {
public:
    Advance(const Progress& progress, double from, double to, std::size_t parts,
            std::string_view what)
        : progress_(progress), from_(from), to_(to), parts_(std::max<std::size_t>(parts, 1)),
          what_(what)
    {
    }
    void operator()()
    {
        if (progress_.stopRequested())
            throw Stopped{};
        const double done = static_cast<double>(++done_) / static_cast<double>(parts_);
        progress_.report(from_ + (to_ - from_) * done, what_);
    }

private:
    const Progress& progress_;
    double from_;
    double to_;
    std::size_t parts_;
    std::string_view what_;
    std::atomic<std::size_t> done_ = 0;
};

/// One intake from its source to the market's file.
class SourceIntake {
public:
    SourceIntake(const SourceToTake& request, const Progress& progress)
        : request_(request), source_(request.source), former_(request.former), progress_(progress),
          daily_(request.into / "daily-spool"), minutes_(request.into / "minute-spool")
    {
        if (former_)
            records_ = Records(*former_);
    }

    Result<TakenBars> run()
    {
        const market::MarketDescription formerDescription = records_.description;
        files_ = barFilesOf(source_, request_.mapping, report_, progress_);
        if (source_.form == Source::Form::Dataset)
            readListings(source_.path, records_, report_);
        else if (records_.description.name.empty())
            records_.description.name = tableName(fs::absolute(request_.name).lexically_normal());
        spoolMixedFiles();
        addUnlisted();
        records_.finish();
        noteBenchmark();
        noteCurrencies();
        findFilesByInstrument();
        if (source_.form == Source::Form::Dataset)
            readActions(source_.path, records_, report_, progress_);
        // What is known of companies is read while their bars are: neither needs the other.
        std::future<IntakeReport> facts =
            std::async(std::launch::async, [this, splits = splitsOf(records_)] {
                IntakeReport report;
                if (source_.form == Source::Form::Dataset) {
                    readFacts(source_.path, records_, report, progress_);
                    readNews(source_.path, records_, report, progress_);
                    readFilings(source_.path, records_, splits, report, progress_);
                }
                return report;
            });
        writeBars();
        report_.add(facts.get());
        report_.finish();
        if (bars_ == 0)
            return nothing(fmt::format("no bar of {} could be taken", request_.name.string()));
        if (former_ && report_.rows <= report_.rowsLeftOut &&
            records_.description == formerDescription)
            return nothing(fmt::format("nothing of {} could be taken", request_.name.string()));
        inParallel(records_.size(), [this](std::size_t i) {
            knowAfterClose(records_[i]);
            market::sortRows(records_[i]);
        });
        writer_->finish(records_.description, records_.all());
        return TakenBars{std::move(report_), bars_};
    }

private:
    /// What one instrument's files came to.
    struct Made {
        storage::BarBlock daily;
        std::vector<double> adjustedCloses; ///< beside the daily bars, or none
        storage::BarBlock minutes;
        IntakeReport report;
    };

    void noteBenchmark()
    {
        const std::string& benchmark = records_.description.benchmark;
        if (!benchmark.empty() && !records_.find(benchmark))
            report_.add({"dataset.toml", 0, "benchmark", benchmark, "no instrument has this symbol",
                         "there is no benchmark"});
    }

    /// Money of stocks in several currencies is compared by exchange rates, where there are any.
    void noteCurrencies()
    {
        std::map<std::string, std::size_t> told;
        for (const market::InstrumentRecord& record : records_.all())
            if (market::hasCurrency(record.instrument))
                ++told[record.instrument.currency];
        const market::MarketDescription& description = records_.description;
        const std::string own = market::commonCurrency(description.currency, told);
        for (const auto& [currency, count] : told) {
            const bool hasRates =
                std::ranges::find(description.currencies, currency, &market::Currency::name) !=
                description.currencies.end();
            if (currency != own && !hasRates)
                report_.add({"instruments.csv", 0, "currency", shown(currency),
                             fmt::format("{} of {} instruments, and currency_rates.csv has no rate "
                                         "of it in {}",
                                         count, records_.size(), own),
                             "kept; their money is left out where it meets that of others"});
        }
    }

    LocatedError nothing(std::string problem) const
    {
        if (!former_ && files_.empty() && report_.findings.empty())
            return {{},
                    fmt::format("{} holds no prices: there is no file bars/daily/*.csv",
                                request_.name.string()),
                    "choose a folder in the form of docs/dataset.md"};
        auto first = std::ranges::find_if(report_.findings,
                                          [](const Finding& finding) { return finding.line > 0; });
        if (first == report_.findings.end())
            first = report_.findings.begin();
        if (first == report_.findings.end())
            return {{}, std::move(problem), "its files are empty"};
        return {{},
                std::move(problem),
                first->line > 0 ? fmt::format("the first fault: {} line {}: {}", first->file,
                                              first->line, first->why)
                                : fmt::format("{}: {}", first->file, first->why)};
    }

    Spools& spoolsOf(BarScale scale) { return scale == BarScale::Daily ? daily_ : minutes_; }

    void spoolMixedFiles()
    {
        std::vector<const BarFile*> mixed;
        for (const BarFile& file : files_)
            if (file.hasSymbols())
                mixed.push_back(&file);
        Advance advance(progress_, 0.0, 0.4, mixed.size(), "reading prices");
        std::mutex mutex;
        inParallel(mixed.size(), [&](std::size_t i) {
            IntakeReport report;
            BarSpool& spool = spoolsOf(mixed[i]->scale).mine();
            readMixedBars(
                *mixed[i], report, progress_, scratch_.local().memory,
                [&](std::string_view symbol, const ReadBar& bar,
                    std::span<const ReadAction> actions) { spool.add(symbol, bar, actions); });
            advance();
            const std::lock_guard lock(mutex);
            report_.add(std::move(report));
        });
    }

    /// Instruments that only bars tell of.
    void addUnlisted()
    {
        const bool isDataset = source_.form == Source::Form::Dataset;
        const auto meet = [&](const std::string& symbol, const std::string& file) {
            // Under a symbol that was given up, an instrument is listed by its newest one.
            for (const std::string& newest : records_.symbols.wasGivenUp(symbol)
                                                 ? records_.symbols.thoseWhoGaveUp(symbol)
                                                 : std::vector<std::string>{symbol}) {
                if (records_.find(newest))
                    continue;
                records_.add(newest);
                if (isDataset)
                    report_.add({file, 0, "", shown(newest), "instruments.csv has no such symbol",
                                 "kept as a share of which nothing else is known"});
            }
        };
        for (const BarFile& file : files_)
            if (!file.hasSymbols())
                meet(file.symbol(), file.name);
        for (const Spools* spools : {&daily_, &minutes_})
            spools->each([&](const BarSpool& spool) {
                for (const std::string& symbol : spool.symbols())
                    meet(symbol, spools == &daily_ ? "bars/daily" : "bars/minute");
            });
    }

    /// Which files and spooled symbols an instrument's bars may stand in: its own symbol's and
    /// those that it bore.
    void findFilesByInstrument()
    {
        for (const BarFile& file : files_)
            if (!file.hasSymbols())
                filesBySymbol_[file.symbol()].push_back(&file);
    }

    void writeBars()
    {
        writer_ = std::make_unique<storage::MarketFileWriter>(request_.into);
        Advance advance(progress_, 0.4, 1.0, records_.size(), "taking in prices");
        std::size_t next = 0;
        const auto tokens = static_cast<std::size_t>(tbb::info::default_concurrency()) * 4;
        using Instrument = std::size_t;
        using MadePtr = std::shared_ptr<Made>;
        tbb::parallel_pipeline(
            tokens,
            tbb::make_filter<void, Instrument>(tbb::filter_mode::serial_in_order,
                                               [&](tbb::flow_control& flow) -> Instrument {
                                                   if (next == records_.size())
                                                       flow.stop();
                                                   return next++;
                                               }) &
                tbb::make_filter<Instrument, MadePtr>(tbb::filter_mode::parallel,
                                                      [&](Instrument at) {
                                                          advance();
                                                          return std::make_shared<Made>(make(at));
                                                      }) &
                tbb::make_filter<MadePtr, void>(
                    tbb::filter_mode::serial_in_order, [&](const MadePtr& made) {
                        writer_->add(made->daily, made->minutes, made->adjustedCloses);
                        spare_.push(std::move(made->daily.bytes));
                        if (made->minutes.bars > 0)
                            spare_.push(std::move(made->minutes.bytes));
                        bars_ += made->daily.bars;
                        report_.add(std::move(made->report));
                    }));
    }

    Made make(std::size_t at)
    {
        Made made;
        made.daily = block(at, BarScale::Daily, made);
        made.minutes = block(at, BarScale::Minute, made);
        return made;
    }

    storage::BarBlock block(std::size_t at, BarScale scale, Made& made)
    {
        market::InstrumentRecord& record = records_[at];
        IntakeReport& report = made.report;
        const std::optional<std::size_t> former = records_.formerPlace(at);
        std::vector<ReadBar>& bars = scratch_.local().bars;
        std::vector<ReadAction> actions;
        bars.clear();
        gather(record.instrument.symbol, at, scale, bars, actions, report);
        for (const market::FormerSymbol& each : record.instrument.formerSymbols)
            gather(each.symbol, at, scale, bars, actions, report);
        if (bars.empty()) {
            if (!former)
                return storage::barBlock(market::BarsView());
            if (scale == BarScale::Minute)
                return storage::barBlock(former_->minuteBars(*former));
            const auto adjusted = request_.formerAdjusted.of(*former);
            made.adjustedCloses.assign(adjusted.begin(), adjusted.end());
            return storage::barBlock(former_->bars(*former));
        }
        if (scale == BarScale::Daily)
            passOverAdjusted(bars);
        if (former)
            prependFormer(*former, scale, record, bars);
        const BarContext context{record, exchangeOf(record), scale, files_, request_.takenOn};
        settleBars(bars, context, report);
        if (scale == BarScale::Daily) {
            addStated(record, actions);
            addImplied(record, bars, made.adjustedCloses);
        }
        noteOddBars(bars, context, report);
        std::string memory;
        spare_.try_pop(memory);
        return storage::barBlock(
            bars.size(), [&](std::size_t i) -> const storage::StampedBar& { return bars[i].bar; },
            std::move(memory));
    }

    const market::Exchange* exchangeOf(const market::InstrumentRecord& record) const
    {
        const auto& exchanges = records_.description.exchanges;
        const auto found =
            std::ranges::find(exchanges, record.instrument.exchange, &market::Exchange::name);
        return found == exchanges.end() ? nullptr : &*found;
    }

    /// Adds the bars that stand under a symbol on days on which this instrument bore it.
    void gather(const std::string& symbol, std::size_t at, BarScale scale,
                std::vector<ReadBar>& bars, std::vector<ReadAction>& actions, IntakeReport& report)
    {
        const bool mayBeOthers = records_.symbols.wasGivenUp(symbol);
        const auto isOthers = [&](Day day) {
            return records_.find(symbol, day) != static_cast<std::uint32_t>(at);
        };
        const auto keepOwn = [&](std::size_t from, std::size_t fromAction) {
            if (!mayBeOthers)
                return;
            bars.erase(std::remove_if(bars.begin() + static_cast<std::ptrdiff_t>(from), bars.end(),
                                      [&](const ReadBar& read) {
                                          return isOthers(dayOf(read.bar.stamp, scale));
                                      }),
                       bars.end());
            actions.erase(std::remove_if(
                              actions.begin() + static_cast<std::ptrdiff_t>(fromAction),
                              actions.end(),
                              [&](const ReadAction& read) { return isOthers(read.action.exDate); }),
                          actions.end());
        };
        const std::size_t before = bars.size();
        const std::size_t actionsBefore = actions.size();
        spoolsOf(scale).each([&](const BarSpool& spool) {
            spool.append(symbol, bars);
            const auto own = spool.actionsOf(symbol);
            actions.insert(actions.end(), own.begin(), own.end());
        });
        keepOwn(before, actionsBefore);
        const auto found = filesBySymbol_.find(symbol);
        if (found == filesBySymbol_.end())
            return;
        for (const BarFile* file : found->second) {
            if (file->scale != scale)
                continue;
            IntakeReport own;
            const std::size_t from = bars.size();
            const std::size_t fromAction = actions.size();
            readBars(*file, own, progress_, scratch_.local().memory, bars, actions);
            keepOwn(from, fromAction);
            // A file that two instruments read is told of once, by the one that has its symbol now.
            constexpr Day always = Day::fromSerial(std::numeric_limits<std::int32_t>::max());
            if (mayBeOthers && records_.find(symbol, always) != static_cast<std::uint32_t>(at))
                own = {};
            report.add(std::move(own));
        }
    }

    static Day dayOf(std::int32_t stamp, BarScale scale)
    {
        return scale == BarScale::Daily ? Day::fromSerial(stamp) : Minute::fromSerial(stamp).day();
    }

    void prependFormer(std::size_t former, BarScale scale, market::InstrumentRecord& record,
                       std::vector<ReadBar>& bars) const
    {
        std::vector<ReadBar> all;
        const auto add = [&](const auto& view, auto stamps) {
            all.reserve(view.size() + bars.size());
            for (std::size_t i = 0; i < view.size(); ++i)
                all.push_back({{stamps[i].serial(), view.open[i], view.high[i], view.low[i],
                                view.close[i], view.volume[i]},
                               missing,
                               0,
                               0});
        };
        if (scale == BarScale::Daily)
            add(former_->bars(former), former_->bars(former).days);
        else
            add(former_->minuteBars(former), former_->minuteBars(former).minutes);
        const auto adjusted = request_.formerAdjusted.of(former);
        if (scale == BarScale::Daily && adjusted.size() == all.size() && !all.empty()) {
            for (std::size_t i = 0; i < all.size(); ++i)
                all[i].adjustedClose = adjusted[i];
            for (const market::Action& action : impliedActions(all)) // implied anew below
                std::erase(record.actions, action);
            rebase(all, bars);
        }
        all.insert(all.end(), bars.begin(), bars.end());
        bars = std::move(all);
    }

    /// A file that tells dividends and splits itself is not asked what its adjusted closes imply;
    /// nor is a dataset, which has actions.csv.
    void passOverAdjusted(std::vector<ReadBar>& bars) const
    {
        const auto tells = [](const BarFile& file) {
            return file.hasColumn(PriceColumn::Dividend) && file.hasColumn(PriceColumn::Split);
        };
        for (ReadBar& bar : bars)
            if (source_.form == Source::Form::Dataset || tells(files_[bar.file]))
                bar.adjustedClose = missing;
    }

    /// What columns beside the prices tell goes before what was known of the same day, but not
    /// before actions.csv of the same dataset.
    void addStated(market::InstrumentRecord& record, std::vector<ReadAction>& actions) const
    {
        if (actions.empty())
            return;
        std::ranges::sort(actions, {}, [](const ReadAction& read) {
            return std::tuple(read.action.exDate, read.action.kind, read.file, read.line);
        });
        const bool isDataset = source_.form == Source::Form::Dataset;
        std::vector<market::Action> known = std::move(record.actions);
        std::vector<market::Action> stated;
        for (const ReadAction& read : actions)
            if (!(isDataset && isOnDayOf(known, read.action)) && !isOnDayOf(stated, read.action))
                stated.push_back(read.action);
        std::erase_if(known, [&](const market::Action& each) { return isOnDayOf(stated, each); });
        record.actions = std::move(known);
        record.actions.insert(record.actions.end(), stated.begin(), stated.end());
        market::sortRows(record);
    }

    static bool isOnDayOf(const std::vector<market::Action>& actions, const market::Action& action)
    {
        return std::ranges::any_of(actions, [&](const market::Action& each) {
            return each.exDate == action.exDate && each.kind == action.kind;
        });
    }

    /// Bare prices may tell no actions; their adjusted closes imply some. These are kept with the
    /// market, as an update needs them.
    static void addImplied(market::InstrumentRecord& record, const std::vector<ReadBar>& bars,
                           std::vector<double>& adjustedCloses)
    {
        if (std::ranges::all_of(bars,
                                [](const ReadBar& read) { return isMissing(read.adjustedClose); }))
            return;
        for (const ReadBar& bar : bars)
            adjustedCloses.push_back(bar.adjustedClose);
        const std::vector<market::Action> stated = record.actions;
        for (const market::Action& action : impliedActions(bars))
            if (!isOnDayOf(stated, action))
                record.actions.push_back(action);
        market::sortRows(record);
    }

    const SourceToTake& request_;
    Source source_;
    market::MarketPtr former_;
    const Progress& progress_;
    IntakeReport report_;
    Records records_;
    std::vector<BarFile> files_;
    Spools daily_;
    Spools minutes_;
    struct Scratch {
        ReadBuffer memory;
        std::vector<ReadBar> bars;
    };
    tbb::enumerable_thread_specific<Scratch> scratch_;
    tbb::concurrent_queue<std::string> spare_; ///< memory of blocks that have been written
    std::map<std::string, std::vector<const BarFile*>, std::less<>> filesBySymbol_;
    std::unique_ptr<storage::MarketFileWriter> writer_;
    std::uint64_t bars_ = 0;
};

} // namespace

Result<TakenBars> takeSource(const SourceToTake& request, const Progress& progress)
{
    return SourceIntake(request, progress).run();
}

} // namespace sieve::intake
