#include "core/base/pack.h"
#include "core/market/as_of.h"
#include "core/storage/market_file.h"
#include "tests/fuzz/own_files.h"

#include <cstring>
#define XXH_INLINE_ALL
#include <xxhash.h>

// The kept market's own file. Checksums would turn every change away at the door, so they are made
// right again after each: what lies behind them must bear damage too.

namespace {

using namespace sieve;

template <class Figure> Figure figureAt(const std::string& bytes, std::size_t at)
{
    Figure figure{};
    if (at + sizeof figure <= bytes.size())
        std::memcpy(&figure, bytes.data() + at, sizeof figure);
    return figure;
}

void putSum(std::string& bytes, std::size_t at, std::uint64_t from, std::uint64_t size)
{
    if (from > bytes.size() || size > bytes.size() - from || at + 8 > bytes.size())
        return;
    const std::uint64_t sum = XXH3_64bits(bytes.data() + from, size);
    std::memcpy(bytes.data() + at, &sum, sizeof sum);
}

/// See the layout at the top of market_file.cpp: header, and at its end the table of contents.
void makeSumsRight(std::string& bytes)
{
    constexpr std::size_t headerBytes = 64;
    if (bytes.size() < headerBytes)
        return;
    const std::uint64_t size = bytes.size();
    std::memcpy(bytes.data() + 16, &size, sizeof size);
    const auto contents = figureAt<std::uint64_t>(bytes, 24);
    const auto contentsBytes = figureAt<std::uint64_t>(bytes, 32);
    if (contents < size && contentsBytes <= size - contents) {
        std::size_t at = static_cast<std::size_t>(contents) + 12;
        for (auto left = figureAt<std::uint32_t>(bytes, at - 4); left > 0 && at < size; --left) {
            const auto name = figureAt<std::uint32_t>(bytes, at);
            if (name > size - at)
                break;
            at += 4 + name;
            putSum(bytes, at + 16, figureAt<std::uint64_t>(bytes, at),
                   figureAt<std::uint64_t>(bytes, at + 8));
            at += 24;
        }
    }
    putSum(bytes, 40, contents, contentsBytes);
    putSum(bytes, 56, 0, 56);
}

} // namespace

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size)
{
    std::string bytes = fuzz::textOf(data, size);
    makeSumsRight(bytes);
    fuzz::folder().write("market.sieve", bytes);
    (void)storage::verifyMarket(fuzz::folder().path());
    const auto opened = storage::openMarket(fuzz::folder().path());
    if (!opened)
        return 0;
    const market::Market& market = **opened;
    double sum = 0.0;
    for (std::size_t i = 0; i < market.size(); ++i) {
        const Day day = market.sessions().back();
        (void)market::barOn(market, i, day);
        (void)market::sharesOn(market, i, day);
        (void)market::ownersOn(market, i, market::OwnerKind::Public, 0, day);
        (void)market::estimateOn(market, i, market::EstimateMeasure::Revenue, market::Period::Year,
                                 0, day);
        (void)market.statements(i).figure(0, market::Period::Quarter, 0, day);
        (void)market.notices(i);
        for (const double close : market.bars(i).close)
            sum += close;
        std::vector<double> total(market.bars(i).size());
        market.totalReturn(i, 0, 0, total);
    }
    return sum == 0.12345 ? 1 : 0;
}
