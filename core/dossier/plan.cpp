#include "core/dossier/parts.h"
#include "core/market/as_of.h"
#include "core/patterns/swings.h"

#include <algorithm>
#include <array>
#include <fmt/format.h>

// What a purchase at the close would risk: where to be out again, how many shares that allows, what
// they would have to reach.

namespace sieve::dossier {

namespace {

/// A price that a purchase is measured by.
struct PriceRow {
    const char* title;
    const char* meaning;
    const char* price;
};
constexpr std::array stops{
    PriceRow{"Two true ranges", "Two average true ranges of 14 bars below the close",
             "close - 2 * atr(14)"},
    PriceRow{"Three true ranges", "Three average true ranges of 14 bars below the close",
             "close - 3 * atr(14)"},
    PriceRow{"Low of 10 bars", "The lowest price of the last 10 bars", "lowest(low, 10)"},
    PriceRow{"Low of 20 bars", "The lowest price of the last 20 bars", "lowest(low, 20)"},
    PriceRow{"Average of 50", "The mean close of 50 bars, where the price is above it",
             "sma(close, 50)"},
    PriceRow{"Eight percent", "Eight percent below the close", "close * 0.92"},
    PriceRow{"Your drawing “stop”", "The line that you drew and called “stop”",
             "drawing(\"stop\")"},
};

constexpr std::array goals{
    PriceRow{"High of a year", "The highest price of 252 bars", "highest(high, 252)"},
    PriceRow{"Analysts' target", "Mean of the targets that research houses gave within a half year",
             "price_target"},
    PriceRow{"Fair value", "Mean of the worths of the part Value", "fair_value"},
    PriceRow{"Your drawing “target”", "The line that you drew and called “target”",
             "drawing(\"target\")"},
};

/// Whether it asks for a drawing that the person has not made.
bool isAbsentDrawing(const PriceRow& row, const Subject& subject)
{
    engine::Plan plan;
    return std::string_view(row.price).starts_with("drawing(") &&
           !language::check(row.price, subject.names, plan);
}

/// The last rise, once more from the low that followed it: A to B again from C, where A, B and C
/// are the last three turns of eight percent, a low, a high and a low. Missing: without three such
/// turns.
double measuredMove(const Subject& subject)
{
    const market::AsOf asOf(subject.evaluator.marketPtr(), subject.day);
    const market::Bars bars = asOf.adjustedBars(subject.stock);
    constexpr double reversal = 0.08;
    const auto swings = patterns::swingsByReversal(bars.high, bars.low, reversal);
    const std::size_t lows = !swings.empty() && swings.back().turn == patterns::Turn::Low ? 1 : 2;
    if (swings.size() < lows + 2)
        return missing;
    const auto* c = &swings[swings.size() - lows];
    return c->price + (c[-1].price - c[-2].price);
}

/// What the price may reach, each with its distance.
Table goalsTable(const Subject& subject)
{
    Table table{"plan.goals", "What it may reach", Form::Table, {"price", "over the close"}};
    const auto add = [&](std::string title, std::string meaning, std::string_view price) {
        Row row{.title = std::move(title), .meaning = std::move(meaning)};
        const std::string above = fmt::format("if({0} > close, {0}, no_data)", price);
        row.cells = {{.expression = above, .unit = Unit::Money, .decimals = 2},
                     {.expression = above + " / close - 1", .unit = Unit::Percent, .decimals = 1}};
        table.rows.push_back(std::move(row));
    };
    if (const double move = measuredMove(subject); !isMissing(move))
        add("Measured move",
            "The last rise once more, from the low after it; turns of eight percent",
            fmt::format("{:.6f}", move));
    for (const PriceRow& goal : goals)
        if (!isAbsentDrawing(goal, subject))
            add(goal.title, goal.meaning, goal.price);
    return table;
}

/// The person's own plan: level by level, from the stop up.
Table ownTable(const watchlists::TradePlan& plan, const watchlists::PlanSize& size)
{
    Table table{
        "plan.own", "Your plan", Form::Table, {"price", "from the entry", "times the risk"}};
    const auto add = [&](std::string title, double price, double risks) {
        Row row{.title = std::move(title)};
        row.cells = {{.value = price, .unit = Unit::Money, .decimals = 2},
                     {.value = price / plan.entry - 1.0, .unit = Unit::Percent, .decimals = 1},
                     {.value = risks, .unit = Unit::Ratio, .decimals = 1}};
        table.rows.push_back(std::move(row));
    };
    for (std::size_t i = plan.targets.size(); i-- > 0;)
        add(plan.targets.size() == 1 ? "Target" : fmt::format("Target {}", i + 1), plan.targets[i],
            size.rewards[i]);
    add("Entry", plan.entry, 0.0);
    add("Stop", plan.stop, -1.0);
    return table;
}

std::string ownWords(const watchlists::TradePlan& plan, const watchlists::PlanSize& size)
{
    return fmt::format(
        "{:.0f} shares{}, worth {:.0f}; {:.0f} are lost at the stop, {:.2f} % of the "
        "account.",
        size.shares,
        plan.isHalfNow ? fmt::format(", {:.0f} of them now", size.half) : std::string(), size.worth,
        size.lost, 100.0 * size.ofAccount);
}

/// Part of a day's usual volume that can be sold without moving the price much.
constexpr double sellable = 0.1;

} // namespace

void layOutPlan(Part& part, const Subject& subject, const Progress&)
{
    if (subject.evaluator.market().isIndex(subject.stock)) {
        part.words.emplace_back("An index is not bought.");
        return;
    }
    const watchlists::PlanTerms terms = watchlists::inCurrencyOf(
        subject.choices.plan, subject.evaluator.market(), subject.stock, subject.day);
    if (isMissing(terms.account)) {
        part.words.emplace_back("No exchange rate of its currency is known by this day, so that no "
                                "size can be told.");
        return;
    }
    Table table{"plan.stops",
                "From a stop to a size",
                Form::Table,
                {"stop", "under the price", "shares", "half", "worth", "of the account",
                 "days to get out", "twice the risk", "three times"}};
    for (const PriceRow& stop : stops) {
        if (isAbsentDrawing(stop, subject))
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
    if (const auto& planned = subject.choices.planned) {
        const watchlists::PlanSize size = watchlists::sizeOf(*planned, terms);
        part.tables.push_back(ownTable(*planned, size));
        part.words.push_back(ownWords(*planned, size));
        Row out{.title = "Days to get out",
                .meaning = "Shares of the plan by a tenth of a usual day's volume"};
        out.cells.push_back(
            {.expression = fmt::format("{} / ({} * sma(volume, 20))", size.shares, sellable),
             .unit = Unit::Days,
             .decimals = 1});
        part.tables.back().rows.push_back(std::move(out));
    }
    part.tables.push_back(std::move(table));
    part.tables.push_back(goalsTable(subject));
}

void tellPlan(Part& part, const Subject& subject)
{
    for (Table& table : part.tables)
        if (table.key != "plan.own")
            std::erase_if(table.rows, [](const Row& row) { return isMissing(row.cells[0].value); });
    std::erase_if(part.tables, [](const Table& table) { return table.rows.empty(); });
    const auto hasStops = std::ranges::count(part.tables, "plan.stops", &Table::key) > 0;
    if (!hasStops && !subject.evaluator.market().isIndex(subject.stock))
        part.words.emplace_back("No stop lies under the price, or there is no price.");
}

} // namespace sieve::dossier
