#include "core/base/pack.h"
#include "core/market/as_of.h"
#include "core/storage/market_file.h"
#include "tests/fuzz/own_files.h"
#include "tests/right_sums.h"

// The kept market's own file, with its checksums made right again after each change.

using namespace sieve;

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size)
{
    std::string bytes = fuzz::textOf(data, size);
    test::makeSumsRight(bytes);
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
