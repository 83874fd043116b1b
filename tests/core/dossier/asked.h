#pragma once

#include "core/dossier/dossier.h"
#include "core/screens/name_book.h"
#include "tests/core/made_market.h"

#include <algorithm>
#include <fmt/format.h>
#include <stdexcept>

/// Dossiers of small markets, and where to look in them.
namespace sieve::test {

using dossier::Choices;
using dossier::Dossier;
using dossier::Part;
using dossier::Row;
using dossier::Subject;
using dossier::Table;

/// A market of records with its evaluator.
struct Asked {
    explicit Asked(std::vector<market::InstrumentRecord> records)
        : evaluator(test::marketOf(std::move(records)))
    {
    }
    explicit Asked(market::MarketPtr market) : evaluator(std::move(market)) {}

    Dossier of(const std::string& symbol, Day when, std::vector<std::string> parts = {},
               const Choices& choices = {})
    {
        const language::Names names = book.names();
        Subject subject{evaluator, names, evaluator.market().find(symbol, when).value(), when};
        subject.choices = choices;
        subject.verdicts = verdicts;
        return makeDossier(subject, parts);
    }

    engine::Evaluator evaluator;
    screens::NameBook book;
    std::vector<Shared<watchlists::Verdict>> verdicts;
};

inline const Table& table(const Dossier& dossier, std::string_view key)
{
    for (const Part& part : dossier.parts)
        for (const Table& table : part.tables)
            if (table.key == key)
                return table;
    throw std::runtime_error(fmt::format("no table {}", key));
}

inline const Row& row(const Table& table, std::string_view title)
{
    const auto found =
        std::ranges::find_if(table.rows, [&](const Row& each) { return nameOf(each) == title; });
    if (found == table.rows.end())
        throw std::runtime_error(fmt::format("no row {}", title));
    return *found;
}

inline std::string words(const Dossier& dossier, std::string_view key)
{
    std::string all;
    for (const std::string& sentence : dossier.part(key)->words)
        all += sentence + " ";
    return all;
}

} // namespace sieve::test
