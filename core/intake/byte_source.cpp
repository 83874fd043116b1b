#include "core/intake/byte_source.h"

#include <algorithm>
#include <array>
#include <cerrno>
#include <cstring>
#include <fcntl.h>
#include <system_error>
#include <unistd.h>
#include <zlib.h>

namespace sieve::intake {

namespace {

namespace fs = std::filesystem;

class FileBytes : public ByteSource {
public:
    explicit FileBytes(fs::path path)
        : path_(std::move(path)), descriptor_(::open(path_.c_str(), O_RDONLY | O_CLOEXEC))
    {
        if (descriptor_ < 0)
            fail();
    }
    ~FileBytes() override { ::close(descriptor_); }
    FileBytes(const FileBytes&) = delete;
    FileBytes& operator=(const FileBytes&) = delete;

    std::size_t read(std::span<char> into) override
    {
        std::size_t filled = 0;
        while (filled < into.size()) {
            const ssize_t count = ::read(descriptor_, into.data() + filled, into.size() - filled);
            if (count < 0 && errno == EINTR)
                continue;
            if (count < 0)
                fail();
            if (count == 0)
                break;
            filled += static_cast<std::size_t>(count);
        }
        return filled;
    }

private:
    [[noreturn]] void fail() const
    {
        throw std::system_error(errno, std::generic_category(), path_.string());
    }
    fs::path path_;
    int descriptor_;
};

/// A table of figures is packed to a third or a tenth; what grows a hundredfold is none.
constexpr std::uint64_t mostGrowth = 200;
constexpr std::uint64_t growthLooksAfter = 64U << 20U;

class GzipBytes : public ByteSource {
public:
    explicit GzipBytes(const fs::path& path)
        : packedSize_(fs::file_size(path)), file_(gzopen(path.c_str(), "rb"))
    {
        if (!file_)
            throw std::system_error(errno, std::generic_category(), path.string());
        gzbuffer(file_, 256U << 10U);
    }
    ~GzipBytes() override { gzclose(file_); }
    GzipBytes(const GzipBytes&) = delete;
    GzipBytes& operator=(const GzipBytes&) = delete;

    std::size_t read(std::span<char> into) override
    {
        if (!fault_.empty())
            return 0;
        const int count = gzread(file_, into.data(), static_cast<unsigned>(into.size()));
        int code = Z_OK;
        gzerror(file_, &code);
        if (count < 0 || (code != Z_OK && code != Z_STREAM_END))
            fault_ = code == Z_BUF_ERROR ? "the compressed file is cut short"
                                         : "the compressed file is damaged";
        else if (count > 0 && gzdirect(file_) != 0)
            fault_ = "the file's name ends in .gz, but it is not compressed so";
        const auto got = static_cast<std::size_t>(std::max(count, 0));
        size_ += got;
        if (size_ > growthLooksAfter && size_ / mostGrowth > packedSize_)
            fault_ = "the compressed file grows to more than 200 times its size: it is no table";
        return got;
    }
    std::string fault() const override { return fault_; }

private:
    std::uint64_t packedSize_;
    gzFile file_;
    std::uint64_t size_ = 0;
    std::string fault_;
};

class TextBytes : public ByteSource {
public:
    explicit TextBytes(std::string_view text) : text_(text) {}
    std::size_t read(std::span<char> into) override
    {
        const std::size_t count = std::min(into.size(), text_.size());
        std::memcpy(into.data(), text_.data(), count);
        text_.remove_prefix(count);
        return count;
    }

private:
    std::string_view text_;
};

constexpr std::array<std::string_view, 3> tableEndings{".csv", ".txt", ".tsv"};

} // namespace

std::unique_ptr<ByteSource> openBytes(const fs::path& path)
{
    if (path.extension() == ".gz")
        return std::make_unique<GzipBytes>(path);
    return std::make_unique<FileBytes>(path);
}

std::unique_ptr<ByteSource> bytesOf(std::string_view text)
{
    return std::make_unique<TextBytes>(text);
}

bool isTable(const fs::path& path)
{
    const fs::path plain = path.extension() == ".gz" ? path.stem() : path.filename();
    return std::ranges::find(tableEndings, plain.extension().string()) != tableEndings.end();
}

std::string tableName(const fs::path& path)
{
    const fs::path plain = path.extension() == ".gz" ? path.stem() : path.filename();
    return isTable(path) ? plain.stem().string() : plain.string();
}

} // namespace sieve::intake
