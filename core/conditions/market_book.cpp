#include "core/conditions/market_book.h"

#include "core/language/own_fields.h"

#include "core/base/embedded_text.h"
#include "core/base/toml_table.h"

#include <fmt/format.h>
#include <stdexcept>

namespace sieve::conditions {

std::span<const EmbeddedText> embeddedTexts();

namespace {

std::string conditionOf(const toml::table& table, std::string_view key, bool isNeeded)
{
    const auto text = valueOr<std::string>(table, key, {});
    if (isNeeded && text.empty())
        failAt(table.source(), fmt::format("'{}' is missing", key),
               fmt::format("write {} = \"close > sma(close, 50)\"", key));
    return text;
}

void readTrend(const toml::table& table, MarketBook& book)
{
    refuseOthers(table, "a trend", {"horizon", "rising", "rising_ends", "falling", "falling_ends"});
    const auto name = valueOr<std::string>(table, "horizon", {});
    const auto found = std::ranges::find(horizons, name, horizonName);
    if (found == horizons.end())
        failAt(table.source(), fmt::format("'{}' is no horizon", name),
               "write horizon = \"short\", \"medium\" or \"long\"");
    TrendRule& rule = book.trends.at(static_cast<std::size_t>(found - horizons.begin()));
    if (!rule.rising.empty())
        failAt(table.source(), fmt::format("the {} horizon stands here twice", name),
               "keep one of them");
    rule = {conditionOf(table, "rising", true), conditionOf(table, "rising_ends", false),
            conditionOf(table, "falling", true), conditionOf(table, "falling_ends", false)};
}

double shareOf(const toml::table& table)
{
    const toml::node* node = table.get("share");
    if (!node)
        return 0.0;
    const auto share = node->value<double>(); // 40 or 40.0
    if (!share || !(*share >= 0.0 && *share <= 100.0))
        failAt(node->source(), "'share' is out of range", "write a percentage from 0 to 100");
    return *share;
}

TimingRule readRule(const toml::table& table)
{
    refuseOthers(table, "a rule", {"title", "enter", "leave", "share", "stands_aside"});
    TimingRule rule{valueOr<std::string>(table, "title", {}), conditionOf(table, "enter", true),
                    conditionOf(table, "leave", false), shareOf(table),
                    valueOr(table, "stands_aside", false)};
    if (rule.title.empty())
        failAt(table.source(), "a rule without a title", "write title = \"…\"");
    return rule;
}

MarketBook readBook(const toml::table& file)
{
    refuseOthers(file, "a market book", {"panes", "trend", "rule"});
    MarketBook book;
    book.panes = textsOf(file, "panes");
    for (const toml::table* table : tablesOf(file, "trend"))
        readTrend(*table, book);
    for (std::size_t i = 0; i < horizons.size(); ++i)
        if (book.trends[i].rising.empty())
            failAt(file.source(), fmt::format("no {} horizon", horizonName(horizons[i])),
                   "add it under [[trend]]");
    for (const toml::table* table : tablesOf(file, "rule"))
        book.rules.push_back(readRule(*table));
    return book;
}

} // namespace

std::string_view horizonName(Horizon horizon)
{
    switch (horizon) {
    case Horizon::Short:
        return "short";
    case Horizon::Medium:
        return "medium";
    case Horizon::Long:
        break;
    }
    return "long";
}

const MarketBook& standardBook()
{
    static const MarketBook book = [] {
        auto read = bookFromToml(embeddedTexts()[0].text);
        if (!read)
            throw std::logic_error("standard_book.toml: " + sentence(read.error()));
        return *read;
    }();
    return book;
}

std::string toToml(const MarketBook& book)
{
    std::string panes;
    for (const std::string& pane : book.panes)
        panes += (panes.empty() ? "" : ", ") + quotedToml(pane);
    std::string toml = fmt::format("panes = [{}]\n", panes);
    const auto add = [&](const char* key, const std::string& text) {
        if (!text.empty())
            toml += fmt::format("{} = {}\n", key, quotedToml(text));
    };
    for (std::size_t i = 0; i < horizons.size(); ++i) {
        toml += fmt::format("\n[[trend]]\nhorizon = \"{}\"\n", horizonName(horizons[i]));
        add("rising", book.trends[i].rising);
        add("rising_ends", book.trends[i].risingEnds);
        add("falling", book.trends[i].falling);
        add("falling_ends", book.trends[i].fallingEnds);
    }
    for (const TimingRule& rule : book.rules) {
        toml += "\n[[rule]]\n";
        add("title", rule.title);
        add("enter", rule.enter);
        add("leave", rule.leave);
        if (rule.standsAside)
            toml += "stands_aside = true\n";
        else
            toml += fmt::format("share = {}\n", rule.share);
    }
    return toml;
}

Result<MarketBook> bookFromToml(std::string_view toml)
{
    return readToml(toml, "see docs/market.md for the form of a market book", readBook);
}

MarketBook withRenamed(MarketBook book, const language::Renaming& renaming)
{
    const auto rename = [&](std::string& text) { text = renaming.in(text); };
    for (TrendRule& rule : book.trends)
        for (std::string* text : {&rule.rising, &rule.risingEnds, &rule.falling, &rule.fallingEnds})
            rename(*text);
    for (TimingRule& rule : book.rules) {
        rename(rule.enter);
        rename(rule.leave);
    }
    std::ranges::for_each(book.panes, rename);
    return book;
}

bool names(const MarketBook& book, language::Renaming::What what, std::string_view name)
{
    return !(withRenamed(book, {what, std::string(name), "another_name_for_it"}) == book);
}

} // namespace sieve::conditions
