#include "core/engine/column_cache.h"

namespace sieve::engine {

std::size_t ColumnCache::bytesOf(const ColumnPtr& column)
{
    return column->size() * sizeof(double) + 200; // with what the maps take for it
}

ColumnPtr ColumnCache::find(NodeKey node, Day day)
{
    const std::scoped_lock lock(mutex_);
    const auto found = entries_.find({node, day});
    if (found == entries_.end())
        return nullptr;
    uses_.splice(uses_.begin(), uses_, found->second.use);
    return found->second.column;
}

ColumnPtr ColumnCache::keep(NodeKey node, Day day, const ColumnPtr& column)
{
    const std::size_t bytes = bytesOf(column);
    if (bytes > budget_)
        return column;
    const std::scoped_lock lock(mutex_);
    const auto [place, isNew] = entries_.try_emplace({node, day});
    if (!isNew) {
        if (place->second.column->size() >= column->size())
            return column;
        bytes_ -= bytesOf(place->second.column);
        uses_.erase(place->second.use);
    }
    uses_.push_front({node, day});
    place->second = {column, uses_.begin()};
    bytes_ += bytes;
    while (bytes_ > budget_) {
        const auto oldest = entries_.find(uses_.back());
        bytes_ -= bytesOf(oldest->second.column);
        entries_.erase(oldest);
        uses_.pop_back();
    }
    return column;
}

std::size_t ColumnCache::bytes() const
{
    const std::scoped_lock lock(mutex_);
    return bytes_;
}

} // namespace sieve::engine
