#include "core/dossier/dossier.h"

#include "core/base/require.h"
#include "core/dossier/parts.h"
#include "core/market/as_of.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <fmt/format.h>
#include <map>

namespace sieve::dossier {

namespace {

constexpr std::array rows{
    PartRow{"verdict", "Verdict", layOutVerdict, tellVerdict},
    PartRow{"figures", "Figures", layOutFigures, tellFigures},
    PartRow{"score", "Score", layOutScore},
    PartRow{"value", "Value", layOutValue, tellValue},
    PartRow{"results", "Results", layOutResults, tellResults},
    PartRow{"estimates", "Estimates", layOutEstimates, tellEstimates},
    PartRow{"owners", "Owners", layOutOwners, tellOwners},
    PartRow{"peers", "Peers", layOutPeers},
    PartRow{"plan", "Plan", layOutPlan, tellPlan},
    PartRow{"events", "Events", layOutEvents},
    PartRow{"listing", "Listing", layOutListing, tellListing},
};

/// Checks expressions into one plan, each text once, and gives the values of all.
class Asking {
public:
    explicit Asking(const Subject& subject) : subject_(subject) {}

    void add(const std::string& expression)
    {
        if (known_.contains(expression))
            return;
        auto checked = language::check(expression, subject_.names, plan_);
        Known known;
        if (checked) {
            known.target = targets_.size();
            known.checked = *std::move(checked);
            targets_.push_back(known.checked.node);
        } else {
            known.error = checked.error().problem + "; " + checked.error().remedy;
        }
        known_.emplace(expression, std::move(known));
    }

    /// On all bars from one on.
    std::vector<std::vector<double>> run(std::size_t from, const Progress& progress) const
    {
        return subject_.evaluator.histories(plan_, targets_, subject_.stock, subject_.day, progress,
                                            from);
    }

    struct Known {
        std::optional<std::size_t> target = {}; ///< empty: it does not check
        language::Checked checked = {};
        std::string error = {};
    };
    const Known& at(const std::string& expression) const { return known_.find(expression)->second; }

private:
    const Subject& subject_;
    engine::Plan plan_;
    std::vector<engine::NodeId> targets_;
    std::map<std::string, Known, std::less<>> known_;
};

/// The bar that is told of: the newest by the day; empty before the first one and once delisted.
std::optional<std::size_t> lastBar(const Subject& subject)
{
    return market::barOn(subject.evaluator.market(), subject.stock, subject.day);
}

template <class Do> void eachCell(std::vector<Part>& parts, Do visit)
{
    for (Part& part : parts)
        for (Table& table : part.tables)
            for (Row& row : table.rows)
                for (Cell& cell : row.cells)
                    if (!cell.expression.empty())
                        visit(cell);
}

} // namespace

void evaluate(std::vector<Part>& parts, const Subject& subject, const Progress& progress)
{
    Asking asking(subject);
    eachCell(parts, [&](const Cell& cell) { asking.add(cell.expression); });
    const auto bar = lastBar(subject);
    const auto values = bar ? asking.run(*bar, progress) : std::vector<std::vector<double>>();
    eachCell(parts, [&](Cell& cell) {
        const auto& known = asking.at(cell.expression);
        if (!known.target) {
            cell.note = known.error;
            return;
        }
        cell.kind = known.checked.kind;
        const auto* field = subject.names.vocabulary.field(cell.expression);
        if (cell.unit == Unit::Plain)
            cell.unit = field ? field->unit : known.checked.unit;
        if (cell.decimals < 0 && field)
            cell.decimals = field->decimals;
        if (cell.decimals < 0)
            cell.decimals = cell.kind == Kind::Number ? decimalsOf(cell.unit) : 0;
        if (bar && !values[*known.target].empty())
            cell.value = values[*known.target].back();
    });
}

std::string_view formName(Form form)
{
    constexpr std::array<std::string_view, 7> names{"figures", "periods",   "values", "ranges",
                                                    "table",   "checklist", "events"};
    return names.at(static_cast<std::size_t>(form));
}

std::vector<std::string> partKeys()
{
    std::vector<std::string> keys;
    for (const PartRow& row : rows)
        keys.emplace_back(row.key);
    return keys;
}

const Part* Dossier::part(std::string_view key) const
{
    const auto found = std::ranges::find(parts, key, &Part::key);
    return found == parts.end() ? nullptr : &*found;
}

std::string titleOf(const std::string& expression, const Subject& subject)
{
    const auto* field = subject.names.vocabulary.field(expression);
    return field ? field->title : expression;
}

std::string meaningOf(const std::string& expression, const Subject& subject)
{
    const auto* field = subject.names.vocabulary.field(expression);
    return field ? field->meaning : std::string();
}

std::vector<std::vector<double>> historiesOf(std::span<const std::string> expressions,
                                             const Subject& subject, const Progress& progress,
                                             std::optional<std::size_t> newest)
{
    Asking asking(subject);
    for (const std::string& expression : expressions)
        asking.add(expression);
    const auto last = lastBar(subject);
    const std::size_t bars = last ? *last + 1 : 0;
    const auto values = asking.run(newest ? bars - std::min(bars, *newest) : 0, progress);
    std::vector<std::vector<double>> all;
    for (const std::string& expression : expressions) {
        const auto target = asking.at(expression).target;
        all.push_back(target ? values[*target] : std::vector<double>());
    }
    return all;
}

std::string nameOf(const Row& row)
{
    return row.group.empty() ? row.title : row.group + ", " + row.title;
}

Cell dayCell(Day day)
{
    return {.value = static_cast<double>(day.serial()), .kind = Kind::Day, .decimals = 0};
}

bool isUnknown(const Row& row)
{
    return std::ranges::all_of(row.cells, [](const Cell& cell) { return isMissing(cell.value); });
}

void dropUnknown(Table& table)
{
    std::vector<Row> known;
    bool isFormerKnown = false;
    for (Row& row : table.rows) {
        isFormerKnown = row.isOfFormer ? isFormerKnown : !isUnknown(row);
        const bool isPainted = table.form == Form::Periods; // with the row that it tells of
        if (isFormerKnown && (isPainted || !isUnknown(row)))
            known.push_back(std::move(row));
    }
    table.rows = std::move(known);
}

void dropUnknown(Part& part)
{
    for (Table& table : part.tables)
        dropUnknown(table);
    std::erase_if(part.tables, [](const Table& table) { return table.rows.empty(); });
}

Dossier emptyDossier(const Subject& subject)
{
    const market::Market& market = subject.evaluator.market();
    const market::Instrument& instrument = market.instrument(subject.stock);
    return {.stock = subject.stock,
            .day = subject.day,
            .symbol = market::symbolOn(instrument, subject.day),
            .name = instrument.name,
            .currency = instrument.currency.empty() ? market.currency() : instrument.currency,
            .marketCurrency = market.currency()};
}

Dossier makeDossier(const Subject& subject, std::span<const std::string> parts,
                    const Progress& progress)
{
    require(std::ranges::all_of(parts,
                                [](const std::string& key) {
                                    return std::ranges::count(rows, key, &PartRow::key) > 0;
                                }),
            "makeDossier: no such part");
    Dossier made = emptyDossier(subject);
    std::vector<const PartRow*> asked;
    for (const PartRow& row : rows)
        if (parts.empty() || std::ranges::find(parts, row.key) != parts.end())
            asked.push_back(&row);
    for (const PartRow* row : asked) {
        Part& part = made.parts.emplace_back();
        part.key = row->key;
        part.title = row->title;
        row->layOut(part, subject, progress);
    }
    evaluate(made.parts, subject, progress);
    for (std::size_t i = 0; i < asked.size(); ++i)
        if (asked[i]->tell)
            asked[i]->tell(made.parts[i], subject);
    return made;
}

} // namespace sieve::dossier
