#include "core/watchlists/list_sheet.h"

#include <fmt/format.h>

namespace sieve::watchlists {

namespace {

using exports::Cell;
using exports::Sheet;

Cell figureCell(double figure)
{
    return isMissing(figure) ? Cell() : Cell(figure);
}

Cell textCell(const std::string& text)
{
    return text.empty() ? Cell() : Cell(text);
}

Cell dayCell(const std::optional<Day>& day)
{
    return day ? Cell(*day) : Cell();
}

Cell countCell(std::size_t count)
{
    return static_cast<double>(count);
}

std::string joined(const std::vector<std::string>& texts)
{
    return fmt::format("{}", fmt::join(texts, ", "));
}

/// What was written down of it, one after another.
std::string notesOf(const Entry& entry)
{
    std::vector<std::string> notes;
    for (const Note& note : entry.page.notes)
        notes.push_back(note.on.iso() + ": " + note.text);
    return fmt::format("{}", fmt::join(notes, "\n"));
}

} // namespace

Sheet sheetOf(std::span<const Shared<Watchlist>> lists)
{
    Sheet sheet{{"name", "folder", "screen", "entries", "former", "archived"}, {}};
    for (const auto& list : lists)
        sheet.rows.push_back({list->name, textCell(list->head.folder), textCell(list->head.screen),
                              list->isKeptByRule() ? Cell() : countCell(list->entries.size()),
                              list->isKeptByRule() ? Cell() : countCell(list->former.size()),
                              list->head.isArchived});
    return sheet;
}

Sheet sheetOf(const ListTold& told, const market::Market* market)
{
    Sheet sheet{{"symbol",   "name",         "added_on",    "price_then", "reason",   "source",
                 "category", "tags",         "sign",        "review_on",  "state",    "state_since",
                 "plan_on",  "entry",        "stop",        "target_1",   "target_2", "target_3",
                 "target_4", "entry_rule",   "stop_rule",   "exit_rule",  "close",    "gain",
                 "highest",  "lowest",       "sessions",    "shares",     "paid",     "worth",
                 "realized", "lost_at_stop", "next_report", "checked",    "notes",    "links"},
                {}};
    for (std::size_t i = 0; i < told.entries.size(); ++i) {
        const Entry& entry = told.list.entries[i];
        const EntryTold& now = told.entries[i];
        const market::Instrument* stock =
            market && now.result.stock ? &market->instrument(*now.result.stock) : nullptr;
        const auto& plan = now.course.plan ? now.course.plan : entry.plan;
        auto& row = sheet.rows.emplace_back();
        row = {
            stock ? stock->symbol : entry.symbol,
            stock ? textCell(stock->name) : Cell(),
            entry.addedOn,
            figureCell(entry.priceThen),
            textCell(entry.reason),
            textCell(entry.source),
            textCell(entry.page.category),
            textCell(joined(entry.page.tags)),
            entry.page.sign == Sign::None ? Cell() : Cell(std::string(signName(entry.page.sign))),
            dayCell(entry.page.reviewOn),
            now.course.changes.empty() ? Cell() : Cell(std::string(stateName(now.course.state()))),
            now.course.changes.empty() ? Cell() : Cell(now.course.changes.back().on),
            plan ? Cell(plan->on) : Cell(),
            plan ? figureCell(plan->entry) : Cell(),
            plan ? figureCell(plan->stop) : Cell()};
        for (std::size_t target = 0; target < mostTargets; ++target)
            row.push_back(plan && target < plan->targets.size() ? figureCell(plan->targets[target])
                                                                : Cell());
        for (const std::string* rule :
             {plan ? &plan->entryRule : nullptr, plan ? &plan->stopRule : nullptr,
              plan ? &plan->exitRule : nullptr})
            row.push_back(rule ? textCell(*rule) : Cell());
        const bool isHeld = now.position.isHeld();
        for (const double figure :
             {now.result.price, now.result.gain, now.result.highest, now.result.lowest,
              now.result.stock ? static_cast<double>(now.result.sessions) : missing,
              isHeld ? now.position.shares : missing, isHeld ? now.position.cost : missing,
              isHeld ? now.position.worth : missing,
              now.position.since ? now.position.realized : missing,
              isHeld ? now.lossAtStop : missing})
            row.push_back(figureCell(figure));
        row.push_back(dayCell(now.nextReport));
        row.push_back(now.verdict ? textCell(fmt::format("{} of {}", now.verdict->met(),
                                                         now.verdict->said.size()))
                                  : Cell());
        row.push_back(textCell(notesOf(entry)));
        row.push_back(textCell(joined(entry.page.links)));
    }
    return sheet;
}

Sheet movesOf(const Stays& stays, const market::Market& market)
{
    Sheet sheet{{"day", "symbol", "move"}, {}};
    const auto days = dayByDay(stays);
    for (std::size_t day = days.size(); day-- > 0;) {
        const auto add = [&](const std::vector<std::size_t>& stocks, const char* move) {
            for (const std::size_t stock : stocks)
                sheet.rows.push_back({stays.days[day],
                                      market::symbolOn(market.instrument(stock), stays.days[day]),
                                      std::string(move)});
        };
        add(days[day].came, "came");
        add(days[day].went, "went");
    }
    return sheet;
}

Sheet sheetOf(std::span<const Raised> raised)
{
    Sheet sheet{{"day", "symbol", "what", "value", "late", "seen", "alert"}, {}};
    for (const Raised& each : raised)
        sheet.rows.push_back({each.on, textCell(each.symbol), textCell(each.words),
                              figureCell(each.value), each.isLate, each.isSeen,
                              static_cast<double>(each.alert)});
    return sheet;
}

Sheet sheetOf(std::span<const ReviewRow> rows)
{
    Sheet sheet{{"name", "cases", "days", "gained", "gain"}, {}, {}};
    for (const char* of : {"after_", "over_all_after_"})
        for (const int span : reviewSpans)
            sheet.columns.push_back(of + std::to_string(span));
    for (const char* name :
         {"best", "worst", "over_all", "over_benchmark", "by_plan", "by_trades", "warning"})
        sheet.columns.emplace_back(name);
    for (const ReviewRow& row : rows) {
        auto& cells = sheet.rows.emplace_back();
        cells = {textCell(row.name), countCell(row.cases.size()), countCell(row.days),
                 figureCell(row.gained), figureCell(row.gain)};
        for (const auto* spans : {&row.after, &row.afterOverAll})
            for (const double figure : *spans)
                cells.push_back(figureCell(figure));
        for (const double figure :
             {row.best, row.worst, row.overAll, row.overBenchmark, row.byPlan, row.byTrades})
            cells.push_back(figureCell(figure));
        cells.push_back(textCell(row.warning));
    }
    return sheet;
}

Sheet sheetOf(std::span<const ReviewCase> cases, const market::Market& market)
{
    Sheet sheet{{"symbol", "on", "list", "source", "reason", "category", "verdict", "checked",
                 "market", "decision", "gain"},
                {},
                {}};
    for (const int span : reviewSpans)
        sheet.columns.push_back("after_" + std::to_string(span));
    for (const char* name :
         {"best", "worst", "over_all", "over_benchmark", "plan_ended", "by_plan", "by_trades"})
        sheet.columns.emplace_back(name);
    for (const ReviewCase& each : cases) {
        auto& cells = sheet.rows.emplace_back();
        cells = {market.instrument(each.stock).symbol,
                 each.on,
                 textCell(each.list),
                 textCell(each.source),
                 textCell(each.reason),
                 textCell(each.category),
                 textCell(each.verdict),
                 each.checked ? countCell(static_cast<std::size_t>(*each.checked)) : Cell(),
                 textCell(each.market),
                 std::string(decisionName(each.decision)),
                 figureCell(each.gain)};
        for (const double figure : each.after)
            cells.push_back(figureCell(figure));
        for (const double figure : {each.best, each.worst, each.overAll, each.overBenchmark})
            cells.push_back(figureCell(figure));
        cells.push_back(std::string(endName(each.end)));
        cells.push_back(figureCell(each.byPlan));
        cells.push_back(figureCell(each.byTrades));
    }
    return sheet;
}

} // namespace sieve::watchlists
