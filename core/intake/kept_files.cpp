#include "core/intake/kept_files.h"

#include "core/intake/byte_source.h"
#include "core/storage/digest.h"
#include "core/storage/file_aside.h"

#include <algorithm>
#include <array>
#include <cerrno>
#include <fmt/format.h>
#include <fstream>
#include <memory>
#include <system_error>

namespace sieve::intake {

namespace {

namespace fs = std::filesystem;

/// Whether some intake reads files of this ending. A folder may hold much else.
bool isRead(const fs::path& path)
{
    const fs::path plain = path.extension() == ".gz" ? path.stem() : path;
    return isTable(path) || plain.extension() == ".xml" || path.filename() == "dataset.toml";
}

} // namespace

Source keepFiles(const Source& source, const fs::path& folder, const Progress& progress)
{
    const bool isFolder = fs::is_directory(source.path);
    const fs::path root = isFolder ? source.path : source.path.parent_path();
    fs::create_directories(folder);
    for (const fs::path& path : filesOf(source)) {
        if (progress.stopRequested())
            throw Stopped{};
        if (!isRead(path))
            continue;
        const fs::path copy = folder / path.lexically_relative(root);
        fs::create_directories(copy.parent_path());
        fs::copy_file(path, copy);
    }
    storage::makeAllDurable(folder);
    return {isFolder ? folder : folder / source.path.filename(), source.form};
}

std::string checksumOfFiles(const fs::path& folder)
{
    storage::Digest sum;
    std::vector<char> piece(1U << 20U);
    for (const fs::path& path : filesOf({folder, Source::Form::Dataset})) {
        sum.add(path.lexically_relative(folder).string());
        std::ifstream file(path, std::ios::binary);
        do {
            file.read(piece.data(), static_cast<std::streamsize>(piece.size()));
            sum.add({piece.data(), static_cast<std::size_t>(file.gcount())});
        } while (file);
        if (!file.eof())
            throw std::system_error(errno, std::generic_category(), path.string());
    }
    return sum.text();
}

} // namespace sieve::intake
