#include "core/briefing/evening_mail.h"

#include "core/briefing/brief_page.h"
#include "core/screens/column_sets.h"
#include "core/screens/table.h"
#include "core/watchlists/stocks.h"

#include <algorithm>
#include <fmt/format.h>

namespace sieve::briefing {

using exports::dayInWords;
using exports::escapedHtml;

namespace {

constexpr const char* alertsTitle = "Alerts";

/// The columns of the set that is called so, an own one before one of the program's.
const screens::ColumnSet* columnSet(const library::Work& work, const std::string& name)
{
    for (const std::vector<screens::ColumnSet>* sets :
         {&*work.columnSets, &screens::readyColumnSets()})
        if (const auto found = std::ranges::find(*sets, name, &screens::ColumnSet::name);
            found != sets->end())
            return &*found;
    return nullptr;
}

/// The stocks that a mail tells of, each once, in the order in which they are told.
std::vector<std::size_t> stocksIn(const Brief& brief, std::span<const watchlists::Raised> raised,
                                  const market::Market& market)
{
    std::vector<std::size_t> stocks;
    const auto add = [&](const std::string& symbol, Day on) {
        const auto stock = watchlists::stockOf(watchlists::Entry{symbol, on}, market);
        if (stock && std::ranges::find(stocks, *stock) == stocks.end())
            stocks.push_back(*stock);
    };
    for (const watchlists::Raised& each : raised)
        if (!each.symbol.empty())
            add(each.symbol, each.on);
    for (const Part& part : brief.parts)
        for (const Line& line : part.lines)
            if (line.lead.to == Lead::To::Stock)
                add(line.lead.name, brief.day);
    return stocks;
}

/// Figures under the short heads of their columns; money in another currency with its name.
exports::Sheet stockTable(const screens::ColumnSet& set, std::span<const std::size_t> stocks,
                          engine::Evaluator& evaluator, const language::Names& names, Day day,
                          const Progress& progress)
{
    const market::Market& market = evaluator.market();
    const screens::ResultTable table =
        screens::makeTable(stocks, set.columns, names, evaluator, day, {}, progress);
    const bool hasSymbols = std::ranges::find(set.columns, "symbol") != set.columns.end();
    exports::Sheet sheet;
    sheet.rows.resize(stocks.size());
    const auto add = [&sheet](std::string head, Unit unit) {
        sheet.columns.push_back(std::move(head));
        sheet.units.push_back(unit);
    };
    if (!hasSymbols) {
        add("Symbol", Unit::Plain);
        for (std::size_t row = 0; row < stocks.size(); ++row)
            sheet.rows[row].emplace_back(market::symbolOn(market.instrument(stocks[row]), day));
    }
    for (const screens::TableColumn& column : table.columns) {
        add(column.head, column.unit);
        for (std::size_t row = 0; row < stocks.size(); ++row) {
            const double figure = column.figures[row];
            const bool isForeign = column.unit == Unit::Money && !isMissing(figure) &&
                                   !table.otherCurrencies.empty() &&
                                   !table.otherCurrencies[row].empty();
            sheet.rows[row].push_back(
                isForeign
                    ? exports::Cell(fmt::format("{:.2f} {}", figure, table.otherCurrencies[row]))
                    : exports::cellOf(figure, column.kind, market.texts()));
        }
    }
    return sheet;
}

/// What alerts told, as a person reads it.
exports::Sheet alertTable(std::span<const watchlists::Raised> raised, Day day)
{
    exports::Sheet sheet{{"stock", "what happened", "day"}, {}, {}};
    for (const watchlists::Raised& each : raised)
        sheet.rows.push_back(
            {each.symbol, each.words, dayInWords(each.on) + (each.on < day ? ", late" : "")});
    return sheet;
}

std::string section(const std::string& title, const std::string& html)
{
    return fmt::format("<p style=\"font-family:Inter,sans-serif;font-size:15px;"
                       "font-weight:600;margin:16px 0 4px 0\">{}</p>\n{}",
                       escapedHtml(title), html);
}

} // namespace

std::optional<exports::Mail> eveningMail(const BriefQuestion& question,
                                         engine::Evaluator& evaluator, const language::Names& names,
                                         Day since, Day day, std::chrono::sys_seconds at,
                                         const Progress& progress)
{
    const watchlists::MailTerms& terms = *question.work.mail;
    Brief brief = makeBrief(question, evaluator, names, since, day, progress);
    std::vector<watchlists::Raised> raised;
    if (terms.hasAlerts) { // all of them stand first, not the few that the brief has room for
        for (const watchlists::Raised& each : question.raised)
            if (each.on > brief.since && each.on <= brief.day)
                raised.push_back(each);
        std::erase_if(brief.parts, [](const Part& part) { return part.title == alertsTitle; });
    }
    if (!terms.hasBrief)
        brief.parts.clear();
    if (raised.empty() && brief.parts.empty())
        return std::nullopt;

    std::string html;
    std::string text;
    if (!raised.empty()) {
        const exports::Sheet table = alertTable(raised, brief.day);
        html += section(alertsTitle, tableOf(table));
        text += fmt::format("{}\n{}\n", alertsTitle, textOf(table));
    }
    if (terms.hasBrief && !brief.parts.empty()) {
        html += bodyOf(brief);
        text += textOf(brief) + "\n";
    }
    const auto stocks = stocksIn(brief, raised, evaluator.market());
    if (const screens::ColumnSet* set = columnSet(question.work, terms.columns);
        set && !stocks.empty()) {
        const auto table = stockTable(*set, stocks, evaluator, names, brief.day, progress);
        html += section(set->name, tableOf(table));
        text += fmt::format("{}\n{}", set->name, textOf(table));
    }
    const std::string words =
        raised.empty() ? std::string("brief")
                       : fmt::format("{} alert{}", raised.size(), raised.size() == 1 ? "" : "s");
    return exports::Mail{terms.to,
                         fmt::format("{}: {}", dayInWords(brief.day), words),
                         text,
                         "<!DOCTYPE html>\n<html lang=\"en\"><head><meta charset=\"utf-8\"></head>"
                         "<body style=\"margin:16px\">\n" +
                             html + "</body></html>\n",
                         at,
                         fmt::format("evening-{}", brief.day.iso())};
}

} // namespace sieve::briefing
