#include "core/intake/source.h"

#include "core/base/parallel.h"
#include "core/intake/byte_source.h"
#include "core/intake/csv.h"

#include <algorithm>
#include <array>
#include <fmt/format.h>
#include <map>
#include <mutex>
#include <optional>
#include <set>
#include <sys/stat.h>
#include <vector>

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

/// The layouts of a folder's files. Each file is read for itself; one that may be read in several
/// ways is read as all others with its header are, if these agree. Neither the order of the files
/// nor of their threads changes anything.
class Layouts {
public:
    Layouts(const std::optional<PriceLayout>& mapping, std::size_t files)
        : mapping_(mapping), read_(files)
    {
    }

    /// From several threads, once a file.
    void read(std::size_t at, const BarFile& file)
    {
        Read& read = read_[at];
        const bool isDaily = file.scale == BarScale::Daily;
        const std::string begin = sampleOf(file.path, beginBytes);
        read.header = begin.substr(0, begin.find('\n'));
        if (!mapping_)
            if (const auto known = plainLayout(read.header, begin, isDaily)) {
                read.readings = LayoutReadings{*known, {known->dayForm}, {LayoutReadings::Marks()}};
                return;
            }
        const std::string sample = sampleOf(file.path, sampleBytes);
        Result<LayoutReadings> readings =
            mapping_ ? LayoutReadings{*mapping_, {}, {}} : readingsOf(sample);
        if (!readings)
            read.fault = readings.error();
        else if (isDaily && holdsMinutes(sample, readings->layout))
            read.fault = minutesFound();
        if (read.fault)
            return;
        read.readings = *std::move(readings);
        if (!mapping_ && read.readings->isClear() && isPlain(read.readings->layout)) {
            const std::lock_guard lock(mutex_);
            plain_.emplace(read.header, read.readings->layout);
        }
    }

    /// After all are read.
    Result<PriceLayout> of(std::size_t at) const
    {
        const Read& read = read_[at];
        if (read.fault)
            return *read.fault;
        LayoutReadings readings = *read.readings;
        if (!readings.isClear())
            agree(readings, read.header);
        if (!readings.isClear())
            return readings.question();
        return readings.layout;
    }

private:
    struct Read {
        std::string header;
        std::optional<LayoutReadings> readings;
        std::optional<LocatedError> fault;
    };
    static constexpr std::size_t beginBytes = 1024;
    static constexpr std::size_t sampleBytes = 32U << 10U;

    /// Days and figures that can be read in one way only, which most files have.
    static bool isPlain(const PriceLayout& layout)
    {
        return layout.separator == ',' && layout.decimalMark == '.' &&
               layout.thousandsMark == '\0' && layout.dayForm == DayForm::Iso;
    }
    /// That of a file with the same header, if the first row of this one is as plain.
    std::optional<PriceLayout> plainLayout(const std::string& header, const std::string& begin,
                                           bool isDaily)
    {
        const std::lock_guard lock(mutex_);
        const auto known = plain_.find(header);
        if (known == plain_.end() || (isDaily && holdsMinutes(begin, known->second)))
            return std::nullopt;
        CsvReader rows(begin, ',');
        if (!rows.next())
            return std::nullopt;
        const auto time =
            std::ranges::find(rows.cells(), known->second.heading(PriceColumn::Time)) -
            rows.cells().begin();
        const bool isDay = rows.next() && time < std::ssize(rows.cells()) &&
                           Day::parse(rows.cells()[static_cast<std::size_t>(time)].substr(0, 10));
        return isDay ? std::optional(known->second) : std::nullopt;
    }
    /// Leaves the readings that all clear files with the same header have.
    void agree(LayoutReadings& readings, const std::string& header) const
    {
        std::set<DayForm> forms;
        std::vector<LayoutReadings::Marks> marks;
        for (const Read& other : read_)
            if (other.readings && other.readings->isClear() && other.header == header) {
                forms.insert(other.readings->layout.dayForm);
                const LayoutReadings::Marks own{other.readings->layout.decimalMark,
                                                other.readings->layout.thousandsMark};
                if (std::ranges::find(marks, own) == marks.end())
                    marks.push_back(own);
            }
        if (readings.dayForms.size() > 1 && forms.size() == 1 &&
            std::ranges::find(readings.dayForms, *forms.begin()) != readings.dayForms.end()) {
            readings.dayForms = {*forms.begin()};
            readings.layout.dayForm = *forms.begin();
        }
        if (readings.marks.size() > 1 && marks.size() == 1 &&
            std::ranges::find(readings.marks, marks.front()) != readings.marks.end()) {
            readings.marks = marks;
            readings.layout.decimalMark = marks.front().decimal;
            readings.layout.thousandsMark = marks.front().thousands;
        }
    }

    const std::optional<PriceLayout>& mapping_;
    std::vector<Read> read_;
    std::mutex mutex_;
    std::map<std::string, PriceLayout> plain_; ///< by header
};

void addTables(std::vector<BarFile>& files, const fs::path& folder, const std::string& prefix,
               BarScale scale, bool isDeep)
{
    for (const fs::path& path : filesIn(folder, isDeep))
        if (isTable(path))
            files.push_back({path, prefix + fs::relative(path, folder).string(), scale, 0, {}});
}

/// Whether a folder has anything that only a dataset has; an update may have a single table.
bool isDataset(const fs::path& folder)
{
    constexpr std::array tables{"instruments", "renames",  "actions",       "statements",
                                "estimates",   "owners",   "shares",        "ratings",
                                "calendar",    "holidays", "index_members", "currency_rates"};
    std::error_code fault;                             // what cannot be looked at is not there
    const auto hasFiles = [&folder](const char* own) { // an empty folder is not kept with a market
        return !filesIn(folder / own, true).empty();
    };
    return hasFiles("bars") || hasFiles("news") || hasFiles("filings") ||
           fs::exists(folder / "dataset.toml", fault) ||
           std::ranges::any_of(tables, [&](const std::string& table) {
               return fs::is_regular_file(folder / (table + ".csv"), fault) ||
                      fs::is_regular_file(folder / (table + ".csv.gz"), fault);
           });
}

} // namespace

Result<Source> sourceAt(const fs::path& path)
{
    std::error_code fault;
    if (fs::is_regular_file(path, fault) && isTable(path))
        return Source{path, Source::Form::Prices};
    if (isDataset(path))
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
    Layouts layouts(mapping, files.size());
    inParallel(files.size(), [&](std::size_t i) {
        if (progress.stopRequested())
            throw Stopped{};
        layouts.read(i, files[i]);
    });
    std::vector<BarFile> clear;
    for (std::size_t i = 0; i < files.size(); ++i) {
        Result<PriceLayout> layout = layouts.of(i);
        if (!layout) {
            const LocatedError& fault = layout.error();
            ++report.files;
            report.add({files[i].name, fault.where.line, "", "", fault.problem,
                        "file left out: " + fault.remedy});
            continue;
        }
        files[i].layout = *std::move(layout);
        files[i].number = static_cast<std::uint32_t>(clear.size());
        clear.push_back(std::move(files[i]));
    }
    return clear;
}

std::vector<fs::path> filesOf(const Source& source)
{
    return fs::is_directory(source.path) ? filesIn(source.path, true)
                                         : std::vector<fs::path>{source.path};
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
    for (const fs::path& path : filesOf(source))
        add(path);
    return fmt::format("{} files, {} bytes, {:016x}", count, bytes, times);
}

} // namespace sieve::intake
