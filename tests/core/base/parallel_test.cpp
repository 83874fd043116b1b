#include "core/base/parallel.h"

#include "core/base/progress.h"

#include <atomic>
#include <catch2/catch.hpp>
#include <chrono>
#include <thread>

namespace sieve {

namespace {

/// Waits for something that another thread does, but not for ever: there may be one thread only.
void waitFor(const std::atomic<bool>& done)
{
    const auto until = std::chrono::steady_clock::now() + std::chrono::milliseconds(50);
    while (!done && std::chrono::steady_clock::now() < until)
        std::this_thread::yield();
}

constexpr std::size_t parts = 4000;

/// Something that goes on while another part of the same loop throws: whether `all` did all.
template <class All> bool isWholeWhileAnotherThrows(All all)
{
    std::atomic<bool> isBegun = false;
    std::atomic<bool> isWhole = true;
    const auto work = [&](std::size_t at) {
        if (at == 0) {
            waitFor(isBegun);
            throw Stopped{};
        }
        std::atomic<std::size_t> done = 0;
        all([&] {
            isBegun = true;
            ++done;
            std::this_thread::sleep_for(std::chrono::microseconds(1));
        });
        isWhole = isWhole && done == parts;
    };
    CHECK_THROWS_AS(inParallel(2, work), Stopped);
    return isWhole;
}

} // namespace

TEST_CASE("Parallel: all is done, and what one throws is thrown", "[base]")
{
    std::atomic<std::size_t> sum = 0;
    inParallel(1001, [&](std::size_t at) { sum += at; });
    CHECK(sum == 500'500);
    inParallel(0, [](std::size_t) { throw Stopped{}; });
    CHECK_THROWS_AS(inParallel(100,
                               [](std::size_t at) {
                                   if (at == 77)
                                       throw Stopped{};
                               }),
                    Stopped);
}

TEST_CASE("Parallel: a loop inside one that is given up is not cut short without a word", "[base]")
{
    for (int round = 0; round < 10; ++round) {
        CHECK(isWholeWhileAnotherThrows(
            [](auto each) { inParallel(parts, [&](std::size_t) { each(); }); }));
        CHECK(isWholeWhileAnotherThrows([](auto each) {
            ParallelTasks tasks;
            for (std::size_t part = 0; part < parts; ++part)
                tasks.run([&] { each(); });
            tasks.wait();
        }));
    }
}

} // namespace sieve
