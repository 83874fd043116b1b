#include "core/engine/evaluator.h"
#include "core/language/checker.h"
#include "core/language/renaming.h"

#include <cmath>
#include <cstdint>
#include <tbb/global_control.h>

// Text to tree to plan to figures, on a market of a few stocks.

namespace {

using namespace sieve;

/// Three stocks of sixty bars: one moves, one stands still, one was listed late and split.
market::MarketPtr smallMarket()
{
    std::vector<market::InstrumentRecord> records(4);
    const char* symbols[] = {"AAAA", "BBBB", "CCCC", "LINE"};
    for (std::size_t i = 0; i < records.size(); ++i) {
        market::InstrumentRecord& record = records[i];
        record.instrument.symbol = symbols[i];
        record.instrument.sector = i % 2 == 0 ? "Energy" : "";
        record.instrument.industry = "Tides";
        record.instrument.listedOn = Day::fromSerial(19'700);
        for (int bar = i == 2 ? 30 : 0; bar < 60; ++bar) {
            const double close = i == 1 ? 5.0 : 20.0 + std::sin(0.7 * bar) + 0.1 * bar;
            record.bars.add({Day::fromSerial(19'700 + bar + bar / 5 * 2), close, close + 0.5,
                             close - 0.5, close, i == 1 ? 0.0 : 1000.0 + 10 * bar});
        }
        record.shares.push_back({Day::fromSerial(19'000), Day::fromSerial(19'000), 1e6, 5e5, 1e4});
        for (int quarter = 0; quarter < 9; ++quarter)
            record.statements.push_back({static_cast<std::uint32_t>(quarter % 3),
                                         market::Period::Quarter,
                                         Day::fromSerial(19'000 + 91 * quarter),
                                         Day::fromSerial(19'030 + 91 * quarter), 3.0 * quarter});
        sortRows(record);
    }
    records[2].actions.push_back({Day::fromSerial(19'760), market::ActionKind::Split, 2.0});
    records[3].instrument.kind = market::InstrumentKind::Index;
    return std::make_shared<const market::Market>(
        market::MarketDescription{"Fuzz", "1", "vl", "LINE"}, std::move(records));
}

} // namespace

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size)
{
    using namespace sieve::language;
    static const market::MarketPtr market = smallMarket();
    // For so few stocks, waking a thread takes longer than the work.
    static const tbb::global_control oneThread(tbb::global_control::max_allowed_parallelism, 1);
    const std::string_view text(reinterpret_cast<const char*>(data), size);
    Names names{Vocabulary::builtIn()};
    names.list = [](std::string_view name) {
        return name == "mine" ? std::make_shared<const engine::ListMembers>() : nullptr;
    };
    names.screen = [](std::string_view name) -> std::optional<ScreenCondition> {
        if (name != "mine")
            return std::nullopt;
        return ScreenCondition{"close > 1", {"rank(close, within = universe) <= 2"}};
    };
    engine::Plan plan;
    const auto checked = check(text, names, plan);
    for (const auto what : {Renaming::What::Field, Renaming::What::Screen, Renaming::What::List})
        if (Renaming{what, "close", "close"}.in(text) != text)
            __builtin_trap(); // a name put in its own place changes nothing
    if (!checked || plan.size() > 400)
        return 0;
    engine::Evaluator evaluator(market, 1U << 16U);
    const Day day = market->sessions().back();
    const engine::ColumnPtr column = evaluator.column(plan, checked->node, day);
    const std::size_t stock = size % market->size(); // one of them: each is asked soon enough
    const auto history = evaluator.history(plan, checked->node, stock, day);
    const double last = history.empty() ? missing : history.back();
    if (std::isnan(last) ? !std::isnan((*column)[stock]) : last != (*column)[stock])
        __builtin_trap(); // a chart's last value is what a screen sees
    return 0;
}
