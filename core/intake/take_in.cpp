#include "core/intake/take_in.h"

#include "core/intake/kept_files.h"
#include "core/intake/market_folder.h"
#include "core/intake/source.h"
#include "core/intake/source_intake.h"
#include "core/storage/file_aside.h"
#include "core/storage/market_file.h"

#include <algorithm>
#include <charconv>
#include <chrono>
#include <fmt/format.h>
#include <system_error>
#include <vector>

namespace sieve::intake {

namespace {

namespace fs = std::filesystem;
using Sources = std::vector<TakenSource>;

fs::path baseOf(const fs::path& market)
{
    return market / "base";
}

fs::path updatesOf(const fs::path& market)
{
    return market / "updates";
}

Day today()
{
    const auto now = std::chrono::floor<std::chrono::days>(std::chrono::system_clock::now());
    return Day::fromSerial(static_cast<std::int32_t>(now.time_since_epoch().count()));
}

/// A second name of the file; a copy where the file system has none.
void linkOrCopy(const fs::path& file, const fs::path& name)
{
    std::error_code fault;
    fs::create_hard_link(file, name, fault);
    if (fault)
        fs::copy_file(file, name);
}

/// Makes a market of its sources, one after the other, in a folder beside it. Until `putInPlace`
/// nothing of the market that stands is touched.
class Making {
public:
    Making(const fs::path& market, const Progress& progress)
        : market_(market), folder_(market / "making"), progress_(progress)
    {
        fs::remove_all(folder_); // of a program that was killed
        fs::create_directories(folder_);
    }
    ~Making()
    {
        std::error_code ignored;
        fs::remove_all(folder_, ignored);
    }
    Making(const Making&) = delete;
    Making& operator=(const Making&) = delete;

    const Sources& sources() const { return sources_; }

    /// Begins with the market that lies in a folder and was made from the sources.
    /// Requires: every byte of it was held to its checksum, for what is damaged would be written
    /// again with a new one.
    void beginWith(const fs::path& folder, Sources sources)
    {
        place_ = folder;
        sources_ = std::move(sources);
    }

    /// Adds one source, whose files lie at `files`.
    Result<IntakeReport> add(TakenSource source, const Source& files)
    {
        if (sources_.size() == 1)
            keepBase();
        if (!source.takenOn)
            source.takenOn = today();
        SourceToTake request{files, source.path,     source.mapping, nullptr,
                             {},    *source.takenOn, folder_};
        if (source.isUpdate) {
            Result<market::MarketPtr> former = storage::openMarket(place_);
            if (!former)
                return former.error();
            request.former = *std::move(former);
            request.formerAdjusted = storage::AdjustedCloses(place_);
        }
        Result<TakenBars> taken = takeSource(request, progress_);
        if (!taken)
            return taken.error();
        source.bars = taken->bars;
        source.market = storage::identityOf(folder_);
        place_ = folder_;
        // To take the same update in twice in a row changes nothing: it is kept once.
        if (!source.checksum.empty() && sources_.back().checksum == source.checksum &&
            sources_.back().mapping == source.mapping)
            sources_.pop_back();
        sources_.push_back(std::move(source));
        return std::move(taken->report);
    }

    /// From its first step on the new market holds: whatever of the later ones is not done is made
    /// up for at the next opening.
    void putInPlace(const IntakeReport& report)
    {
        if (fs::exists(storage::marketFile(baseOf(folder_)))) {
            fs::create_directories(baseOf(market_));
            fs::rename(storage::marketFile(baseOf(folder_)), storage::marketFile(baseOf(market_)));
            storage::makeDurable(baseOf(market_));
        }
        writeSources(market_, sources_);
        writeReport(market_, report);
        if (place_ == folder_)
            fs::rename(storage::marketFile(folder_), storage::marketFile(market_));
        storage::makeDurable(market_);
        setLookedThrough(market_); // every byte was summed up while it was written
        removeUnused();
    }

private:
    /// The market before its first update, which then needs its source no longer.
    void keepBase()
    {
        if (place_ == baseOf(market_))
            return;
        fs::create_directories(baseOf(folder_));
        linkOrCopy(storage::marketFile(place_), storage::marketFile(baseOf(folder_)));
        sources_.front().market = storage::identityOf(baseOf(folder_));
    }

    void removeUnused() const
    {
        std::error_code ignored;
        if (sources_.size() == 1)
            fs::remove_all(baseOf(market_), ignored);
        for (const auto& entry : fs::directory_iterator(updatesOf(market_), ignored)) {
            const auto isKept = [&](const TakenSource& source) {
                return source.isUpdate && market_ / source.kept == entry.path();
            };
            if (std::ranges::none_of(sources_, isKept))
                fs::remove_all(entry.path(), ignored);
        }
    }

    const fs::path market_;
    const fs::path folder_;
    const Progress& progress_;
    Sources sources_;
    fs::path place_; ///< the folder of the market file so far
};

LocatedError busy(const fs::path& market)
{
    return {{},
            fmt::format("another program is writing the market in {}", market.string()),
            "wait until it is done"};
}

/// The first number of which no update's folder has the name.
fs::path newUpdateFolder(const fs::path& market)
{
    int last = 0;
    std::error_code ignored;
    for (const auto& entry : fs::directory_iterator(updatesOf(market), ignored)) {
        const std::string name = entry.path().filename().string();
        int number = 0;
        std::from_chars(name.data(), name.data() + name.size(), number);
        last = std::max(last, number);
    }
    return updatesOf(market) / fmt::format("{:04}", last + 1);
}

/// Keeps the files of an update in the market's folder; they go again when it is not taken in.
class KeptUpdate {
public:
    KeptUpdate(const Source& source, const fs::path& market, const Progress& progress)
        : folder_(newUpdateFolder(market)), source_(kept(source, progress)),
          checksum_(checksumOfFiles(folder_))
    {
    }
    ~KeptUpdate()
    {
        std::error_code ignored;
        if (!isTaken_)
            fs::remove_all(folder_, ignored);
    }
    KeptUpdate(const KeptUpdate&) = delete;
    KeptUpdate& operator=(const KeptUpdate&) = delete;

    const Source& source() const { return source_; }
    void describe(TakenSource& update) const
    {
        update.kept = (folder_.parent_path().filename() / folder_.filename()).string();
        update.checksum = checksum_;
    }
    void setTaken() { isTaken_ = true; }

private:
    Source kept(const Source& source, const Progress& progress)
    {
        try {
            return keepFiles(source, folder_, progress);
        } catch (...) {
            std::error_code ignored;
            fs::remove_all(folder_, ignored);
            throw;
        }
    }

    fs::path folder_;
    Source source_;
    std::string checksum_;
    bool isTaken_ = false;
};

/// The files of an update that is in a market.
Result<Source> filesOfUpdate(const TakenSource& update, const fs::path& market)
{
    const auto gone = [&](std::string_view what) {
        return LocatedError{{},
                            fmt::format("the update from {}, which is in the market, {}",
                                        update.path.string(), what),
                            "the market is not made again without it"};
    };
    if (update.kept.empty()) { // former versions did not keep them
        Result<Source> source = sourceAt(update.path);
        return source && fingerprintOf(*source) == update.fingerprint ? source
                                                                      : gone("is no longer there");
    }
    const fs::path folder = market / update.kept;
    if (!fs::is_directory(folder) || checksumOfFiles(folder) != update.checksum)
        return gone("is damaged where its files are kept");
    const fs::path single = folder / update.path.filename(); // a source may be one file
    return sourceAt(fs::is_regular_file(single) && filesOf({folder}).size() == 1 ? single : folder);
}

/// Adds the updates of a market again.
Result<IntakeReport> addUpdates(Making& making, std::span<const TakenSource> updates,
                                const fs::path& market, IntakeReport report)
{
    for (const TakenSource& update : updates) {
        const Result<Source> files = filesOfUpdate(update, market);
        if (!files)
            return files.error();
        Result<IntakeReport> added = making.add(update, *files);
        if (!added)
            return added;
        report = *std::move(added);
    }
    return report;
}

/// Adds the source that a market begins with as it is now.
Result<IntakeReport> addBase(Making& making, TakenSource base)
{
    const Result<Source> source = sourceAt(base.path);
    if (!source)
        return source.error();
    if (const std::string fingerprint = fingerprintOf(*source); fingerprint != base.fingerprint) {
        base.fingerprint = fingerprint;
        base.takenOn = std::nullopt; // today
    }
    base.files = filesOf(*source).size();
    return making.add(std::move(base), *source);
}

LocatedError holdsLess(const TakenSource& before, const TakenSource& now)
{
    const bool isFiles = now.files < before.files;
    return {{},
            fmt::format("{} holds less than the market was made from: {} of {} {}",
                        before.path.string(), isFiles ? now.files : now.bars,
                        isFiles ? before.files : before.bars, isFiles ? "files" : "daily bars"),
            "take it in again if that is meant"};
}

/// Makes the market of a folder again from its sources. `isBaseChanged`: the first of them is read
/// again even where the market keeps what it was.
/// Errors: a source is not there, damaged or holds less than it did; all of takeSource.
Result<IntakeReport> makeAgain(const fs::path& market, const Sources& sources, bool isBaseChanged,
                               const Progress& progress)
{
    if (sources.empty())
        return LocatedError{
            {},
            fmt::format("nothing is known of what {} was made from", market.string()),
            "take a dataset in"};
    Making making(market, progress);
    IntakeReport report;
    const TakenSource& base = sources.front();
    const bool isKept = !isBaseChanged && !base.market.empty() &&
                        storage::identityOf(baseOf(market)) == base.market &&
                        storage::verifyMarket(baseOf(market), progress);
    if (isKept) {
        making.beginWith(baseOf(market), {base});
    } else {
        Result<IntakeReport> added = addBase(making, base);
        if (!added)
            return added;
        const TakenSource& now = making.sources().front();
        if (now.files < base.files || now.bars < base.bars)
            return holdsLess(base, now);
        report = *std::move(added);
    }
    Result<IntakeReport> all =
        addUpdates(making, std::span(sources).subspan(1), market, std::move(report));
    if (all)
        making.putInPlace(*all);
    return all;
}

/// Whether the folder's market is the one that its sources make. Former versions did not tell.
bool isOfSources(const fs::path& market, const Sources& sources)
{
    return sources.empty() || sources.back().market.empty() ||
           sources.back().market == storage::identityOf(market);
}

Result<Intake> opened(const fs::path& market, std::string standing = {})
{
    Result<market::MarketPtr> opened = storage::openMarket(market);
    if (!opened)
        return opened.error();
    Result<IntakeReport> report = reportOf(market);
    return Intake{*std::move(opened), report ? *std::move(report) : IntakeReport(),
                  storage::identityOf(market), std::move(standing)};
}

/// Opens the market after `make`. Where that fails, the market stands as it was: if it can be
/// opened it is, and tells why.
template <class Make> Result<Intake> openedAfter(const fs::path& market, Make make)
{
    std::optional<LocatedError> fault;
    try {
        const Result<IntakeReport> made = make();
        if (!made)
            fault = made.error();
    } catch (const std::system_error& error) {
        fault = LocatedError{{}, error.what(), "the disk may be full or not be writable"};
    }
    if (!fault)
        return opened(market);
    if (Result<Intake> former = opened(market, fault->problem + ": " + fault->remedy))
        return former;
    return *fault;
}

/// What was said once of how prices are written holds until it is said anew.
std::optional<PriceLayout> lastMapping(const Sources& sources)
{
    for (auto source = sources.rbegin(); source != sources.rend(); ++source)
        if (source->mapping)
            return source->mapping;
    return std::nullopt;
}

Result<IntakeReport> takeUpdate(const TakeIn& request, const Source& source, TakenSource update,
                                const Progress& progress)
{
    Sources sources = sourcesOf(request.market);
    const Result<std::uint64_t> sound = storage::verifyMarket(request.market, progress);
    if (!sound && sources.empty())
        return sound.error();
    if (!sound || !isOfSources(request.market, sources)) {
        Result<IntakeReport> again = makeAgain(request.market, sources, false, progress);
        if (!again)
            return again;
        sources = sourcesOf(request.market);
    }
    if (!update.mapping && source.form == Source::Form::Prices)
        update.mapping = lastMapping(sources);
    if (sources.empty()) // made by other means: the market itself is all that is known of it
        sources.push_back({});
    Making making(request.market, progress);
    making.beginWith(request.market, std::move(sources));
    KeptUpdate kept(source, request.market, progress);
    kept.describe(update);
    Result<IntakeReport> report = making.add(std::move(update), kept.source());
    if (!report)
        return report;
    kept.setTaken();
    making.putInPlace(*report);
    return report;
}

Result<IntakeReport> takeBase(const TakeIn& request, const Source& source, TakenSource base,
                              const Progress& progress)
{
    const Sources sources = sourcesOf(request.market);
    const bool isKnown = !sources.empty() && sources.front().path == base.path;
    if (!base.mapping && source.form == Source::Form::Prices && !sources.empty())
        base.mapping = sources.front().mapping;
    Making making(request.market, progress);
    Result<IntakeReport> report = addBase(making, std::move(base));
    if (!report)
        return report;
    if (isKnown) { // the same source taken in again: its updates stay
        const auto all = addUpdates(making, std::span(sources).subspan(1), request.market, *report);
        if (!all)
            return all;
    }
    making.putInPlace(*report);
    return report;
}

Result<IntakeReport> takeInLocked(const TakeIn& request, const Progress& progress)
{
    const Result<Source> source = sourceAt(request.source);
    if (!source)
        return source.error();
    TakenSource taken;
    taken.path = fs::absolute(request.source).lexically_normal();
    taken.isUpdate = request.isUpdate;
    taken.mapping = request.mapping;
    return request.isUpdate ? takeUpdate(request, *source, std::move(taken), progress)
                            : takeBase(request, *source, std::move(taken), progress);
}

} // namespace

Result<IntakeReport> takeIn(const TakeIn& request, const Progress& progress)
{
    const FolderLock lock(request.market);
    return lock.isHeld() ? takeInLocked(request, progress) : busy(request.market);
}

Result<IntakeReport> reportOf(const fs::path& market)
{
    const fs::path path = market / "report.json";
    if (!fs::exists(path))
        return LocatedError{
            {}, fmt::format("{} has no report", market.string()), "take a dataset in"};
    return reportFromJson(storage::readWhole(path));
}

Result<Intake> openSource(const fs::path& source, const fs::path& market, const Progress& progress)
{
    const fs::path path = fs::absolute(source).lexically_normal();
    const Sources sources = sourcesOf(market);
    const Result<Source> base = sourceAt(path);
    if (sources.empty() || sources.front().path != path) { // another source: another market
        if (const Result<IntakeReport> report = takeIn({path, market}, progress); !report)
            return report.error();
        return opened(market);
    }
    const bool isSame = base && fingerprintOf(*base) == sources.front().fingerprint;
    if (isOfSources(market, sources) && (isSame || !base)) {
        const std::string standing = base ? "" : fmt::format("{} is not there", path.string());
        if (Result<Intake> intake = opened(market, standing))
            return intake;
    }
    return openedAfter(market, [&]() -> Result<IntakeReport> {
        const FolderLock lock(market);
        return lock.isHeld() ? makeAgain(market, sources, base && !isSame, progress) : busy(market);
    });
}

Result<Intake> openFolder(const fs::path& market, const Progress& progress)
{
    const Sources sources = sourcesOf(market);
    Result<Intake> intake = opened(market);
    if (intake && !isLookedThrough(market)) {
        if (const Result<std::uint64_t> bytes = storage::verifyMarket(market, progress); !bytes) {
            const Result<IntakeReport> again = makeAgain(market, progress);
            return again ? opened(market) : Result<Intake>(bytes.error());
        }
        setLookedThrough(market);
    }
    if (sources.empty() || (intake && isOfSources(market, sources)))
        return intake;
    return openedAfter(market, [&]() -> Result<IntakeReport> {
        const FolderLock lock(market);
        return lock.isHeld() ? makeAgain(market, sources, false, progress) : busy(market);
    });
}

Result<IntakeReport> makeAgain(const fs::path& market, const Progress& progress)
{
    const FolderLock lock(market);
    return lock.isHeld() ? makeAgain(market, sourcesOf(market), false, progress) : busy(market);
}

} // namespace sieve::intake
