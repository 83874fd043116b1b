#include "core/intake/market_folder.h"

#include "core/storage/file_aside.h"

#include <cerrno>
#include <fcntl.h>
#include <sstream>
#include <sys/file.h>
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
                    sources.push_back({(*source)["path"].value_or(std::string()),
                                       (*source)["fingerprint"].value_or(std::string()),
                                       (*source)["update"].value_or(false)});
    } catch (const toml::parse_error&) {
        return {}; // as if unknown: the market is made again when its source is named
    }
    return sources;
}

std::optional<PriceLayout> mappingOf(const fs::path& market)
{
    const auto text = textOf(market / "mapping.toml");
    if (!text)
        return std::nullopt;
    Result<PriceLayout> layout = layoutFromToml(*text);
    return layout ? std::optional(*std::move(layout)) : std::nullopt;
}

void writeSources(const fs::path& market, const std::vector<TakenSource>& sources)
{
    toml::array list;
    for (const TakenSource& source : sources)
        list.push_back(toml::table{{"path", source.path.string()},
                                   {"fingerprint", source.fingerprint},
                                   {"update", source.isUpdate}});
    std::ostringstream text;
    text << "# What this market was made from.\n" << toml::table{{"source", list}} << "\n";
    storage::writeWhole(market / "sources.toml", text.str());
}

void writeMapping(const fs::path& market, const PriceLayout& layout)
{
    storage::writeWhole(market / "mapping.toml", toToml(layout));
}

void writeReport(const fs::path& market, const IntakeReport& report)
{
    storage::writeWhole(market / "report.json", toJson(report));
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
