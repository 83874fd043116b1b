#pragma once

#include <array>
#include <cstddef>
#include <span>

namespace sieve {

/// Fetches into the processor's nearest cache what lies from one address up to another. Always
/// inlined, as whatever does nothing else must be: the compiler sees a function without effect and
/// leaves its calls out.
[[gnu::always_inline]] inline void fetchLines(const void* from, const void* to)
{
    constexpr std::ptrdiff_t line = 64;
    const auto* const end = static_cast<const char*>(to);
    const auto* byte = static_cast<const char*>(from);
    for (; byte < end; byte += line)
        __builtin_prefetch(byte);
    __builtin_prefetch(end - 1);
}

/// What a thread will read next, fetched into the processor's caches a few lines at a time by
/// whoever computes meanwhile: memory brings no more than a few at once, and to ask for more is to
/// wait. It changes no value.
class FetchAhead {
public:
    /// This thread's.
    static FetchAhead& own()
    {
        static thread_local FetchAhead ahead;
        return ahead;
    }

    void clear() { count_ = 0; }
    /// Beyond so many at once, none are taken.
    void add(std::span<const double> values)
    {
        if (count_ < stretches_.size() && !values.empty())
            stretches_[count_++] = {values.data(), values.data() + values.size()};
    }
    /// Fetches so many lines at most.
    void fetch(std::size_t lines)
    {
        while (lines > 0 && count_ > 0) {
            Stretch& some = stretches_[count_ - 1];
            const double* at = some.next;
            for (; lines > 0 && at < some.end; --lines, at += valuesALine)
                __builtin_prefetch(at, 0, 2); // the nearest cache belongs to those in hand
            some.next = at;
            count_ -= at < some.end ? 0U : 1U;
        }
    }

private:
    static constexpr std::size_t valuesALine = 64 / sizeof(double);
    struct Stretch {
        const double* next;
        const double* end;
    };
    std::array<Stretch, 16> stretches_{};
    std::size_t count_ = 0;
};

} // namespace sieve
