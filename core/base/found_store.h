#pragma once

#include <cstddef>
#include <list>
#include <map>
#include <memory>
#include <mutex>
#include <string>

namespace sieve {

/// What was found out and may be asked for again, by a key that says all it depends on. What was
/// not used for longest is dropped first, so that all together never take more than the budget.
/// Threads: any number at once.
class FoundStore {
public:
    explicit FoundStore(std::size_t budget) : budget_(budget) {}

    /// Null when it is not there. Requires: what was kept under the key is of this type, so that
    /// keys begin with the name of what they are of.
    template <class Found> std::shared_ptr<const Found> find(const std::string& key)
    {
        return std::static_pointer_cast<const Found>(findAny(key));
    }
    /// In place of what was there. Of more bytes than the budget nothing is kept.
    void keep(const std::string& key, std::shared_ptr<const void> found, std::size_t bytes);
    std::size_t bytes() const;

private:
    struct Entry {
        std::shared_ptr<const void> found;
        std::size_t bytes = 0;
        std::list<std::string>::iterator use;
    };
    std::shared_ptr<const void> findAny(const std::string& key);
    void drop(std::map<std::string, Entry>::iterator entry);

    const std::size_t budget_;
    mutable std::mutex mutex_; ///< guards what follows
    std::map<std::string, Entry> entries_;
    std::list<std::string> uses_; ///< the newest first
    std::size_t bytes_ = 0;
};

} // namespace sieve
