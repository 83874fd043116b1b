#pragma once

#include "core/base/day.h"
#include "core/engine/bar_pass.h"

#include <cstddef>
#include <list>
#include <map>
#include <mutex>

namespace sieve::engine {

/// Finished columns of single days, the least recently used dropped first, so that they never take
/// more than their budget.
/// Threads: any number at once.
class ColumnCache {
public:
    explicit ColumnCache(std::size_t budget) : budget_(budget) {}

    ColumnPtr find(NodeKey node, Day day); ///< null when it is not there
    /// In place of one that is shorter; gives the column back.
    ColumnPtr keep(NodeKey node, Day day, const ColumnPtr& column);
    std::size_t bytes() const;

private:
    struct Key {
        NodeKey node;
        Day day;
        friend auto operator<=>(const Key&, const Key&) = default;
    };
    struct Entry {
        ColumnPtr column;
        std::list<Key>::iterator use;
    };
    static std::size_t bytesOf(const ColumnPtr& column);

    const std::size_t budget_;
    mutable std::mutex mutex_; ///< guards what follows
    std::map<Key, Entry> entries_;
    std::list<Key> uses_; ///< the newest first
    std::size_t bytes_ = 0;
};

} // namespace sieve::engine
