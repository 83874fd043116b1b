#include "core/base/found_store.h"

#include <utility>

namespace sieve {

std::shared_ptr<const void> FoundStore::findAny(const std::string& key)
{
    const std::scoped_lock lock(mutex_);
    const auto found = entries_.find(key);
    if (found == entries_.end())
        return nullptr;
    uses_.splice(uses_.begin(), uses_, found->second.use);
    return found->second.found;
}

void FoundStore::drop(std::map<std::string, Entry>::iterator entry)
{
    bytes_ -= entry->second.bytes;
    uses_.erase(entry->second.use);
    entries_.erase(entry);
}

void FoundStore::keep(const std::string& key, std::shared_ptr<const void> found, std::size_t bytes)
{
    const std::size_t all = bytes + 2 * key.size() + 200; // with what the maps take for it
    const std::scoped_lock lock(mutex_);
    if (const auto before = entries_.find(key); before != entries_.end())
        drop(before);
    if (all > budget_)
        return;
    uses_.push_front(key);
    entries_[key] = {std::move(found), all, uses_.begin()};
    bytes_ += all;
    while (bytes_ > budget_)
        drop(entries_.find(uses_.back()));
}

std::size_t FoundStore::bytes() const
{
    const std::scoped_lock lock(mutex_);
    return bytes_;
}

} // namespace sieve
