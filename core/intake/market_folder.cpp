#include "core/intake/market_folder.h"

#include "core/storage/file_aside.h"
#include "core/storage/market_file.h"

#include <algorithm>
#include <cerrno>
#include <fcntl.h>
#include <fmt/format.h>
#include <sstream>
#include <sys/file.h>
#include <sys/stat.h>
#include <system_error>
#include <toml++/toml.h>
#include <unistd.h>

namespace sieve::intake {

namespace {

namespace fs = std::filesystem;

std::optional<std::string> textOf(const fs::path& path)
{
    return fs::exists(path) ? std::optional(storage::readWhole(path)) : std::nullopt;
}

std::optional<PriceLayout> mappingIn(std::string_view text)
{
    Result<PriceLayout> layout = layoutFromToml(text);
    return layout ? std::optional(*std::move(layout)) : std::nullopt;
}

TakenSource sourceIn(const toml::table& row)
{
    const auto text = [&](const char* key) { return row[key].value_or(std::string()); };
    const auto count = [&](const char* key) {
        return static_cast<std::uint64_t>(std::max<std::int64_t>(row[key].value_or(0LL), 0));
    };
    const std::string mapping = text("mapping");
    return {text("path"),
            row["update"].value_or(false),
            Day::parse(text("taken_on")),
            text("fingerprint"),
            count("files"),
            count("bars"),
            text("market"),
            text("kept"),
            text("checksum"),
            mapping.empty() ? std::nullopt : mappingIn(mapping)};
}

} // namespace

std::vector<TakenSource> sourcesOf(const fs::path& market)
{
    std::vector<TakenSource> sources;
    const auto text = textOf(market / "sources.toml");
    if (!text)
        return sources;
    try {
        const toml::table file = toml::parse(*text);
        if (const toml::array* list = file["source"].as_array())
            for (const toml::node& node : *list)
                if (const toml::table* source = node.as_table())
                    sources.push_back(sourceIn(*source));
    } catch (const toml::parse_error&) {
        return {}; // as if unknown: the market is made again when its source is named
    }
    // Former versions kept one mapping beside the sources.
    if (const auto mapping = textOf(market / "mapping.toml"); mapping && !sources.empty())
        if (TakenSource& base = sources.front(); !base.mapping)
            base.mapping = mappingIn(*mapping);
    return sources;
}

void writeSources(const fs::path& market, const std::vector<TakenSource>& sources)
{
    toml::array list;
    for (const TakenSource& source : sources) {
        toml::table row{{"path", source.path.string()},
                        {"update", source.isUpdate},
                        {"taken_on", source.takenOn ? source.takenOn->iso() : std::string()},
                        {"fingerprint", source.fingerprint},
                        {"files", static_cast<std::int64_t>(source.files)},
                        {"bars", static_cast<std::int64_t>(source.bars)},
                        {"market", source.market}};
        if (source.isUpdate) {
            row.insert("kept", source.kept);
            row.insert("checksum", source.checksum);
        }
        if (source.mapping)
            row.insert("mapping", toToml(*source.mapping));
        list.push_back(std::move(row));
    }
    std::ostringstream text;
    text << "# What this market was made from.\n" << toml::table{{"source", list}} << "\n";
    storage::writeWhole(market / "sources.toml", text.str());
    std::error_code ignored; // it stands with its source now
    fs::remove(market / "mapping.toml", ignored);
}

void writeReport(const fs::path& market, const IntakeReport& report)
{
    storage::writeWhole(market / "report.json", toJson(report));
}

namespace {

/// What changes whenever the market file is written.
std::string stateOf(const fs::path& market)
{
    const fs::path file = storage::marketFile(market);
    struct stat status {};
    if (::stat(file.c_str(), &status) != 0)
        return {};
    return fmt::format("{} {} {}.{:09}\n", storage::identityOf(market), status.st_size,
                       status.st_mtim.tv_sec, status.st_mtim.tv_nsec);
}

} // namespace

bool isLookedThrough(const fs::path& market)
{
    return textOf(market / "looked_through") == stateOf(market);
}

void setLookedThrough(const fs::path& market)
{
    try {
        storage::writeWhole(market / "looked_through", stateOf(market));
    } catch (const std::system_error&) {
        return;
    }
}

FolderLock::FolderLock(const fs::path& market)
{
    fs::create_directories(market);
    const fs::path path = market / "lock";
    descriptor_ = ::open(path.c_str(), O_RDWR | O_CREAT | O_CLOEXEC, 0644);
    if (descriptor_ < 0)
        throw std::system_error(errno, std::generic_category(), path.string());
    isHeld_ = ::flock(descriptor_, LOCK_EX | LOCK_NB) == 0;
}

FolderLock::~FolderLock()
{
    ::close(descriptor_);
}

} // namespace sieve::intake
