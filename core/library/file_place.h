#pragma once

#include <cstdint>
#include <filesystem>

namespace sieve::library {

/// A file as it lay when it was opened. A program that goes on writing into a file that was moved
/// or deleted meanwhile would write into nothing.
class FilePlace {
public:
    enum class State {
        Held,  ///< the same file is there
        Empty, ///< nothing is there, but a file can be made
        Taken, ///< another file is there
        Gone,  ///< the folder is not there, or it is of another disk
    };

    FilePlace() = default; ///< of nothing
    /// Errors: std::system_error when the file is not there.
    explicit FilePlace(std::filesystem::path file);

    State now() const;

private:
    std::filesystem::path file_;
    std::uint64_t device_ = 0; ///< of the file and, at the opening, of its folder
    std::uint64_t number_ = 0; ///< of the file on that device
};

} // namespace sieve::library
