#include "demo_market/dataset.h"

#include <charconv>
#include <cstdio>
#include <exception>
#include <string_view>

/// wise-sieve-demo-market FOLDER [SEED]   writes the demo market as an open dataset
/// wise-sieve-demo-market --version       tells the generator's version
/// wise-sieve-demo-market --map           tells what can be found where (docs/demo-market.md)
int main(int count, char** arguments)
{
    const std::string_view first = count > 1 ? arguments[1] : "";
    if (first == "--version") {
        std::puts(sieve::demo_market::generatorVersion.data());
        return 0;
    }
    std::uint64_t seed = 20260930;
    if (first == "--map") {
        std::fputs(sieve::demo_market::mapOf(sieve::demo_market::makeMarket(seed)).c_str(), stdout);
        return 0;
    }
    const std::string_view second = count > 2 ? arguments[2] : "";
    const auto [end, fault] = std::from_chars(second.data(), second.data() + second.size(), seed);
    const bool seedIsWrong =
        !second.empty() && (fault != std::errc() || end != second.data() + second.size());
    if (first.empty() || first.starts_with('-') || count > 3 || seedIsWrong) {
        std::fputs("Use: wise-sieve-demo-market FOLDER [SEED]\n", stderr);
        return 2;
    }
    try {
        sieve::demo_market::writeDataset(sieve::demo_market::makeMarket(seed), first);
    } catch (const std::exception& fault_) {
        std::fprintf(stderr, "The demo market could not be written: %s\n", fault_.what());
        return 1;
    }
    return 0;
}
