#include "core/intake/take_in.h"
#include "core/storage/market_file.h"

#include <algorithm>
#include <chrono>
#include <fmt/format.h>
#include <fstream>
#include <memory>
#include <string>
#include <sys/resource.h>
#include <thread>
#include <vector>

// intake_bench DATASET MARKET   what taking in and opening a market cost: each as a time and as a
// multiple of the least possible time on this machine (bytes that must be touched over the memory's
// bandwidth, measured on the spot).

namespace {

using namespace sieve;
using Clock = std::chrono::steady_clock;

double secondsSince(Clock::time_point start)
{
    return std::chrono::duration<double>(Clock::now() - start).count();
}

/// Bytes a second of a[i] = b[i] + s * c[i] (McCalpin's triad), best of five.
double triadBandwidth(unsigned threads)
{
    const std::size_t size = 16U << 20U;
    std::vector<double> a(size);
    std::vector<double> b(size, 1.0);
    std::vector<double> c(size, 2.0);
    double best = 0.0;
    for (int round = 0; round < 5; ++round) {
        const auto start = Clock::now();
        std::vector<std::jthread> workers;
        for (unsigned t = 0; t < threads; ++t)
            workers.emplace_back([&, t] {
                for (std::size_t i = size / threads * t; i < size / threads * (t + 1); ++i)
                    a[i] = b[i] + 3.0 * c[i];
            });
        workers.clear();
        best = std::max(best, 3.0 * 8.0 * static_cast<double>(size) / secondsSince(start));
    }
    return best;
}

double peakMebibytes()
{
    rusage usage{};
    getrusage(RUSAGE_SELF, &usage);
    return static_cast<double>(usage.ru_maxrss) / 1024.0;
}

template <class Work> double median(int rounds, Work work)
{
    std::vector<double> seconds;
    for (int round = 0; round < rounds; ++round) {
        const auto start = Clock::now();
        work();
        seconds.push_back(secondsSince(start));
    }
    std::ranges::sort(seconds);
    return seconds[seconds.size() / 2];
}

std::uintmax_t bytesIn(const std::filesystem::path& folder)
{
    std::uintmax_t bytes = 0;
    for (const auto& entry : std::filesystem::recursive_directory_iterator(folder))
        if (entry.is_regular_file())
            bytes += entry.file_size();
    return bytes;
}

} // namespace

int main(int count, char** arguments)
{
    if (count < 3) {
        fmt::print(stderr, "Use: intake_bench DATASET MARKET [ROUNDS]\n");
        return 2;
    }
    const std::filesystem::path dataset = arguments[1];
    const std::filesystem::path market = arguments[2];
    const int rounds = count > 3 ? std::stoi(arguments[3]) : 5;
    const double before = peakMebibytes();
    std::size_t rows = 0;
    const double intake = median(rounds, [&] {
        const auto report = intake::takeIn({dataset, market});
        if (!report)
            throw std::runtime_error(report.error().problem);
        rows = report->rows;
    });
    const double peak = peakMebibytes();
    const auto bytes = static_cast<double>(bytesIn(dataset));
    const double opening = median(rounds, [&] {
        if (!storage::openMarket(market))
            throw std::runtime_error("not opened");
    });
    const double verifying = median(rounds, [&] {
        if (!storage::verifyMarket(market))
            throw std::runtime_error("not whole");
    });
    const double bandwidth = triadBandwidth(2);
    fmt::print("memory bandwidth (triad): {:.1f} GB/s on one thread, {:.1f} on two\n",
               triadBandwidth(1) / 1e9, bandwidth / 1e9);
    const double least = bytes / bandwidth;
    fmt::print(
        "intake    {:8.2f} s   {:.2f} M rows/s, {:.0f} x the least time for {:.2f} GB of text; "
        "{:.0f} MiB resident at most ({:.0f} before)\n",
        intake, static_cast<double>(rows) / intake / 1e6, intake / least, bytes / 1e9, peak,
        before);
    fmt::print("opening   {:8.1f} ms\n", opening * 1e3);
    const auto file = static_cast<double>(std::filesystem::file_size(storage::marketFile(market)));
    fmt::print("verifying {:8.1f} ms   {:.1f} x the least time for {:.2f} GB\n", verifying * 1e3,
               verifying / (file / bandwidth), file / 1e9);
    return 0;
}
