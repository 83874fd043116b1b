#include "core/watchlists/entry.h"

#include "core/base/toml_table.h"
#include "core/base/trimmed.h"
#include "core/watchlists/plan_table.h"
#include "core/watchlists/position.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <tuple>

namespace sieve::watchlists {

namespace {

constexpr std::array<std::string_view, signs.size()> signNames{"none",     "circle",  "square",
                                                               "triangle", "diamond", "cross"};

Trade readTrade(const toml::table& table)
{
    refuseOthers(table, "a trade", {"on", "price", "shares", "why"});
    return {dayUnder(table, "on"), numberUnder(table, "price"), numberUnder(table, "shares"),
            valueOr<std::string>(table, "why", {})};
}

Note readNote(const toml::table& table)
{
    refuseOthers(table, "a note", {"on", "text"});
    return {dayUnder(table, "on"), valueOr<std::string>(table, "text", {})};
}

/// The fewest shares held after any of the trades; below zero where more are sold than there are.
double fewestHeld(const std::vector<Trade>& trades)
{
    double held = 0.0;
    double fewest = 0.0;
    for (const Trade& trade : trades) {
        held += trade.shares;
        fewest = std::min(fewest, held);
    }
    return fewest;
}

} // namespace

std::string_view signName(Sign sign)
{
    return signNames.at(static_cast<std::size_t>(sign));
}

std::optional<Sign> signNamed(std::string_view name)
{
    for (const Sign sign : signs)
        if (signName(sign) == name)
            return sign;
    return std::nullopt;
}

bool operator==(const Entry& a, const Entry& b)
{
    return std::tie(a.symbol, a.addedOn, a.reason, a.source, a.plan, a.page) ==
               std::tie(b.symbol, b.addedOn, b.reason, b.source, b.plan, b.page) &&
           isSameFigure(a.priceThen, b.priceThen);
}

bool isWrittenTo(const Entry& entry)
{
    return !entry.reason.empty() || entry.plan || entry.page != EntryPage{};
}

void setPlan(Entry& entry, std::optional<TradePlan> plan)
{
    if (entry.plan == plan)
        return;
    auto& former = entry.page.formerPlans;
    if (entry.plan && (!plan || entry.plan->on < plan->on))
        former.push_back(*entry.plan);
    entry.plan = std::move(plan);
    if (entry.plan) // seen from an earlier day, later plans are taken back
        std::erase_if(former, [&](const TradePlan& each) { return each.on >= entry.plan->on; });
}

std::optional<TradePlan> planInForce(const Entry& entry, Day day)
{
    if (!entry.plan || entry.plan->on <= day)
        return entry.plan;
    const auto& former = entry.page.formerPlans;
    const auto after = std::ranges::upper_bound(former, day, {}, &TradePlan::on);
    return after == former.begin() ? std::nullopt : std::optional(*(after - 1));
}

std::string addTrade(Entry& entry, Trade trade)
{
    if (!(trade.price > 0.0) || !std::isfinite(trade.price))
        return "A trade needs a price above zero.";
    if (trade.shares == 0.0 || !std::isfinite(trade.shares))
        return "A trade needs a number of shares.";
    std::vector<Trade> trades = entry.page.trades;
    trades.insert(std::ranges::upper_bound(trades, trade.on, {}, &Trade::on), std::move(trade));
    if (fewestHeld(trades) < -noShares)
        return "More would be sold than is held.";
    entry.page.trades = std::move(trades);
    return {};
}

std::vector<std::string> tagsIn(std::string_view text)
{
    std::vector<std::string> tags;
    while (!text.empty()) {
        const std::size_t comma = std::min(text.find(','), text.size());
        if (std::string tag(trimmed(text.substr(0, comma)));
            !tag.empty() && std::ranges::find(tags, tag) == tags.end())
            tags.push_back(std::move(tag));
        text.remove_prefix(std::min(comma + 1, text.size()));
    }
    return tags;
}

std::string faultOfLink(std::string_view link)
{
    const bool isKnown =
        std::ranges::any_of(std::array<std::string_view, 3>{"https://", "http://", "mailto:"},
                            [&](std::string_view begin) {
                                return link.starts_with(begin) && link.size() > begin.size();
                            });
    if (!isKnown)
        return "A link begins with https://, http:// or mailto:.";
    if (std::ranges::any_of(link, [](unsigned char each) { return each <= ' ' || each == 0x7f; }))
        return "A link has no spaces and no line breaks.";
    return {};
}

std::string toToml(const EntryPage& page)
{
    std::string toml;
    if (!page.category.empty())
        toml += fmt::format("category = {}\n", quotedToml(page.category));
    if (!page.tags.empty())
        toml += fmt::format("tags = {}\n", quotedToml(page.tags));
    if (page.sign != Sign::None)
        toml += fmt::format("sign = \"{}\"\n", signName(page.sign));
    if (page.reviewOn)
        toml += fmt::format("review_on = \"{}\"\n", page.reviewOn->iso());
    if (!page.links.empty())
        toml += fmt::format("links = {}\n", quotedToml(page.links));
    if (!page.picture.empty())
        toml += fmt::format("picture = {}\n", quotedToml(page.picture));
    for (const Note& note : page.notes)
        toml += fmt::format("[[notes]]\non = \"{}\"\ntext = {}\n", note.on.iso(),
                            quotedToml(note.text));
    for (const Trade& trade : page.trades) {
        toml += fmt::format("[[trades]]\non = \"{}\"\nprice = {}\nshares = {}\n", trade.on.iso(),
                            trade.price, trade.shares);
        if (!trade.why.empty())
            toml += fmt::format("why = {}\n", quotedToml(trade.why));
    }
    for (const TradePlan& plan : page.formerPlans)
        toml += "[[former_plans]]\n" + toToml(plan);
    return toml;
}

Result<EntryPage> entryPageFromToml(std::string_view toml)
{
    return readToml(toml, "write category = \"…\"", [](const toml::table& file) {
        refuseOthers(file, "an entry",
                     {"category", "tags", "sign", "review_on", "links", "picture", "notes",
                      "trades", "former_plans"});
        EntryPage page;
        page.category = valueOr<std::string>(file, "category", {});
        page.tags = textsOf(file, "tags");
        const auto sign = signNamed(valueOr<std::string>(file, "sign", "none"));
        if (!sign)
            failAt(file.get("sign")->source(), "no sign of that name",
                   fmt::format("one of {}", fmt::join(signNames, ", ")));
        page.sign = *sign;
        if (file.contains("review_on"))
            page.reviewOn = dayUnder(file, "review_on");
        page.links = textsOf(file, "links");
        page.picture = valueOr<std::string>(file, "picture", {});
        for (const toml::table* each : tablesOf(file, "notes"))
            page.notes.push_back(readNote(*each));
        for (const toml::table* each : tablesOf(file, "trades"))
            page.trades.push_back(readTrade(*each));
        std::ranges::stable_sort(page.trades, {}, &Trade::on);
        for (const toml::table* each : tablesOf(file, "former_plans"))
            page.formerPlans.push_back(readPlan(*each));
        return page;
    });
}

} // namespace sieve::watchlists
