#include "core/dossier/happenings.h"

#include "core/charts/marks.h"
#include "core/dossier/parts.h"
#include "core/market/as_of.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <fmt/format.h>

// What happened to a stock, newest first, each beside how far the price went that day.

namespace sieve::dossier {

namespace {

using charts::MarkKind;

constexpr std::size_t eventsShown = 80;
constexpr std::array shown{MarkKind::Report, MarkKind::Dividend, MarkKind::Split,
                           MarkKind::News,   MarkKind::Rating,   MarkKind::Entry};
constexpr std::array told{MarkKind::Report, MarkKind::Dividend, MarkKind::Split, MarkKind::News,
                          MarkKind::Rating}; ///< not what the person did

constexpr const char* dayChange = "change(close, 1)";
/// A day's change in units of the mean size of the daily changes of the sixty bars before it.
constexpr const char* inUsualMoves =
    "abs(change(close, 1)) / prior(sma(abs(change(close, 1)), 60))";

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

struct Days {
    Day from;
    Day to;
};

/// Without a span, all of them.
Table happeningsOf(const Subject& subject, std::span<const MarkKind> kinds,
                   const std::optional<Days>& span, const Progress& progress)
{
    Table table{"events.all",
                "What happened",
                Form::Events,
                {"day", "kind", "what", "the price that day", "in usual moves"}};
    const market::AsOf asOf(subject.evaluator.marketPtr(), subject.day);
    const market::Bars bars = asOf.adjustedBars(subject.stock);
    if (bars.days.empty())
        return table;
    const charts::MarkSources sources{subject.evaluator, subject.names, subject.stock,
                                      subject.day,       bars,          bars.days.front(),
                                      subject.lists,     false}; // a column of its own tells how
                                                                 // far the price went
    std::vector<charts::Mark> marks = charts::marksOf(sources, kinds, progress);
    if (span)
        std::erase_if(marks, [&](const charts::Mark& mark) {
            return mark.day < span->from || mark.day > span->to;
        });
    if (marks.empty())
        return table;
    std::ranges::reverse(marks);
    const std::string moves[] = {dayChange, inUsualMoves};
    const std::size_t first = marks.back().bar;
    const auto values = historiesOf(moves, subject, progress, bars.days.size() - first);
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
            const std::size_t at = mark.bar - first;
            return at < values[which].size() ? values[which][at] : missing;
        };
        row.cells.push_back({.value = of(0), .unit = Unit::Percent, .decimals = 1});
        row.cells.push_back({.value = of(1), .unit = Unit::Ratio, .decimals = 1});
        table.rows.push_back(std::move(row));
    }
    return table;
}

struct Mover {
    const char* title;
    const char* meaning;
    const char* change;
};
constexpr std::array movers{
    Mover{"The stock", "Change of its close from the bar before", dayChange},
    Mover{"Its industry", "Median change of the stocks of its industry",
          "median(change(close, 1), within = industry)"},
    Mover{"Its sector", "Median change of the stocks of its sector",
          "median(change(close, 1), within = sector)"},
    Mover{"All stocks", "Median change of all stocks", "median(change(close, 1))"},
    Mover{"The benchmark", "Change of the market's benchmark", "benchmark(change(close, 1))"},
};

/// How the move splits: what went with the market and the industry, and what is its own.
std::string splitInWords(const Table& table)
{
    const double own = table.rows[0].cells[0].value;
    const double industry = table.rows[1].cells[0].value;
    const double all = table.rows[3].cells[0].value;
    if (isMissing(own) || isMissing(all))
        return {};
    const auto percent = [](double share) { return fmt::format("{:+.1f} %", 100.0 * share); };
    if (isMissing(industry))
        return fmt::format("Of {}, {} went with all stocks and {} were its own.", percent(own),
                           percent(all), percent(own - all));
    return fmt::format("Of {}, {} went with all stocks, {} more with its industry, and {} were "
                       "its own.",
                       percent(own), percent(all), percent(industry - all),
                       percent(own - industry));
}

} // namespace

void layOutEvents(Part& part, const Subject& subject, const Progress& progress)
{
    if (!market::lastBarBy(subject.evaluator.market(), subject.stock, subject.day)) {
        part.words.emplace_back("It has not traded by this day.");
        return;
    }
    Table table = happeningsOf(subject, shown, std::nullopt, progress);
    if (table.rows.empty())
        part.words.emplace_back("No event of this stock is known.");
    else
        part.tables.push_back(std::move(table));
}

Dossier whyItMoved(const Subject& subject, Day day, const Progress& progress)
{
    const market::Market& market = subject.evaluator.market();
    Dossier made = emptyDossier(subject);
    Part part{"move", "Why did it move on " + day.iso() + "?"};
    const auto bar = market::barOn(market, subject.stock, std::min(day, subject.day));
    if (!bar || market.bars(subject.stock).days[*bar] != day) {
        part.words.emplace_back("It did not trade on this day.");
        made.parts.push_back(std::move(part));
        return made;
    }
    Table table{"move.sizes", "How far", Form::Table, {"change"}};
    for (const Mover& mover : movers) {
        Row row{.title = mover.title, .meaning = mover.meaning};
        row.cells.push_back({.expression = mover.change, .unit = Unit::Percent, .decimals = 1});
        table.rows.push_back(std::move(row));
    }
    Table sizes{"move.usual", "Times the usual", Form::Table, {"times"}};
    for (const auto& [title, meaning, expression] :
         {std::tuple{"Change", "In units of the mean daily change of the sixty bars before",
                     inUsualMoves},
          std::tuple{"Volume", "Against the mean of the twenty bars before", "relative_volume_20"},
          std::tuple{"Range", "True range against the mean of fourteen bars before",
                     "true_range_today / prior(atr_14)"}}) {
        Row row{.title = title, .meaning = meaning};
        row.cells.push_back({.expression = expression, .unit = Unit::Ratio, .decimals = 1});
        sizes.rows.push_back(std::move(row));
    }
    part.tables = {std::move(table), std::move(sizes)};
    Subject then = subject; // figures as of the bar, what was said by today
    then.day = day;
    std::vector<Part> parts{std::move(part)};
    evaluate(parts, then, progress);
    part = std::move(parts[0]);
    if (const std::string split = splitInWords(part.tables[0]); !split.empty())
        part.words.push_back(split);
    dropUnknown(part);
    constexpr int around = 5; // calendar days
    const Days span{Day::fromSerial(day.serial() - around), Day::fromSerial(day.serial() + around)};
    Table said = happeningsOf(subject, told, span, progress);
    said.key = "move.said";
    said.title = "What was said in the days around it";
    if (said.rows.empty())
        part.words.push_back(
            fmt::format("Nothing was said within {} days before or after.", around));
    else
        part.tables.push_back(std::move(said));
    made.parts.push_back(std::move(part));
    return made;
}

Dossier digestOf(const Subject& subject, std::span<const FollowedStock> followed,
                 const Progress& progress)
{
    const market::Market& market = subject.evaluator.market();
    Dossier made = emptyDossier(subject);
    Part part{"digest", "New about those you follow"};
    std::vector<std::string> silent;
    for (const FollowedStock& each : followed) {
        if (progress.stopRequested())
            throw Stopped{};
        Subject of = subject;
        of.stock = each.stock;
        const std::string symbol = market::symbolOn(market.instrument(each.stock), subject.day);
        Table table = happeningsOf(
            of, told, Days{Day::fromSerial(each.seenTo.serial() + 1), subject.day}, progress);
        if (table.rows.empty()) {
            silent.push_back(symbol);
            continue;
        }
        table.key = "digest." + symbol;
        table.title =
            symbol + ", " + market.instrument(each.stock).name + ", since " + each.seenTo.iso();
        for (Row& row : table.rows)
            row.stock = each.stock;
        part.tables.push_back(std::move(table));
    }
    if (followed.empty())
        part.words.emplace_back("You follow no stock.");
    if (!silent.empty())
        part.words.push_back(fmt::format("Nothing new about {}.", fmt::join(silent, ", ")));
    made.parts.push_back(std::move(part));
    return made;
}

} // namespace sieve::dossier
