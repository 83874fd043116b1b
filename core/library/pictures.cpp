#include "core/library/pictures.h"

#include "core/storage/file_aside.h"

#include <algorithm>
#include <cctype>

namespace sieve::library {

std::filesystem::path picturePath(const std::filesystem::path& library, std::string_view name)
{
    const bool isPlain =
        !name.empty() && name.front() != '.' && std::ranges::all_of(name, [](unsigned char each) {
            return std::isalnum(each) != 0 || each == '-' || each == '_' || each == '.';
        });
    if (library.empty() || !isPlain)
        return {};
    return std::filesystem::path(library.string() + ".pictures") / name;
}

void writePicture(const std::filesystem::path& library, std::string_view name,
                  std::string_view bytes)
{
    const std::filesystem::path path = picturePath(library, name);
    if (path.empty())
        return;
    std::filesystem::create_directories(path.parent_path());
    storage::writeWhole(path, bytes);
}

void addPictures(const std::filesystem::path& library, const std::filesystem::path& folder)
{
    namespace fs = std::filesystem;
    if (!library.empty() && !folder.empty() && fs::is_directory(folder))
        fs::copy(folder, library.string() + ".pictures",
                 fs::copy_options::recursive | fs::copy_options::skip_existing);
}

} // namespace sieve::library
