#pragma once

#include <filesystem>
#include <fstream>
#include <sstream>
#include <string>
#include <unistd.h>

namespace sieve::test {

/// A folder of this process alone, gone when it ends.
class OwnFolder {
public:
    OwnFolder()
        : path_(std::filesystem::temp_directory_path() /
                ("wise-sieve-" + std::to_string(getpid()) + "-" + std::to_string(++count())))
    {
        std::filesystem::create_directories(path_);
    }
    ~OwnFolder()
    {
        std::error_code ignored;
        std::filesystem::remove_all(path_, ignored);
    }
    OwnFolder(const OwnFolder&) = delete;
    OwnFolder& operator=(const OwnFolder&) = delete;

    const std::filesystem::path& path() const { return path_; }
    /// Writes a file, and the folders that it needs.
    void write(const std::string& name, const std::string& text) const
    {
        std::filesystem::create_directories((path_ / name).parent_path());
        std::ofstream(path_ / name, std::ios::binary) << text;
    }
    std::string read(const std::string& name) const
    {
        std::ifstream file(path_ / name, std::ios::binary);
        std::ostringstream text;
        text << file.rdbuf();
        return text.str();
    }

private:
    static int& count()
    {
        static int made = 0;
        return made;
    }
    std::filesystem::path path_;
};

} // namespace sieve::test
