#include "core/dossier/json.h"

#include "core/exports/sheet.h"
#include "core/market/market.h"

#include <nlohmann/json.hpp>

namespace sieve::dossier {

namespace {

using Json = nlohmann::ordered_json;

Json valueOf(const Cell& cell, const market::TextTable& texts)
{
    if (!cell.text.empty())
        return cell.text;
    const exports::Cell value = exports::cellOf(cell.value, cell.kind, texts);
    if (const auto* number = std::get_if<double>(&value))
        return *number;
    if (const auto* yes = std::get_if<bool>(&value))
        return *yes;
    if (const auto* text = std::get_if<std::string>(&value))
        return *text;
    if (const auto* day = std::get_if<Day>(&value))
        return day->iso();
    return nullptr;
}

Json jsonOf(const Cell& cell, const market::TextTable& texts)
{
    Json json{{"value", valueOf(cell, texts)}};
    if (!cell.expression.empty())
        json["expression"] = cell.expression;
    if (cell.kind == Kind::Number && cell.text.empty())
        json["unit"] = unitName(cell.unit);
    if (!cell.note.empty())
        json["note"] = cell.note;
    if (cell.restated)
        json["restated"] = {{"first", cell.restated->first},
                            {"first_on", cell.restated->firstOn.iso()},
                            {"last_on", cell.restated->lastOn.iso()}};
    return json;
}

Json jsonOf(const Table& table, const market::Market& market)
{
    Json rows = Json::array();
    for (const Row& row : table.rows) {
        Json cells = Json::array();
        for (const Cell& cell : row.cells)
            cells.push_back(jsonOf(cell, market.texts()));
        Json json{{"title", row.title}};
        if (!row.group.empty())
            json["group"] = row.group;
        if (!row.meaning.empty())
            json["meaning"] = row.meaning;
        json["cells"] = std::move(cells);
        rows.push_back(std::move(json));
    }
    return {{"key", table.key},       {"title", table.title}, {"form", formName(table.form)},
            {"columns", table.heads}, {"rows", rows},         {"notes", table.notes}};
}

} // namespace

std::string toJson(const Dossier& dossier, const market::Market& market)
{
    Json parts = Json::array();
    for (const Part& part : dossier.parts) {
        Json tables = Json::array();
        for (const Table& table : part.tables)
            tables.push_back(jsonOf(table, market));
        parts.push_back({{"key", part.key},
                         {"title", part.title},
                         {"words", part.words},
                         {"tables", std::move(tables)}});
    }
    const Json json{{"symbol", dossier.symbol},
                    {"name", dossier.name},
                    {"as_of", dossier.day.iso()},
                    {"currency", dossier.currency},
                    {"market_currency", dossier.marketCurrency},
                    {"parts", std::move(parts)}};
    return json.dump(1, ' ', false, Json::error_handler_t::replace) + "\n";
}

} // namespace sieve::dossier
