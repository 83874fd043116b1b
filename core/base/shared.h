#pragma once

#include <atomic>
#include <memory>
#include <utility>

namespace sieve {

/// A value whose copies share one object until one of them is changed. Copying costs as much as
/// copying a pointer, so that many states of large work can be held side by side.
/// Threads: copies may be read on several threads; one copy is used on one thread at a time.
template <class T> class Shared {
public:
    Shared() : object_(std::make_shared<T>()) {}
    Shared(T value) : object_(std::make_shared<T>(std::move(value))) {} // a T is wanted as it is

    const T& operator*() const { return *object_; }
    const T* operator->() const { return object_.get(); }
    std::shared_ptr<const T> pointer() const { return object_; }

    /// The value to be changed: its own object from now on.
    T& edit()
    {
        if (object_.use_count() > 1)
            object_ = std::make_shared<T>(*object_);
        else // who held it last may have read it on another thread
            std::atomic_thread_fence(std::memory_order_acquire);
        return *object_;
    }

    friend bool operator==(const Shared& a, const Shared& b)
    {
        return a.object_ == b.object_ || *a.object_ == *b.object_;
    }

private:
    std::shared_ptr<T> object_;
};

} // namespace sieve
