#include "core/dossier/parts.h"

#include <algorithm>
#include <array>
#include <fmt/format.h>

// What a purchase at the close would risk: where to be out again, how many shares that allows, what
// they would have to reach.

namespace sieve::dossier {

namespace {

struct Stop {
    const char* title;
    const char* meaning;
    const char* price;
};
constexpr std::array stops{
    Stop{"Two true ranges", "Two average true ranges of 14 bars below the close",
         "close - 2 * atr(14)"},
    Stop{"Three true ranges", "Three average true ranges of 14 bars below the close",
         "close - 3 * atr(14)"},
    Stop{"Low of 10 bars", "The lowest price of the last 10 bars", "lowest(low, 10)"},
    Stop{"Low of 20 bars", "The lowest price of the last 20 bars", "lowest(low, 20)"},
    Stop{"Average of 50", "The mean close of 50 bars, where the price is above it",
         "sma(close, 50)"},
    Stop{"Eight percent", "Eight percent below the close", "close * 0.92"},
    Stop{"Your drawing “stop”", "The line that you drew and called “stop”", "drawing(\"stop\")"},
};

/// Part of a day's usual volume that can be sold without moving the price much.
constexpr double sellable = 0.1;

} // namespace

void layOutPlan(Part& part, const Subject& subject, const Progress&)
{
    if (subject.evaluator.market().isIndex(subject.stock)) {
        part.words.emplace_back("An index is not bought.");
        return;
    }
    const PlanTerms& terms = subject.choices.plan;
    Table table{"plan.stops",
                "From a stop to a size",
                Form::Table,
                {"stop", "under the price", "shares", "half", "worth", "of the account",
                 "days to get out", "twice the risk", "three times"}};
    for (const Stop& stop : stops) {
        const bool isDrawn = std::string_view(stop.price).starts_with("drawing");
        if (isDrawn && !(subject.names.drawing && subject.names.drawing("stop")))
            continue;
        Row row{.title = stop.title, .meaning = stop.meaning};
        const std::string price = fmt::format("if({0} < close, {0}, no_data)", stop.price);
        const std::string risk = fmt::format("(close - {})", price);
        // No more than the account can pay for.
        const std::string shares = fmt::format("floor(min({} / {}, {} / close))",
                                               terms.account * terms.risk, risk, terms.account);
        const auto add = [&](std::string expression, Unit unit, int decimals) {
            row.cells.push_back(
                {.expression = std::move(expression), .unit = unit, .decimals = decimals});
        };
        add(price, Unit::Money, 2);
        add(fmt::format("{} / close - 1", price), Unit::Percent, 1);
        add(shares, Unit::Shares, 0);
        add(fmt::format("floor({} / 2)", shares), Unit::Shares, 0);
        add(fmt::format("{} * close", shares), Unit::Money, 0);
        add(fmt::format("{} * close / {}", shares, terms.account), Unit::Percent, 0);
        add(fmt::format("{} / ({} * sma(volume, 20))", shares, sellable), Unit::Days, 1);
        add(fmt::format("close + 2 * {}", risk), Unit::Money, 2);
        add(fmt::format("close + 3 * {}", risk), Unit::Money, 2);
        table.rows.push_back(std::move(row));
    }
    table.notes.push_back(fmt::format(
        "Bought at the close; lost at the stop: {:g} % of an account of {:.0f}, in the stock's "
        "currency, and never more than it can pay for. A tenth of a usual day's volume is sold a "
        "day.",
        100.0 * terms.risk, terms.account));
    part.tables.push_back(std::move(table));
}

void tellPlan(Part& part, const Subject&)
{
    if (part.tables.empty())
        return;
    Table& table = part.tables[0];
    std::erase_if(table.rows, [](const Row& row) { return isMissing(row.cells[0].value); });
    if (!table.rows.empty())
        return;
    part.tables.clear();
    part.words.emplace_back("No stop lies under the price, or there is no price.");
}

} // namespace sieve::dossier
