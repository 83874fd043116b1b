#include "core/dossier/parts.h"
#include "core/market/as_of.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <fmt/format.h>

// Who holds the shares, by kind and report; who bought from whom; what is sold short.

namespace sieve::dossier {

namespace {

using market::OwnerKind;

struct Holder {
    OwnerKind kind;
    const char* title;
};
constexpr std::array holders{Holder{OwnerKind::Insiders, "Insiders"},
                             Holder{OwnerKind::DomesticInstitutions, "Domestic institutions"},
                             Holder{OwnerKind::ForeignInstitutions, "Foreign institutions"},
                             Holder{OwnerKind::Funds, "Funds"},
                             Holder{OwnerKind::Public, "Public"}};
constexpr int reportsShown = 8;
constexpr int reportsAYear = 4;

/// The days that reports are as of, oldest first: those of the kind that has most.
std::vector<Day> reportDays(const Subject& subject)
{
    std::vector<Day> days;
    for (const Holder& kind : holders) {
        std::vector<Day> own;
        for (int back = reportsShown - 1; back >= 0; --back)
            if (const auto row = market::ownersOn(subject.evaluator.market(), subject.stock,
                                                  kind.kind, back, subject.day))
                own.push_back(row->asOf);
        if (own.size() > days.size())
            days = std::move(own);
    }
    return days;
}

Table tableOf(const std::vector<Day>& days, const char* key, const char* title,
              const char* function)
{
    Table table{key, title, Form::Periods};
    for (const Day day : days)
        table.heads.push_back(day.iso());
    for (const Holder& kind : holders) {
        Row row{kind.title};
        for (int back = static_cast<int>(days.size()) - 1; back >= 0; --back)
            row.cells.push_back(
                {.expression = fmt::format("{}({}, {})", function, ownerKindName(kind.kind), back),
                 .decimals = std::string_view(function) == "held" ? 1 : 0});
        table.rows.push_back(std::move(row));
        if (std::string_view(function) != "held")
            continue;
        Row change{"difference from four reports before"};
        change.isOfFormer = true;
        for (int back = static_cast<int>(days.size()) - 1; back >= 0; --back)
            change.cells.push_back(
                {.expression = fmt::format("held({0}, {1}) - held({0}, {2})",
                                           ownerKindName(kind.kind), back, back + reportsAYear),
                 .unit = Unit::Percent,
                 .decimals = 1});
        table.rows.push_back(std::move(change));
    }
    return table;
}

} // namespace

void layOutOwners(Part& part, const Subject& subject, const Progress&)
{
    const std::vector<Day> days = reportDays(subject);
    if (!days.empty()) {
        part.tables.push_back(tableOf(days, "owners.shares", "Share of all shares", "held"));
        part.tables.push_back(tableOf(days, "owners.holders", "Holders", "holders"));
    }
    Table shorts{"owners.short", "Sold short", Form::Table, {"now"}};
    for (const char* field : {"short_interest", "short_share", "days_to_cover"}) {
        Row row{.title = titleOf(field, subject), .meaning = meaningOf(field, subject)};
        row.cells.push_back({.expression = field});
        shorts.rows.push_back(std::move(row));
    }
    part.tables.push_back(std::move(shorts));
}

void tellOwners(Part& part, const Subject&)
{
    dropUnknown(part);
    const auto shares = std::ranges::find(part.tables, "owners.shares", &Table::key);
    if (shares == part.tables.end()) {
        part.words.emplace_back("Who holds the shares is not known.");
        return;
    }
    // Who bought and who sold between the last two reports, by a tenth of a percent or more.
    std::string bought;
    std::string sold;
    for (const Row& row : shares->rows) {
        if (row.isOfFormer || row.cells.size() < 2)
            continue;
        const double change = row.cells.back().value - row.cells[row.cells.size() - 2].value;
        if (isMissing(change) || std::fabs(change) < 0.0005)
            continue;
        std::string& side = change > 0.0 ? bought : sold;
        side +=
            fmt::format("{}{} ({:+.1f} %)", side.empty() ? "" : ", ", row.title, 100.0 * change);
    }
    if (shares->heads.size() > 1 && bought.empty() && sold.empty())
        part.words.emplace_back("Nobody bought or sold much since the report before.");
    if (!bought.empty())
        part.words.push_back("Bought since the report before: " + bought + ".");
    if (!sold.empty())
        part.words.push_back("Sold: " + sold + ".");
}

} // namespace sieve::dossier
