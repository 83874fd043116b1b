#include "core/engine/evaluator.h"
#include "core/language/checker.h"
#include "tests/core/made_market.h"
#include "tests/core/same_bits.h"

#include <atomic>
#include <catch2/catch.hpp>
#include <chrono>
#include <random>
#include <thread>

namespace sieve::engine {

TEST_CASE("Evaluator: a question that is given up leaves nothing wrong behind", "[engine]")
{
    // Few stocks: what lies between the loops over them takes as long as the loops.
    const auto market = test::marketOf(test::eventfulRecords());
    Plan plan;
    std::vector<NodeId> targets;
    for (const char* text :
         {"percentile(change(close, 20))", "rank(sma(percentile(change(close, 5)), 10))",
          "close / median(close, within = sector)",
          "percentile(ema(close - median(close, within = sector), 12))",
          "sma(share_of(close > sma(close, 20)), 15) + percentile(rsi(close, 14))",
          "percentile(prior(percentile(rank(change(close, 5)) + rank(rsi(close, 9))), 21))",
          "rank(prior(rank(percentile(change(close, 9)) - percentile(close)), 7))",
          "percentile(prior(percentile(percentile(close) + percentile(volume)), 3))",
          "prior(value_percentile, 21)", "prior(quality_percentile, 21)",
          "prior(growth_percentile, 21)"})
        targets.push_back(language::check(text, {language::Vocabulary::builtIn()}, plan)->node);
    const Day day = market->sessions().back();
    Evaluator whole(market);
    const auto begun = std::chrono::steady_clock::now();
    const auto right = whole.columns(plan, targets, day);
    const auto took = std::chrono::duration_cast<std::chrono::microseconds>(
        std::chrono::steady_clock::now() - begun);
    std::mt19937 random(11);
    std::atomic<int> givenUp = 0;
    for (int round = 0; round < 150; ++round) {
        Evaluator evaluator(market);
        std::stop_source stop;
        const auto ask = [&] {
            try {
                (void)evaluator.columns(plan, targets, day, Progress(stop.get_token(), {}));
            } catch (const Stopped&) {
                ++givenUp;
            }
        };
        std::vector<std::thread> askers; // more than there are processors, as in a window
        for (int asker = 0; asker < 4; ++asker)
            askers.emplace_back(ask);
        std::this_thread::sleep_for(
            std::chrono::microseconds(random() % static_cast<std::size_t>(2 * took.count())));
        stop.request_stop();
        for (std::thread& asker : askers)
            asker.join();
        const auto again = evaluator.columns(plan, targets, day);
        for (std::size_t i = 0; i < targets.size(); ++i) {
            INFO("round " << round << ", part " << i);
            REQUIRE(test::sameBits(*again[i], *right[i]));
        }
    }
    CHECK(givenUp > 0);
}

} // namespace sieve::engine
