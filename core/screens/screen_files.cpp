#include "core/screens/screen_files.h"

#include "core/base/lower_case.h"
#include "core/storage/file_aside.h"

#include <algorithm>
#include <fmt/format.h>

namespace sieve::screens {

namespace {

namespace fs = std::filesystem;

constexpr std::size_t longestName = 100; // in bytes: far from what file systems take
constexpr std::uintmax_t largestFile = 1 << 20;

/// A name that every file system takes: letters and digits stay, all else becomes one _.
std::string fileNameOf(const Screen& screen)
{
    std::string name;
    for (const char c : lowerCase(screen.name)) {
        const bool isPlain = (c >= 'a' && c <= 'z') || (c >= '0' && c <= '9');
        if (isPlain)
            name += c;
        else if (!name.empty() && name.back() != '_')
            name += '_';
    }
    name.resize(std::min(name.size(), longestName));
    while (name.ends_with('_'))
        name.pop_back();
    return name.empty() ? "screen" : name;
}

fs::path freeFile(const fs::path& folder, const std::string& name)
{
    fs::path file = folder / (name + ".toml");
    for (int number = 2; fs::exists(file); ++number)
        file = folder / fmt::format("{}_{}.toml", name, number);
    return file;
}

} // namespace

std::vector<fs::path> writeScreens(const fs::path& folder, std::span<const Screen> screens)
{
    std::vector<fs::path> files;
    for (const Screen& screen : screens) {
        files.push_back(freeFile(folder, fileNameOf(screen)));
        storage::writeWhole(files.back(), toToml(screen));
    }
    return files;
}

ReadScreens readScreens(std::span<const fs::path> files)
{
    ReadScreens read;
    for (const fs::path& file : files) {
        std::error_code fault;
        if (const auto size = fs::file_size(file, fault); !fault && size > largestFile) {
            read.problems.push_back(
                fmt::format("{}: too large for a screen ({} bytes)", file.string(), size));
            continue;
        }
        try {
            Result<Screen> screen = screenFromToml(storage::readWhole(file));
            if (screen)
                read.screens.push_back(*std::move(screen));
            else
                read.problems.push_back(
                    fmt::format("{}: {}", file.string(), sentence(screen.error())));
        } catch (const std::system_error& error) {
            read.problems.emplace_back(error.what());
        }
    }
    return read;
}

std::string freeName(const std::string& name, std::span<const Screen> taken)
{
    std::string free = name;
    for (int number = 2; std::ranges::find(taken, free, &Screen::name) != taken.end(); ++number)
        free = fmt::format("{} {}", name, number);
    return free;
}

} // namespace sieve::screens
