#include "core/screens/table.h"

#include "core/expressions/checker.h"

#include <algorithm>
#include <numeric>

namespace sieve::screens {

namespace {

double medianOf(std::vector<double> figures)
{
    std::erase_if(figures, isMissing);
    if (figures.empty())
        return missing;
    std::ranges::sort(figures);
    const std::size_t middle = figures.size() / 2;
    return figures.size() % 2 == 1 ? figures[middle]
                                   : (figures[middle - 1] + figures[middle]) / 2.0;
}

int decimalsFor(Kind kind, Unit unit)
{
    if (kind != Kind::Number || unit == Unit::Shares || unit == Unit::Days)
        return 0;
    return unit == Unit::Percent || unit == Unit::Points ? 1 : 2;
}

TableColumn describe(const std::string& text, const expressions::Vocabulary& vocabulary)
{
    TableColumn column;
    column.text = text;
    column.title = column.head = text;
    if (const expressions::Field* field = vocabulary.field(text)) {
        column.title = field->title;
        column.head = field->head;
        column.meaning = field->meaning;
        column.kind = field->kind;
        column.unit = field->unit;
        column.decimals = field->decimals;
    }
    return column;
}

} // namespace

ResultTable makeTable(std::span<const std::size_t> rows, std::span<const std::string> columns,
                      const expressions::Names& names, expressions::Evaluator& evaluator, Day day)
{
    ResultTable table;
    table.rows.assign(rows.begin(), rows.end());
    expressions::Plan plan;
    const expressions::Vocabulary& vocabulary = names.vocabulary;
    std::vector<expressions::NodeId> targets;
    std::vector<std::size_t> shown; // the columns that the targets belong to
    for (const std::string& text : columns) {
        TableColumn& column = table.columns.emplace_back(describe(text, vocabulary));
        const auto checked = check(text, names, plan);
        if (!checked) {
            column.error = checked.error();
            column.figures.assign(rows.size(), missing);
            continue;
        }
        if (!vocabulary.field(text)) {
            column.kind = checked->kind;
            column.unit = checked->unit;
            column.decimals = decimalsFor(column.kind, column.unit);
        }
        targets.push_back(checked->node);
        shown.push_back(table.columns.size() - 1);
    }
    const auto values = evaluator.columns(plan, targets, day);
    for (std::size_t i = 0; i < shown.size(); ++i) {
        TableColumn& column = table.columns[shown[i]];
        for (const std::size_t row : rows)
            column.figures.push_back((*values[i])[row]);
        if (column.kind == Kind::Number)
            column.median = medianOf(column.figures);
    }
    return table;
}

void sortBy(ResultTable& table, std::span<const SortKey> keys, const market::TextTable& texts)
{
    std::vector<std::size_t> places(table.rows.size());
    std::iota(places.begin(), places.end(), std::size_t{0});
    const auto text = [&](double figure) {
        return std::string_view(texts.text(static_cast<std::uint32_t>(figure)));
    };
    // Below 0: the first stands before the second.
    const auto compare = [&](const SortKey& key, std::size_t i, std::size_t j) {
        const TableColumn& column = table.columns.at(key.column);
        const double a = column.figures[i];
        const double b = column.figures[j];
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
    for (TableColumn& each : table.columns)
        arrange(each.figures);
}

void sortBy(ResultTable& table, std::size_t column, Order order, const market::TextTable& texts)
{
    const SortKey key{column, order};
    sortBy(table, std::span(&key, 1), texts);
}

storage::Sheet sheetOf(const ResultTable& table, const market::TextTable& texts)
{
    storage::Sheet sheet;
    for (const TableColumn& column : table.columns) {
        sheet.columns.push_back(column.text);
        sheet.units.push_back(column.kind == Kind::Number ? column.unit : Unit::Plain);
    }
    for (std::size_t row = 0; row < table.rows.size(); ++row) {
        auto& cells = sheet.rows.emplace_back();
        for (const TableColumn& column : table.columns)
            cells.push_back(storage::cellOf(column.figures[row], column.kind, texts));
    }
    return sheet;
}

} // namespace sieve::screens
