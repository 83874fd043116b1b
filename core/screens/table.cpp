#include "core/screens/table.h"

#include "core/engine/across.h"
#include "core/engine/currencies.h"
#include "core/language/checker.h"
#include "core/language/token.h"
#include "core/market/as_of.h"

#include <algorithm>
#include <fmt/format.h>
#include <numeric>

namespace sieve::screens {

namespace {

/// "Before buying, of 9" for checklist("Before buying"), whose figure is a count; empty for else.
std::string checklistTitle(const std::string& text, const language::Names& names)
{
    const auto tokens = language::tokenize(text);
    if (!names.checklist || !tokens || tokens->size() != 5 || !(*tokens)[0].is("checklist"))
        return {};
    const std::string name((*tokens)[2].text);
    const auto checklist = names.checklist(name);
    return checklist
               ? fmt::format("{}, of {}", name, checklist->rules.size() + checklist->answers.size())
               : std::string();
}

TableColumn describe(const std::string& text, const language::Names& names)
{
    TableColumn column;
    column.text = text;
    column.title = column.head = text;
    if (std::string title = checklistTitle(text, names); !title.empty())
        column.title = column.head = std::move(title);
    if (const language::Field* field = names.vocabulary.field(text)) {
        column.title = field->title;
        column.head = field->head;
        column.meaning = field->meaning;
        column.kind = field->kind;
        column.unit = field->unit;
        column.decimals = field->decimals;
    }
    return column;
}

/// How a column stands among all stocks that are listed on the day.
Distribution spreadOver(const engine::Column& column, const market::Market& market, Day day)
{
    std::vector<double> figures;
    for (const std::size_t stock : market::stocksListed(market, day))
        if (!isMissing(column[stock]))
            figures.push_back(column[stock]);
    return distributionOf(figures, 1);
}

constexpr int rangeSessions = 252;

/// Asks for all that some columns show, each part once.
class Filling {
public:
    Filling(std::span<const std::size_t> rows, const language::Names& names,
            engine::Evaluator& evaluator, Day day)
        : rows_(rows), names_(names), evaluator_(evaluator), day_(day)
    {
    }

    void add(const std::string& text, const CellGraphics& cells)
    {
        TableColumn& column = columns_.emplace_back(describe(text, names_));
        const auto checked = check(text, names_, plan_);
        if (!checked) {
            column.error = checked.error();
            column.figures.assign(rows_.size(), missing);
            return;
        }
        const language::Field* field = names_.vocabulary.field(text);
        if (!field) {
            column.kind = checked->kind;
            column.unit = checked->unit;
            const bool isCount = column.head != text; // of a checklist's answers
            column.decimals = column.kind == Kind::Number && !isCount ? decimalsOf(column.unit) : 0;
        }
        want(column, checked->node, &TableColumn::figures);
        if (column.kind != Kind::Number)
            return;
        if (evaluator_.market().hasOtherCurrencies())
            if (const auto compared = engine::inMarketCurrency(plan_, checked->node);
                compared != checked->node)
                want(column, compared, &TableColumn::inMarket);
        const auto chosen = cells.find(text);
        column.graphic = chosen != cells.end() ? chosen->second
                         : field               ? field->graphic
                                               : language::CellGraphic::None;
        if (column.graphic == language::CellGraphic::Range) {
            wantExtreme(column, "lowest", text, &TableColumn::lows);
            wantExtreme(column, "highest", text, &TableColumn::highs);
        }
    }

    std::vector<TableColumn> run(const Progress& progress)
    {
        const auto values = evaluator_.columns(plan_, targets_, day_, progress);
        for (std::size_t i = 0; i < wanted_.size(); ++i) {
            TableColumn& column = columns_[wanted_[i].column];
            for (const std::size_t row : rows_)
                (column.*wanted_[i].figures).push_back((*values[i])[row]);
            const bool isCompared = wanted_[i].figures == &TableColumn::figures ||
                                    wanted_[i].figures == &TableColumn::inMarket; // the later
            if (isCompared && column.kind == Kind::Number)
                column.median = engine::valueOfTheDay(engine::Op::Median, column.compared());
            if (isCompared && column.graphic == language::CellGraphic::Bar)
                column.spread = spreadOver(*values[i], evaluator_.market(), day_);
        }
        return std::move(columns_);
    }

private:
    using Figures = std::vector<double> TableColumn::*;
    struct Wanted {
        std::size_t column;
        Figures figures;
    };

    void want(const TableColumn& column, engine::NodeId node, Figures figures)
    {
        targets_.push_back(node);
        wanted_.push_back({static_cast<std::size_t>(&column - columns_.data()), figures});
    }

    void wantExtreme(TableColumn& column, const char* function, const std::string& text,
                     Figures figures)
    {
        const auto checked =
            check(fmt::format("{}({}, {})", function, text, rangeSessions), names_, plan_);
        if (checked)
            want(column, checked->node, figures);
        else
            column.graphic = language::CellGraphic::None; // such as a figure across stocks
    }

    std::span<const std::size_t> rows_;
    const language::Names& names_;
    engine::Evaluator& evaluator_;
    Day day_;
    engine::Plan plan_;
    std::vector<TableColumn> columns_;
    std::vector<engine::NodeId> targets_;
    std::vector<Wanted> wanted_;
};

} // namespace

ResultTable makeTable(std::span<const std::size_t> rows, std::span<const std::string> columns,
                      const language::Names& names, engine::Evaluator& evaluator, Day day,
                      const CellGraphics& cells, const Progress& progress)
{
    Filling filling(rows, names, evaluator, day);
    for (const std::string& text : columns)
        filling.add(text, cells);
    ResultTable table{{rows.begin(), rows.end()}, filling.run(progress)};
    for (const std::size_t row : rows)
        table.idle.push_back(market::sessionsIdle(evaluator.market(), row, day));
    const market::Market& market = evaluator.market();
    table.currency = market.currency();
    if (market.hasOtherCurrencies())
        for (const std::size_t row : rows)
            table.otherCurrencies.push_back(
                market.isInOtherCurrency(row) ? market.instrument(row).currency : std::string());
    return table;
}

std::vector<std::vector<double>> linesOf(const std::string& column,
                                         std::span<const std::size_t> instruments,
                                         const language::Names& names, engine::Evaluator& evaluator,
                                         Day day, std::size_t sessions, const Progress& progress)
{
    engine::Plan plan;
    const auto checked = check(column, names, plan);
    std::vector<std::vector<double>> lines(instruments.size());
    for (std::size_t i = 0; i < instruments.size() && checked; ++i) {
        const std::vector<double> line =
            evaluator.history(plan, checked->node, instruments[i], day, progress);
        const std::size_t count = std::min(sessions, line.size());
        lines[i].assign(line.end() - static_cast<std::ptrdiff_t>(count), line.end());
    }
    return lines;
}

void sortBy(ResultTable& table, std::span<const SortKey> keys, const market::TextTable& texts)
{
    std::vector<std::size_t> places(table.rows.size());
    std::iota(places.begin(), places.end(), std::size_t{0});
    const auto text = [&](double figure) { return std::string_view(texts.textOf(figure)); };
    // Below 0: the first stands before the second.
    const auto compare = [&](const SortKey& key, std::size_t i, std::size_t j) {
        const TableColumn& column = table.columns.at(key.column);
        const double a = column.compared()[i];
        const double b = column.compared()[j];
        if (isMissing(a) || isMissing(b))
            return static_cast<int>(isMissing(a)) - static_cast<int>(isMissing(b));
        int order = a < b ? -1 : a > b ? 1 : 0;
        if (column.kind == Kind::Text)
            order = text(a).compare(text(b));
        return key.order == Order::Ascending ? order : -order;
    };
    std::ranges::stable_sort(places, [&](std::size_t i, std::size_t j) {
        for (const SortKey& key : keys)
            if (const int order = compare(key, i, j); order != 0)
                return order < 0;
        return false;
    });
    const auto arrange = [&places](auto& values) {
        auto former = values;
        for (std::size_t i = 0; i < places.size(); ++i)
            values[i] = former[places[i]];
    };
    arrange(table.rows);
    if (!table.idle.empty())
        arrange(table.idle);
    if (!table.otherCurrencies.empty())
        arrange(table.otherCurrencies);
    for (TableColumn& each : table.columns)
        for (auto* values : {&each.figures, &each.inMarket, &each.lows, &each.highs})
            if (!values->empty())
                arrange(*values);
}

void sortBy(ResultTable& table, std::size_t column, Order order, const market::TextTable& texts)
{
    const SortKey key{column, order};
    sortBy(table, std::span(&key, 1), texts);
}

exports::Sheet sheetOf(const ResultTable& table, const market::TextTable& texts)
{
    exports::Sheet sheet;
    for (const TableColumn& column : table.columns) {
        const Unit unit = column.kind == Kind::Number ? column.unit : Unit::Plain;
        sheet.columns.push_back(column.text);
        sheet.units.push_back(unit);
        if (column.inMarket.empty())
            continue;
        sheet.columns.push_back(fmt::format("converted({})", column.text));
        sheet.units.push_back(unit);
    }
    for (std::size_t row = 0; row < table.rows.size(); ++row) {
        auto& cells = sheet.rows.emplace_back();
        for (const TableColumn& column : table.columns) {
            cells.push_back(exports::cellOf(column.figures[row], column.kind, texts));
            if (!column.inMarket.empty())
                cells.push_back(exports::cellOf(column.inMarket[row], column.kind, texts));
        }
    }
    return sheet;
}

} // namespace sieve::screens
