#include "core/charts/comparable.h"

#include <algorithm>
#include <fmt/format.h>
#include <set>

namespace sieve::charts {

namespace {

/// What a function of the language calls by its name.
void add(std::vector<Comparable>& all, const char* kind, std::string title,
         std::string_view function, std::string_view name)
{
    if (name.find('"') == name.npos)
        all.push_back({kind, std::move(title), fmt::format("{}(\"{}\", close)", function, name)});
}

/// The names that a text field has among the shares, by name.
std::set<std::string> namesOf(const market::Market& market, market::TextField field)
{
    std::set<std::uint32_t> numbers;
    for (std::size_t i = 0; i < market.size(); ++i)
        if (market.instrument(i).kind == market::InstrumentKind::Share)
            numbers.insert(market.text(i, field));
    std::set<std::string> names;
    for (const std::uint32_t number : numbers)
        if (const std::string& name = market.texts().text(number); !name.empty())
            names.insert(name);
    return names;
}

void addInstruments(std::vector<Comparable>& all, const market::Market& market, bool areIndexes)
{
    for (std::size_t i = 0; i < market.size(); ++i)
        if (market.isIndex(i) == areIndexes) {
            const market::Instrument& each = market.instrument(i);
            add(all, areIndexes ? "index" : "stock", each.symbol + ", " + each.name, "index",
                each.symbol);
        }
}

} // namespace

std::vector<Comparable> comparables(const market::Market& market,
                                    std::span<const Shared<watchlists::Watchlist>> lists)
{
    std::vector<Comparable> all{
        {"market", "The benchmark", "benchmark(close)"},
        {"market", "All shares, equal weight", "composite(close)"},
        {"market", "All shares, by capitalization", "composite(close, weight = cap)"}};
    addInstruments(all, market, true);
    for (const auto& list : lists)
        add(all, "your list", list->name, "list", list->name);
    const std::pair<const char*, market::TextField> groups[] = {
        {"sector", market::TextField::Sector},
        {"exchange", market::TextField::Exchange},
        {"industry", market::TextField::Industry}};
    for (const auto& [kind, field] : groups)
        for (const std::string& name : namesOf(market, field))
            add(all, kind, name, "group", name);
    addInstruments(all, market, false);
    return all;
}

std::optional<SetUp> comparedWith(SetUp setUp, const Comparable& other)
{
    std::size_t count = 1;
    std::set<PalettePart> used;
    for (const PaneSetUp& pane : setUp.panes)
        count += pane.layers.size();
    for (const LayerSetUp& layer : setUp.panes.front().layers)
        used.insert(layer.colour);
    if (count > mostLayers)
        return std::nullopt;
    makeOwn(setUp);
    LayerSetUp line{.show = other.expression};
    line.isCompared = true;
    for (const PalettePart colour : {PalettePart::Caution, PalettePart::Mark, PalettePart::Soft,
                                     PalettePart::Ink, PalettePart::Fall})
        if (!used.contains(colour)) {
            line.colour = colour;
            break;
        }
    setUp.panes.front().layers.push_back(std::move(line));
    setUp.values = ValueScale::Percent;
    return setUp;
}

} // namespace sieve::charts
