#include "core/charts/comparable.h"

#include <algorithm>
#include <cctype>
#include <fmt/format.h>
#include <set>

namespace sieve::charts {

namespace {

std::string lower(std::string_view text)
{
    std::string made(text);
    for (char& letter : made)
        letter = static_cast<char>(std::tolower(static_cast<unsigned char>(letter)));
    return made;
}

class Searching {
public:
    Searching(std::string_view words, std::size_t most) : words_(lower(words)), most_(most) {}

    bool isFull() const { return found_.size() >= most_; }
    bool isMeant(std::string_view title) const
    {
        return lower(title).find(words_) != std::string::npos;
    }
    bool begins(std::string_view symbol) const { return lower(symbol).starts_with(words_); }

    void add(const char* kind, std::string title, std::string_view function, std::string_view name)
    {
        if (name.find('"') == name.npos && isMeant(title))
            put(kind, std::move(title), fmt::format("{}(\"{}\", close)", function, name));
    }
    void put(const char* kind, std::string title, std::string expression)
    {
        if (!isFull())
            found_.push_back({kind, std::move(title), std::move(expression)});
    }
    std::vector<Comparable> take() { return std::move(found_); }

private:
    std::string words_;
    std::size_t most_;
    std::vector<Comparable> found_;
};

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

void addInstruments(Searching& searching, const market::Market& market, bool byIndex)
{
    for (const bool isByBegin : {true, false})
        for (std::size_t i = 0; i < market.size() && !searching.isFull(); ++i) {
            const market::Instrument& each = market.instrument(i);
            if (market.isIndex(i) == byIndex && searching.begins(each.symbol) == isByBegin)
                searching.add(byIndex ? "index" : "stock", each.symbol + ", " + each.name, "index",
                              each.symbol);
        }
}

} // namespace

std::vector<Comparable> comparables(const market::Market& market,
                                    std::span<const Shared<watchlists::Watchlist>> lists,
                                    std::string_view words, std::size_t most)
{
    Searching searching(words, most);
    const std::pair<const char*, const char*> wholes[] = {
        {"The benchmark", "benchmark(close)"},
        {"All shares, equal weight", "composite(close)"},
        {"All shares, by capitalization", "composite(close, weight = cap)"}};
    for (const auto& [title, expression] : wholes)
        if (searching.isMeant(title))
            searching.put("market", title, expression);
    addInstruments(searching, market, true);
    for (const auto& list : lists)
        searching.add("your list", list->name, "list", list->name);
    const std::pair<const char*, market::TextField> groups[] = {
        {"sector", market::TextField::Sector},
        {"exchange", market::TextField::Exchange},
        {"industry", market::TextField::Industry}};
    for (const auto& [kind, field] : groups)
        for (const std::string& name : namesOf(market, field))
            searching.add(kind, name, "group", name);
    addInstruments(searching, market, false);
    return searching.take();
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
