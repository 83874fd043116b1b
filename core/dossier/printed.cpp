#include "core/dossier/printed.h"

#include "core/valuation/fair_value.h"

#include <algorithm>
#include <array>
#include <utility>

namespace sieve::dossier {

namespace {

constexpr std::array<std::string_view, 6> partsPrinted{"figures", "score", "value",
                                                       "results", "plan",  "verdict"};
constexpr std::array<std::string_view, 7> tablesPrinted{
    "figures.", "score.sides", "value.values",     "value.assumed",
    "years.",   "plan.",       "verdict.questions"};

bool isPrinted(const Table& table)
{
    return std::ranges::any_of(tablesPrinted,
                               [&](std::string_view key) { return table.key.starts_with(key); });
}

Row underItsDriver(Row row)
{
    row.title = std::exchange(row.group, {});
    return row;
}

/// The least, the mean and the most, and what each driver of today is worth at its usual multiple.
void keepUsualValues(Table& values)
{
    const auto all = valuation::fairValues();
    const std::size_t sums = values.rows.size() - all.size();
    std::vector<Row> kept(values.rows.begin(),
                          values.rows.begin() + static_cast<std::ptrdiff_t>(sums));
    for (std::size_t i = 0; i < all.size(); ++i)
        if (const Row& row = values.rows[sums + i]; all[i].isUsual &&
                                                    all[i].basis == valuation::Basis::Last &&
                                                    !isMissing(row.cells[2].value))
            kept.push_back(underItsDriver(row));
    values.title = "Values at usual multiples";
    values.rows = std::move(kept);
}

} // namespace

Dossier printedOf(const Dossier& dossier)
{
    Dossier brief = dossier;
    std::erase_if(brief.parts, [](const Part& part) {
        return std::ranges::find(partsPrinted, part.key) == partsPrinted.end();
    });
    for (Part& part : brief.parts) {
        const bool hasOwnPlan = std::ranges::count(part.tables, "plan.own", &Table::key) > 0;
        std::erase_if(part.tables, [&](const Table& table) {
            return !isPrinted(table) || table.key == "plan.goals" ||
                   (table.key == "plan.stops" && hasOwnPlan);
        });
        for (Table& table : part.tables)
            if (table.key == "value.values")
                keepUsualValues(table);
    }
    return brief;
}

} // namespace sieve::dossier
