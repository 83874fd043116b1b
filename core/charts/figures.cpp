#include "core/charts/figures.h"

#include "core/patterns/swings.h"

#include <algorithm>
#include <fmt/format.h>

namespace sieve::charts {

namespace {

exports::Cell cellAt(const std::vector<double>& values, std::size_t bar, bool isCondition)
{
    if (bar >= values.size() || isMissing(values[bar]))
        return {};
    return isCondition ? exports::Cell(values[bar] == 1.0) : exports::Cell(values[bar]);
}

/// What the turns of prices say: "highs and lows rise", and the last turn that is known.
std::string turnsText(const market::Bars& bars)
{
    constexpr double reversal = 0.08;
    const auto turns = patterns::swingsByReversal(bars.high, bars.low, reversal);
    if (turns.empty())
        return {};
    std::string text;
    if (turns.size() >= 4) { // the last two of each kind
        const auto* last = &turns.back();
        const bool isFirstUp = last[0].price > last[-2].price;
        const bool isSecondUp = last[-1].price > last[-3].price;
        text = isFirstUp && isSecondUp     ? ", highs and lows rise"
               : !isFirstUp && !isSecondUp ? ", highs and lows fall"
                                           : ", highs and lows do not agree";
    }
    const patterns::Swing& turn = turns.back();
    return text + fmt::format(", last turn a {} at {:.2f} on {}",
                              turn.turn == patterns::Turn::High ? "high" : "low", turn.price,
                              bars.days[turn.bar].iso());
}

/// "up 3.1 %", "down 0.2 %" or "unchanged".
std::string moveText(double change)
{
    const double percent = 100.0 * change;
    if (percent > -0.05 && percent < 0.05)
        return "unchanged";
    return fmt::format("{} {:.1f} %", percent > 0.0 ? "up" : "down", std::abs(percent));
}

} // namespace

std::string clockText(int minute)
{
    return fmt::format("{:02}:{:02}", minute / 60, minute % 60);
}

exports::Sheet figuresOf(const Chart& chart)
{
    exports::Sheet sheet;
    const market::Bars& bars = *chart.bars;
    struct Column {
        const std::vector<double>* values;
        bool isCondition;
    };
    std::vector<Column> columns;
    const auto add = [&](const std::string& name, Unit unit, const std::vector<double>& values,
                         bool isCondition = false) {
        sheet.columns.push_back(name);
        sheet.units.push_back(unit);
        columns.push_back({&values, isCondition});
    };
    sheet.columns.emplace_back("day");
    sheet.units.push_back(Unit::Plain);
    if (chart.isOfMinutes()) {
        sheet.columns.emplace_back("time");
        sheet.units.push_back(Unit::Plain);
    }
    add("open", Unit::Money, bars.open);
    add("high", Unit::Money, bars.high);
    add("low", Unit::Money, bars.low);
    add("close", Unit::Money, bars.close);
    add("volume", Unit::Shares, bars.volume);
    for (const Pane& pane : chart.panes)
        for (const Layer& layer : pane.layers) {
            if (layer.error || layer.setUp.show == "volume")
                continue;
            add(layer.setUp.show, layer.unit, *layer.values, isOfCondition(layer.setUp.form));
            if (isOfTwo(layer.setUp.form))
                add(layer.setUp.to, layer.unit, *layer.to, isOfCondition(layer.setUp.form));
        }
    for (std::size_t bar = 0; bar < bars.size(); ++bar) {
        auto& row = sheet.rows.emplace_back();
        row.emplace_back(bars.days[bar]);
        if (chart.isOfMinutes())
            row.emplace_back(clockText(chart.clock[bar]));
        for (const Column& column : columns)
            row.push_back(cellAt(*column.values, bar, column.isCondition));
    }
    return sheet;
}

std::string spokenSummary(const Chart& chart, std::size_t bars)
{
    if (chart.size() == 0)
        return chart.symbol.empty() ? std::string()
                                    : fmt::format("{} has no {} by this day", chart.symbol,
                                                  chart.isOfMinutes() ? "minutes" : "prices");
    const std::vector<double>& closes = chart.bars->close;
    const std::size_t last = closes.size() - 1;
    std::string text = fmt::format("{} closed at {:.2f} on {}", chart.symbol, closes[last],
                                   chart.bars->days[last].iso());
    const std::string unit = chart.isOfMinutes() ? fmt::format("{} minutes", chart.setUp.minutes)
                                                 : std::string(barScaleName(chart.setUp.scale));
    if (last > 0)
        text +=
            fmt::format(", {} on the {}", moveText(closes[last] / closes[last - 1] - 1.0), unit);
    if (const std::size_t back = std::min(bars, last); back > 1)
        text += fmt::format(", {} over {} {}", moveText(closes[last] / closes[last - back] - 1.0),
                            back, chart.isOfMinutes() ? "bars" : unit + "s");
    for (const Layer& layer : chart.panes.front().layers) {
        const bool isLine = layer.setUp.form == LayerForm::Line && !layer.error &&
                            !layer.setUp.hasScaleAtLeft && layer.unit == Unit::Money;
        if (!isLine || layer.values->empty() || !(layer.values->back() > 0.0))
            continue;
        const double apart = closes[last] / layer.values->back() - 1.0;
        text += fmt::format(", {:.1f} % {} {}", std::abs(100.0 * apart),
                            apart < 0.0 ? "below" : "above", layer.title);
    }
    return text + turnsText(*chart.bars);
}

} // namespace sieve::charts
