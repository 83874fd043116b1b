#pragma once

#include "core/intake/bar_file.h"

#include <cstddef>
#include <filesystem>
#include <fstream>
#include <map>
#include <string>
#include <string_view>
#include <vector>

namespace sieve::intake {

/// Sorts bars by symbol as they come out of files in which many symbols stand mixed, in bounded
/// memory: what exceeds it waits in a file of its own, which goes with the spool.
/// Errors: std::system_error with the path, as on a full disk.
class BarSpool {
public:
    BarSpool(std::filesystem::path file, std::size_t mostInMemory);
    ~BarSpool();
    BarSpool(const BarSpool&) = delete;
    BarSpool& operator=(const BarSpool&) = delete;

    void add(std::string_view symbol, const ReadBar& bar, std::span<const ReadAction> actions = {});
    std::vector<std::string> symbols() const;
    /// The symbol's bars in the order in which they came, after all are in.
    /// Threads: may be asked from several at once.
    void append(std::string_view symbol, std::vector<ReadBar>& to) const;
    /// What stood beside them; there are few, which stay in memory.
    std::span<const ReadAction> actionsOf(std::string_view symbol) const;

private:
    struct Chunk {
        std::size_t offset = 0; ///< in bars
        std::size_t count = 0;
    };
    struct Lane {
        std::vector<Chunk> chunks;
        std::vector<ReadBar> waiting;
        std::vector<ReadAction> actions;
    };
    void flush();

    std::filesystem::path path_;
    std::size_t mostInMemory_;
    int descriptor_ = -1;
    std::size_t written_ = 0;
    std::size_t waiting_ = 0;
    std::map<std::string, Lane, std::less<>> lanes_;
    Lane* lastLane_ = nullptr;
    std::string lastSymbol_;
};

} // namespace sieve::intake
