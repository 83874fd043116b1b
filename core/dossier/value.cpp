#include "core/base/quantile.h"
#include "core/dossier/parts.h"
#include "core/market/as_of.h"
#include "core/valuation/fair_value.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

// What a share is worth: by what it earns, pays and sells, at today's and at its usual multiples;
// and the other way round, which growth its price assumes.

namespace sieve::dossier {

namespace {

using valuation::Driver;

constexpr std::size_t fiveYears = 1260; // bars

Table driversTable(const Subject& subject)
{
    Table table{"value.drivers",
                "Per share",
                Form::Table,
                {"four quarters", "growth a year, five years", "next year by trend",
                 "next year expected", "multiple today", "usual multiple"}};
    for (const Driver& driver : valuation::drivers) {
        Row row{std::string(driver.title)};
        for (const std::string_view field : {driver.last, driver.growth, driver.trend,
                                             driver.expected, driver.multiple, driver.usual})
            row.cells.push_back({.expression = std::string(field)});
        row.meaning = meaningOf(std::string(driver.last), subject);
        table.rows.push_back(std::move(row));
    }
    return table;
}

Table valuesTable(const Subject& subject)
{
    Table table{
        "value.values", "Values", Form::Values, {"per share", "times", "worth", "over the price"}};
    for (const char* field : {"fair_value_low", "fair_value", "fair_value_high"}) {
        Row row{.title = titleOf(field, subject), .meaning = meaningOf(field, subject)};
        row.cells.resize(2);
        row.cells.push_back({.expression = field});
        row.cells.push_back({.expression = std::string(field) + " / close - 1",
                             .unit = Unit::Percent,
                             .decimals = 0});
        table.rows.push_back(std::move(row));
    }
    for (const valuation::FairValue& value : valuation::fairValues()) {
        const std::string field(value.field);
        Row row{.title = value.title,
                .group = std::string(valuation::drivers[value.driver].title),
                .meaning = meaningOf(field, subject)};
        row.cells.push_back({.expression = std::string(value.perShare)});
        row.cells.push_back({.expression = std::string(value.multiple), .decimals = 2});
        row.cells.push_back({.expression = field});
        row.cells.push_back(
            {.expression = field + " / close - 1", .unit = Unit::Percent, .decimals = 0});
        table.rows.push_back(std::move(row));
    }
    return table;
}

/// The least, the lower quarter, the middle, the upper quarter and the most of what is known.
std::array<double, 5> rangeOf(std::vector<double> values)
{
    std::erase_if(values, [](double value) { return isMissing(value); });
    std::ranges::sort(values);
    return {quantileOf(values, 0.0), quantileOf(values, 0.25), quantileOf(values, 0.5),
            quantileOf(values, 0.75), quantileOf(values, 1.0)};
}

/// What the stocks of its industry have of each field on the day.
std::vector<std::vector<double>> industryOf(std::span<const std::string> fields,
                                            const Subject& subject, const Progress& progress)
{
    const market::Market& market = subject.evaluator.market();
    const std::string& industry = market.instrument(subject.stock).industry;
    std::vector<std::vector<double>> values(fields.size());
    if (industry.empty())
        return values;
    engine::Plan plan;
    std::vector<engine::NodeId> targets;
    for (const std::string& field : fields)
        targets.push_back(language::check(field, subject.names, plan)->node);
    const auto columns = subject.evaluator.columns(plan, targets, subject.day, progress);
    for (const std::size_t stock : market::stocksListed(market, subject.day))
        if (market.instrument(stock).industry == industry)
            for (std::size_t i = 0; i < fields.size(); ++i)
                values[i].push_back((*columns[i])[stock]);
    return values;
}

/// Today's multiples in the range of their own five years, and in that of the industry today.
Table multiplesTable(const Subject& subject, const Progress& progress)
{
    Table table{"value.multiples",
                "Multiples in five years, and in the industry today",
                Form::Ranges,
                {"today", "least", "lower quarter", "middle", "upper quarter", "most",
                 "industry, least", "lower quarter", "middle", "upper quarter", "most"}};
    std::vector<std::string> fields;
    for (const Driver& driver : valuation::drivers)
        fields.emplace_back(driver.multiple);
    fields.emplace_back("price_to_book");
    fields.emplace_back("ev_to_ebitda");
    const auto histories = historiesOf(fields, subject, progress, fiveYears);
    const auto industries = industryOf(fields, subject, progress);
    for (std::size_t i = 0; i < fields.size(); ++i) {
        Row row{.title = titleOf(fields[i], subject), .meaning = meaningOf(fields[i], subject)};
        row.cells.push_back({.expression = fields[i]});
        for (const auto& range : {rangeOf(histories[i]), rangeOf(industries[i])})
            for (const double value : range)
                row.cells.push_back({.value = value, .unit = Unit::Ratio, .decimals = 1});
        table.rows.push_back(std::move(row));
    }
    table.notes.emplace_back(
        "Above its own five years, below its industry today, each from the "
        "least to the most, thick in the middle half. The stroke through both is today's.");
    return table;
}

Table assumedTable(const Subject& subject)
{
    const DiscountModel& model = subject.choices.model;
    Table table{"value.assumed",
                "Growth that the price assumes",
                Form::Table,
                {"assumed a year", "last five years, a year", "multiple today"}};
    for (const Driver& driver : valuation::drivers) {
        if (!driver.isValued)
            continue;
        Row row{std::string(driver.title)};
        row.meaning = fmt::format(
            "Growth a year for {:g} years that makes what a share has of it, growing {:g} % a year "
            "after and discounted by {:g} % a year, worth the price",
            model.years, 100.0 * model.lasting, 100.0 * model.discount);
        row.cells.push_back(
            {.expression = fmt::format("implied_growth({}, {}, {}, {})", driver.multiple,
                                       model.years, model.discount, model.lasting),
             .decimals = 1});
        row.cells.push_back({.expression = std::string(driver.growth)});
        row.cells.push_back({.expression = std::string(driver.multiple)});
        table.rows.push_back(std::move(row));
    }
    table.notes.push_back(fmt::format("Discounted by {:g} % a year; for {:g} years, then growing "
                                      "{:g} % a year for ever.",
                                      100.0 * model.discount, model.years, 100.0 * model.lasting));
    return table;
}

/// Why what goes into a value is missing.
std::string whyNot(const Driver& driver, const valuation::FairValue& value, const Table& drivers,
                   std::size_t row)
{
    const auto& cells = drivers.rows[row].cells;
    const std::string what(driver.title);
    if (isMissing(cells[0].value))
        return what + " of the last four quarters: not known.";
    if (!(cells[0].value > 0.0))
        return what + " of the last four quarters: not positive.";
    if (value.basis == valuation::Basis::Trend && isMissing(cells[1].value))
        return what + " of five years ago: not known, or not positive.";
    if (value.basis == valuation::Basis::Expected && isMissing(cells[3].value))
        return "Nobody is known to expect anything positive for the next year.";
    return "The usual multiple: known on less than half of five years.";
}

} // namespace

void layOutValue(Part& part, const Subject& subject, const Progress& progress)
{
    part.tables.push_back(valuesTable(subject));
    part.tables.push_back(driversTable(subject));
    part.tables.push_back(multiplesTable(subject, progress));
    part.tables.push_back(assumedTable(subject));
}

void tellValue(Part& part, const Subject&)
{
    Table& values = part.tables[0];
    const Table& drivers = part.tables[1];
    const auto all = valuation::fairValues();
    const std::size_t sums = values.rows.size() - all.size();
    std::size_t known = 0;
    for (std::size_t i = 0; i < all.size(); ++i) {
        Cell& worth = values.rows[sums + i].cells[2];
        if (isMissing(worth.value))
            worth.note = whyNot(valuation::drivers[all[i].driver], all[i], drivers, all[i].driver);
        else
            known += all[i].isUsual && all[i].basis == valuation::Basis::Last ? 1 : 0;
    }
    const auto worth = [&](std::size_t row, std::size_t cell) {
        return values.rows[row].cells[cell].value;
    };
    if (isMissing(worth(1, 2)))
        part.words.push_back(
            known == 0 ? "No value can be told: what it takes is not positive, not known, or not "
                         "known long enough."
                       : "One value alone is known: too few to tell a fair value.");
    else
        part.words.push_back(
            fmt::format("{} values at usual multiples from {:.2f} to {:.2f}; their "
                        "mean, {:.2f}, is {:.0f} % {} the price.",
                        known, worth(0, 2), worth(2, 2), worth(1, 2),
                        std::fabs(100.0 * worth(1, 3)), worth(1, 3) < 0.0 ? "under" : "over"));
    // What is not known of anything has been said already.
    for (Table& table : std::span(part.tables).subspan(1))
        dropUnknown(table);
    std::erase_if(part.tables, [](const Table& table) { return table.rows.empty(); });
}

} // namespace sieve::dossier
