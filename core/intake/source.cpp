#include "core/intake/source.h"

#include "core/intake/byte_source.h"

#include <algorithm>
#include <fmt/format.h>
#include <map>
#include <mutex>
#include <sys/stat.h>
#include <tbb/parallel_for.h>

namespace sieve::intake {

namespace {

namespace fs = std::filesystem;

/// The files below a folder, in the order of their names; none when it is not there.
std::vector<fs::path> filesIn(const fs::path& folder, bool isDeep)
{
    std::vector<fs::path> files;
    std::error_code fault;
    const auto take = [&](const fs::directory_entry& entry) {
        if (entry.is_regular_file(fault))
            files.push_back(entry.path());
    };
    if (isDeep)
        for (auto at = fs::recursive_directory_iterator(folder, fault);
             !fault && at != fs::recursive_directory_iterator(); at.increment(fault))
            take(*at);
    else
        for (auto at = fs::directory_iterator(folder, fault);
             !fault && at != fs::directory_iterator(); at.increment(fault))
            take(*at);
    std::ranges::sort(files);
    return files;
}

/// Layouts by header: the files of a folder mostly have the same one, which then is recognised
/// once.
class Layouts {
public:
    explicit Layouts(const std::optional<PriceLayout>& mapping) : mapping_(mapping) {}

    Result<PriceLayout> of(const fs::path& file)
    {
        if (mapping_)
            return *mapping_;
        constexpr std::size_t headerBytes = 1024;
        const std::string begin = sampleOf(file, headerBytes);
        const std::string header = begin.substr(0, begin.find('\n'));
        {
            const std::lock_guard lock(mutex_);
            if (const auto known = known_.find(header); known != known_.end())
                return known->second;
        }
        constexpr std::size_t sampleBytes = 32U << 10U;
        Result<PriceLayout> layout = recogniseLayout(sampleOf(file, sampleBytes));
        if (layout) {
            const std::lock_guard lock(mutex_);
            known_.emplace(header, *layout);
        }
        return layout;
    }

private:
    const std::optional<PriceLayout>& mapping_;
    std::mutex mutex_;
    std::map<std::string, PriceLayout> known_;
};

void addTables(std::vector<BarFile>& files, const fs::path& folder, const std::string& prefix,
               BarScale scale, bool isDeep)
{
    for (const fs::path& path : filesIn(folder, isDeep))
        if (isTable(path))
            files.push_back({path, prefix + fs::relative(path, folder).string(), scale, 0, {}});
}

} // namespace

Result<Source> sourceAt(const fs::path& path)
{
    std::error_code fault;
    if (fs::is_regular_file(path, fault) && isTable(path))
        return Source{path, Source::Form::Prices};
    if (fs::is_directory(path / "bars", fault) || fs::exists(path / "dataset.toml", fault) ||
        fs::exists(path / "instruments.csv", fault) ||
        fs::exists(path / "instruments.csv.gz", fault))
        return Source{path, Source::Form::Dataset};
    if (std::ranges::any_of(filesIn(path, true), isTable))
        return Source{path, Source::Form::Prices};
    return LocatedError{
        {},
        fmt::format("{} holds no prices: neither files bars/daily/*.csv nor tables", path.string()),
        "choose a folder in the form of docs/dataset.md, or one of price files"};
}

fs::path firstTable(const fs::path& source)
{
    if (!fs::is_directory(source))
        return isTable(source) && fs::is_regular_file(source) ? source : fs::path();
    const std::vector<fs::path> files = filesIn(source, true);
    const auto found = std::ranges::find_if(files, isTable);
    return found == files.end() ? fs::path() : *found;
}

std::vector<BarFile> barFilesOf(const Source& source, const std::optional<PriceLayout>& mapping,
                                IntakeReport& report, const Progress& progress)
{
    std::vector<BarFile> files;
    if (source.form == Source::Form::Dataset) {
        addTables(files, source.path / "bars" / "daily", "bars/daily/", BarScale::Daily, false);
        addTables(files, source.path / "bars" / "minute", "bars/minute/", BarScale::Minute, false);
    } else if (fs::is_directory(source.path)) {
        addTables(files, source.path, "", BarScale::Daily, true);
    } else {
        files.push_back({source.path, source.path.filename().string(), BarScale::Daily, 0, {}});
    }
    Layouts layouts(mapping);
    std::vector<std::optional<LocatedError>> faults(files.size());
    tbb::parallel_for(std::size_t{0}, files.size(), [&](std::size_t i) {
        if (progress.stopRequested())
            throw Stopped{};
        Result<PriceLayout> layout = layouts.of(files[i].path);
        if (layout)
            files[i].layout = *std::move(layout);
        else
            faults[i] = layout.error();
    });
    std::vector<BarFile> clear;
    for (std::size_t i = 0; i < files.size(); ++i) {
        if (faults[i]) {
            ++report.files;
            report.add({files[i].name, faults[i]->where.line, "", "", faults[i]->problem,
                        "file left out: " + faults[i]->remedy});
            continue;
        }
        files[i].number = static_cast<std::uint32_t>(clear.size());
        clear.push_back(std::move(files[i]));
    }
    return clear;
}

std::string fingerprintOf(const Source& source)
{
    std::uint64_t count = 0;
    std::uint64_t bytes = 0;
    std::uint64_t times = 0; // a sum: the order of files does not matter
    const auto add = [&](const fs::path& path) {
        struct stat status {};
        if (::stat(path.c_str(), &status) != 0)
            return;
        ++count;
        bytes += static_cast<std::uint64_t>(status.st_size);
        times += static_cast<std::uint64_t>(status.st_mtim.tv_sec) * 1'000'000'007ULL +
                 static_cast<std::uint64_t>(status.st_mtim.tv_nsec);
    };
    if (fs::is_directory(source.path))
        for (const fs::path& path : filesIn(source.path, true))
            add(path);
    else
        add(source.path);
    return fmt::format("{} files, {} bytes, {:016x}", count, bytes, times);
}

} // namespace sieve::intake
