#include "core/screens/universe.h"

#include "core/language/syntax.h"
#include "core/screens/limits.h"

#include <algorithm>
#include <fmt/format.h>

namespace sieve::screens {

namespace {

std::vector<std::string> partsOf(std::string_view universe)
{
    return universe.empty() ? std::vector<std::string>() : criteriaOf(universe);
}

bool isQuotable(std::string_view name)
{
    return !name.empty() && name.find_first_of("\"\n") == std::string_view::npos;
}

/// One choice a bound: "10k" under "Traded a day at least".
void addSteps(std::vector<UniverseChoice>& all, const char* group, const char* field,
              std::initializer_list<const char*> bounds, const char* after = "")
{
    for (const char* bound : bounds)
        all.push_back(
            {group, fmt::format("{}{}", bound, after), fmt::format("{} >= {}", field, bound)});
}

} // namespace

std::vector<UniverseChoice> universeChoices(const market::Market& market, const NameBook& book)
{
    std::vector<UniverseChoice> all{
        {"Kind", "Shares only", "kind == \"share\""},
        {"Kind", "No funds, trusts and receipts", "not kind in (\"fund\", \"trust\", \"receipt\")"},
        {"Kind", "Funds", "kind == \"fund\""},
        {"Kind", "Property and other trusts", "kind == \"trust\""},
        {"Kind", "Depositary receipts", "kind == \"receipt\""},
    };
    for (const market::Exchange& exchange : market.description().exchanges)
        if (isQuotable(exchange.name))
            all.push_back(
                {"Exchange", exchange.name, fmt::format("exchange == \"{}\"", exchange.name)});
    addSteps(all, "Close at least", "close", {"1", "5", "10", "20"});
    addSteps(all, "Traded a day at least", "average_traded_value",
             {"100k", "200k", "1M", "5M", "20M"});
    addSteps(all, "Listed at least", "listed_weeks", {"26", "52", "104", "260"}, " weeks");
    addSteps(all, "Free float at least", "free_float_shares", {"1M", "10M", "100M"}, " shares");
    all.push_back({"Only", "With options", "optionable", false});
    all.push_back({"Only", "That can be sold short", "shortable", false});
    for (const auto& [name, list] : book.lists)
        if (isQuotable(name)) {
            all.push_back({"On the list", name, fmt::format("on_list(\"{}\")", name), false});
            all.push_back(
                {"Not on the list", name, fmt::format("not on_list(\"{}\")", name), false});
        }
    for (const auto& [name, screen] : book.screens)
        if (isQuotable(name))
            all.push_back({"Passes the screen", name, fmt::format("passes(\"{}\")", name), false});
    return all;
}

bool holdsCondition(std::string_view universe, std::string_view condition)
{
    const auto parts = partsOf(universe);
    return std::ranges::find(parts, condition) != parts.end();
}

std::string withChoice(std::string_view universe, const UniverseChoice& choice,
                       const std::vector<UniverseChoice>& all)
{
    const auto tree = language::parse(universe);
    if (!universe.empty() && !tree)
        return std::string(universe);
    std::vector<std::string> parts = partsOf(universe);
    if (tree && tree->form == language::Form::Or)
        parts = {"(" + std::string(universe) + ")"};
    const bool wasIn = std::erase(parts, choice.condition) > 0;
    for (const UniverseChoice& other : all)
        if (choice.isExclusive && other.group == choice.group)
            std::erase(parts, other.condition);
    if (!wasIn)
        parts.push_back(choice.condition);
    return fmt::format("{}", fmt::join(parts, " and "));
}

} // namespace sieve::screens
