#include "core/storage/mapped_file.h"

#include <cerrno>
#include <fcntl.h>
#include <sys/mman.h>
#include <sys/stat.h>
#include <system_error>
#include <unistd.h>

namespace sieve::storage {

MappedFile::MappedFile(const std::filesystem::path& path)
{
    const auto fail = [&path](int descriptor) {
        const int fault = errno;
        if (descriptor >= 0)
            ::close(descriptor);
        throw std::system_error(fault, std::generic_category(), path.string());
    };
    const int descriptor = ::open(path.c_str(), O_RDONLY | O_CLOEXEC);
    if (descriptor < 0)
        fail(descriptor);
    struct stat status {};
    if (::fstat(descriptor, &status) != 0)
        fail(descriptor);
    size_ = static_cast<std::size_t>(status.st_size);
    if (size_ > 0) {
        void* memory = ::mmap(nullptr, size_, PROT_READ, MAP_SHARED, descriptor, 0);
        if (memory == MAP_FAILED)
            fail(descriptor);
        ::madvise(memory, size_, MADV_HUGEPAGE); // advice, for what must be read from the disk
        data_ = static_cast<const std::byte*>(memory);
    }
    ::close(descriptor);
}

MappedFile::~MappedFile()
{
    if (data_)
        ::munmap(const_cast<std::byte*>(data_), size_);
}

} // namespace sieve::storage
