#include "core/charts/marks.h"
#include "core/dossier/parts.h"
#include "core/market/as_of.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <fmt/format.h>

// What happened, newest first, each beside how far the price went that day.

namespace sieve::dossier {

namespace {

using charts::MarkKind;

constexpr std::size_t eventsShown = 80;
constexpr std::array shown{MarkKind::Report, MarkKind::Dividend, MarkKind::Split,
                           MarkKind::News,   MarkKind::Rating,   MarkKind::Entry};

std::string kindOf(MarkKind kind)
{
    switch (kind) {
    case MarkKind::Report:
        return "report";
    case MarkKind::Dividend:
        return "dividend";
    case MarkKind::Split:
        return "split";
    case MarkKind::Rating:
        return "opinion";
    case MarkKind::Entry:
        return "own list";
    default:
        return "news";
    }
}

} // namespace

void layOutEvents(Part& part, const Subject& subject, const Progress& progress)
{
    const market::AsOf asOf(subject.evaluator.marketPtr(), subject.day);
    const market::Bars bars = asOf.adjustedBars(subject.stock);
    if (bars.days.empty()) {
        part.words.emplace_back("It has not traded by this day.");
        return;
    }
    const charts::MarkSources sources{subject.evaluator, subject.names, subject.stock,
                                      subject.day,       bars,          bars.days.front(),
                                      subject.lists,     false}; // a column of its own tells how
                                                                 // far the price went
    std::vector<charts::Mark> marks = charts::marksOf(sources, shown, progress);
    std::ranges::reverse(marks);
    // A usual move is the mean size of the daily changes of the sixty bars before the day.
    const std::string moves[] = {"change(close, 1)",
                                 "abs(change(close, 1)) / prior(sma(abs(change(close, 1)), 60))"};
    const auto values = historiesOf(moves, subject, progress);
    Table table{"events.all",
                "What happened",
                Form::Events,
                {"day", "kind", "what", "the price that day", "in usual moves"}};
    for (const charts::Mark& mark : marks) {
        if (table.rows.size() == eventsShown) {
            table.notes.push_back(
                fmt::format("{} earlier ones are not shown.", marks.size() - eventsShown));
            break;
        }
        Row row{mark.day.iso()};
        row.cells.push_back(dayCell(mark.day));
        row.cells.push_back({.kind = Kind::Text, .decimals = 0, .text = kindOf(mark.kind)});
        row.cells.push_back({.kind = Kind::Text, .decimals = 0, .text = mark.text});
        const auto of = [&](std::size_t which) {
            return mark.bar < values[which].size() ? values[which][mark.bar] : missing;
        };
        row.cells.push_back({.value = of(0), .unit = Unit::Percent, .decimals = 1});
        row.cells.push_back({.value = of(1), .unit = Unit::Ratio, .decimals = 1});
        table.rows.push_back(std::move(row));
    }
    if (table.rows.empty())
        part.words.emplace_back("No event of this stock is known.");
    else
        part.tables.push_back(std::move(table));
}

} // namespace sieve::dossier
