#include "core/indicators/catalog.h"

#include "core/engine/operators/values.h"
#include "demo_market/dice.h"
#include "tests/core/indicators/plain.h"
#include "tests/core/same_bits.h"

#include <catch2/catch.hpp>
#include <fmt/format.h>
#include <set>
#include <vector>

namespace sieve::indicators {

using test::sameBits;

namespace {

Settings settingsOf(const Indicator& indicator, int period)
{
    Settings settings;
    if (indicator.period)
        settings.period = std::clamp(period, indicator.period->least, indicator.period->most);
    for (std::size_t i = 0; i < indicator.factors.size(); ++i)
        settings.factors.at(i) = indicator.factors[i].initial;
    return settings;
}

/// Columns such as a stock has: prices that move, halts without movement, and where asked gaps.
std::vector<std::vector<double>> columnsFor(const Indicator& indicator, std::size_t bars,
                                            bool hasGaps)
{
    demo_market::Dice dice(5);
    std::vector<std::vector<double>> columns(indicator.inputs.size());
    double price = 50;
    for (std::size_t bar = 0; bar < bars; ++bar) {
        const bool isHalt = bar % 400 > 280;
        if (!isHalt)
            price *= 1 + 0.02 * dice.bell();
        for (std::size_t i = 0; i < columns.size(); ++i) {
            const Input input = indicator.inputs[i];
            double value = price + (isHalt ? 0.0 : dice.share());
            if (input == Input::Condition)
                value = dice.chance(0.02) ? 1.0 : 0.0;
            if (input == Input::Volume)
                value = isHalt ? 0.0 : 1000.0 * dice.share();
            columns[i].push_back(hasGaps && (bar < 30 || dice.chance(0.004)) ? missing : value);
        }
    }
    return columns;
}

} // namespace

TEST_CASE("Catalogue: every row is whole and its key its own", "[indicators]")
{
    std::set<std::string_view> keys;
    for (const Indicator& each : catalog()) {
        INFO(each.key);
        CHECK(keys.insert(each.key).second);
        CHECK(each.compute != nullptr);
        CHECK(each.reach != nullptr);
        CHECK_FALSE(each.help.empty());
        CHECK_FALSE(each.inputs.empty());
        CHECK(indicatorNamed(each.key) == &each);
        // One bar and no bar at all are borne.
        const std::vector<double> one{1.0};
        const std::vector<Values> columns(each.inputs.size(), one);
        std::vector<double> out(1);
        CHECK(each.compute({columns, settingsOf(each, 2), Span::whole()}, out));
        const std::vector<Values> none(each.inputs.size());
        CHECK(each.compute({none, settingsOf(each, 2), Span::whole()}, {}));
    }
}

TEST_CASE("Catalogue: a bar has the same bits however many are asked for at once", "[indicators]")
{
    const bool hasGaps = GENERATE(false, true);
    const int period = GENERATE(2, 5, 14, 40);
    constexpr std::size_t bars = 1700;
    for (const Indicator& each : catalog()) {
        const auto columns = columnsFor(each, bars, hasGaps);
        const Settings settings = settingsOf(each, period);
        const std::vector<Values> all(columns.begin(), columns.end());
        std::vector<double> whole(bars);
        REQUIRE(each.compute({all, settings, Span::whole()}, whole));
        std::size_t answered = 0;
        for (std::size_t bar = 0; bar < bars; bar += 13) {
            const std::size_t count = 1 + bar % 3; // one bar, or a few
            if (bar + count > bars)
                break;
            const std::size_t back = std::min(bar, each.reach(settings));
            std::vector<Values> part;
            for (const auto& column : columns)
                part.push_back(Values(column).subspan(bar - back, back + count));
            std::vector<double> some(count);
            if (!each.compute({part, settings, {bar - back, bar}}, some))
                continue;
            ++answered;
            for (std::size_t i = 0; i < count; ++i) {
                INFO(each.key << " of " << settings.period << ", bar " << bar + i);
                REQUIRE(sameBits(some[i], whole[bar + i]));
            }
        }
        INFO(each.key);
        CHECK(answered > 0);
    }
}

TEST_CASE("Catalogue: cutting the future changes nothing", "[indicators]")
{
    constexpr std::size_t bars = 900;
    for (const Indicator& each : catalog()) {
        const auto columns = columnsFor(each, bars, true);
        const Settings settings = settingsOf(each, 10);
        const std::vector<Values> all(columns.begin(), columns.end());
        std::vector<double> whole(bars);
        REQUIRE(each.compute({all, settings, Span::whole()}, whole));
        for (const std::size_t cut : {1U, 37U, 700U}) {
            std::vector<Values> past;
            for (const auto& column : columns)
                past.push_back(Values(column).first(cut));
            std::vector<double> then(cut);
            REQUIRE(each.compute({past, settings, Span::whole()}, then));
            for (std::size_t bar = 0; bar < cut; ++bar) {
                INFO(each.key << ", bar " << bar << " of " << cut);
                REQUIRE(sameBits(then[bar], whole[bar]));
            }
        }
    }
}

TEST_CASE("Wide loops: give the bits of the plain ones", "[indicators]")
{
    constexpr std::size_t bars = 1203; // no multiple of any width
    const bool hasGaps = GENERATE(false, true);
    for (const Indicator& each : catalog()) {
        const auto columns = columnsFor(each, bars, hasGaps);
        const Settings settings = settingsOf(each, 14);
        const std::vector<Values> all(columns.begin(), columns.end());
        std::vector<double> wide(bars);
        std::vector<double> plain(bars);
        REQUIRE(each.compute({all, settings, Span::whole()}, wide));
        REQUIRE(test::computePlain(each.key, all, settings.period, settings.factors, 0, 0, plain));
        for (std::size_t bar = 0; bar < bars; ++bar) {
            INFO(each.key << ", bar " << bar);
            REQUIRE(sameBits(wide[bar], plain[bar]));
        }
    }
    using engine::Op;
    demo_market::Dice dice(6);
    std::array<std::vector<double>, 3> values;
    for (std::vector<double>& column : values)
        for (std::size_t bar = 0; bar < bars; ++bar)
            column.push_back(dice.chance(0.1)   ? missing
                             : dice.chance(0.3) ? static_cast<double>(dice.below(2))
                                                : dice.between(-3, 3));
    const std::array<const double*, 3> inputs{values[0].data(), values[1].data(), values[2].data()};
    for (auto op = static_cast<int>(Op::Negate); op <= static_cast<int>(Op::Floor); ++op) {
        std::vector<double> wide(bars);
        std::vector<double> plain(bars);
        engine::combine(static_cast<Op>(op), inputs, wide);
        test::combinePlain(op, inputs, plain);
        for (std::size_t bar = 0; bar < bars; ++bar) {
            INFO("op " << op << ", bar " << bar);
            REQUIRE(sameBits(wide[bar], plain[bar]));
        }
    }
}

} // namespace sieve::indicators
