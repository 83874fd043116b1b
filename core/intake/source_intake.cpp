#include "core/intake/source_intake.h"

#include "core/intake/bar_rules.h"
#include "core/intake/bar_spool.h"
#include "core/intake/filings.h"
#include "core/intake/news.h"
#include "core/intake/records.h"
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
#include <tbb/parallel_for.h>
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
        tbb::parallel_for(std::size_t{0}, records_.size(),
                          [this](std::size_t i) { market::sortRows(records_[i]); });
        writer_->finish(records_.description, records_.all());
        return TakenBars{std::move(report_), bars_};
    }

private:
    /// What one instrument's files came to.
    struct Made {
        storage::BarBlock daily;
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
        tbb::parallel_for(std::size_t{0}, mixed.size(), [&](std::size_t i) {
            IntakeReport report;
            BarSpool& spool = spoolsOf(mixed[i]->scale).mine();
            readMixedBars(
                *mixed[i], report, progress_, scratch_.local().memory,
                [&](std::string_view symbol, const ReadBar& bar) { spool.add(symbol, bar); });
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
            constexpr Day always = Day::fromSerial(std::numeric_limits<std::int32_t>::max());
            if (records_.find(symbol) || records_.find(symbol, always))
                return;
            records_.add(symbol);
            if (isDataset)
                report_.add({file, 0, "", shown(symbol), "instruments.csv has no such symbol",
                             "kept as a share of which nothing else is known"});
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
                tbb::make_filter<MadePtr, void>(tbb::filter_mode::serial_in_order,
                                                [&](const MadePtr& made) {
                                                    writer_->add(made->daily, made->minutes);
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
        made.daily = block(at, BarScale::Daily, made.report);
        made.minutes = block(at, BarScale::Minute, made.report);
        return made;
    }

    storage::BarBlock block(std::size_t at, BarScale scale, IntakeReport& report)
    {
        market::InstrumentRecord& record = records_[at];
        const std::optional<std::size_t> former = records_.formerPlace(at);
        std::vector<ReadBar>& bars = scratch_.local().bars;
        bars.clear();
        gather(record.instrument.symbol, at, scale, bars, report);
        for (const market::FormerSymbol& each : record.instrument.formerSymbols)
            gather(each.symbol, at, scale, bars, report);
        if (bars.empty()) {
            if (!former)
                return storage::barBlock(market::BarsView());
            return scale == BarScale::Daily ? storage::barBlock(former_->bars(*former))
                                            : storage::barBlock(former_->minuteBars(*former));
        }
        if (former)
            prependFormer(*former, scale, bars);
        const BarContext context{record, exchangeOf(record), scale, files_};
        if (scale == BarScale::Daily && source_.form == Source::Form::Prices)
            addImplied(record, bars);
        ruleBars(bars, context, report);
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
                std::vector<ReadBar>& bars, IntakeReport& report)
    {
        const bool mayBeOthers = records_.symbols.wasGivenUp(symbol);
        const auto isOwn = [&](const ReadBar& read) {
            if (!mayBeOthers)
                return true;
            const Day day = scale == BarScale::Daily ? Day::fromSerial(read.bar.stamp)
                                                     : Minute::fromSerial(read.bar.stamp).day();
            return records_.find(symbol, day) == static_cast<std::uint32_t>(at);
        };
        const auto keepOwn = [&](std::size_t from) {
            if (mayBeOthers)
                bars.erase(std::remove_if(bars.begin() + static_cast<std::ptrdiff_t>(from),
                                          bars.end(), std::not_fn(isOwn)),
                           bars.end());
        };
        const std::size_t before = bars.size();
        spoolsOf(scale).each([&](const BarSpool& spool) { spool.append(symbol, bars); });
        keepOwn(before);
        const auto found = filesBySymbol_.find(symbol);
        if (found == filesBySymbol_.end())
            return;
        for (const BarFile* file : found->second) {
            if (file->scale != scale)
                continue;
            IntakeReport own;
            const std::size_t from = bars.size();
            readBars(*file, own, progress_, scratch_.local().memory, bars);
            keepOwn(from);
            // A file that two instruments read is told of once, by the one that has its symbol now.
            constexpr Day always = Day::fromSerial(std::numeric_limits<std::int32_t>::max());
            if (mayBeOthers && records_.find(symbol, always) != static_cast<std::uint32_t>(at))
                own = {};
            report.add(std::move(own));
        }
    }

    void prependFormer(std::size_t former, BarScale scale, std::vector<ReadBar>& bars) const
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
        all.insert(all.end(), bars.begin(), bars.end());
        bars = std::move(all);
    }

    /// Bare prices tell no actions; their adjusted close may.
    static void addImplied(market::InstrumentRecord& record, std::vector<ReadBar>& bars)
    {
        if (std::ranges::none_of(
                bars, [](const ReadBar& read) { return !isMissing(read.adjustedClose); }))
            return;
        std::ranges::stable_sort(bars, {}, [](const ReadBar& read) { return read.bar.stamp; });
        for (const market::Action& action : impliedActions(bars))
            if (std::ranges::none_of(record.actions, [&](const market::Action& known) {
                    return known.exDate == action.exDate && known.kind == action.kind;
                }))
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
