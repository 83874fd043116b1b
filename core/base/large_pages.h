#pragma once

#include <cstddef>
#include <cstdlib>
#include <new>
#include <sys/mman.h>
#include <utility>

namespace sieve {

/// Allocates what is large in pages of 2 MiB where the system has them: tables of hundreds of
/// megabytes are touched at random, and small pages cost a fault and a lookup each.
template <class T> struct LargePages {
    using value_type = T;

    LargePages() = default;
    template <class Other> LargePages(const LargePages<Other>&) {} // NOLINT: as containers want it

    T* allocate(std::size_t count)
    {
        const std::size_t bytes = count * sizeof(T);
        if (bytes < page)
            return static_cast<T*>(::operator new(bytes));
        const std::size_t whole = (bytes + page - 1) / page * page;
        void* const memory = std::aligned_alloc(page, whole);
        if (memory == nullptr)
            throw std::bad_alloc();
        madvise(memory, whole, MADV_HUGEPAGE); // advice: small ones do as well
        return static_cast<T*>(memory);
    }
    void deallocate(T* memory, std::size_t count)
    {
        if (count * sizeof(T) < page)
            ::operator delete(memory);
        else
            std::free(memory);
    }

    /// Figures without a first value stay as the memory is: who makes a table may fill it later.
    template <class Value, class... From> void construct(Value* at, From&&... from)
    {
        if constexpr (sizeof...(From) == 0)
            ::new (static_cast<void*>(at)) Value;
        else
            ::new (static_cast<void*>(at)) Value(std::forward<From>(from)...);
    }

    friend bool operator==(const LargePages&, const LargePages&) = default;

private:
    static constexpr std::size_t page = std::size_t{2} << 20U;
};

} // namespace sieve
