#include "core/watchlists/weighing.h"

#include "core/base/toml_table.h"
#include "core/market/as_of.h"

#include <algorithm>
#include <fmt/format.h>

namespace sieve::watchlists {

namespace {

ChosenPeers readPeers(const toml::table& table)
{
    refuseOthers(table, "chosen peers", {"of", "on", "are"});
    ChosenPeers peers{valueOr<std::string>(table, "of", {}), dayUnder(table, "on"),
                      textsOf(table, "are")};
    if (peers.of.empty())
        failAt(table.source(), "peers without a stock", "write of = \"…\"");
    return peers;
}

Followed readFollowed(const toml::table& table)
{
    refuseOthers(table, "a followed stock", {"of", "on", "seen_to"});
    std::string of = valueOr<std::string>(table, "of", {});
    if (of.empty())
        failAt(table.source(), "a followed stock without a symbol", "write of = \"…\"");
    return {std::move(of), dayUnder(table, "on"), dayUnder(table, "seen_to")};
}

} // namespace

Weighing standardWeighing()
{
    return {{"Strong in a strong group", "Cheap for what it earns", "Too far above its average",
             "Too thinly traded", "Report too near", "Growth slows", "Too much debt",
             "Owners sell"},
            {},
            {}};
}

const ChosenPeers* peersOf(const Weighing& weighing, const market::Market& market,
                           std::size_t stock)
{
    const auto found = std::ranges::find_if(weighing.peers, [&](const ChosenPeers& each) {
        return market.find(each.of, each.on) == stock;
    });
    return found == weighing.peers.end() ? nullptr : &*found;
}

void choosePeers(Weighing& weighing, const market::Market& market, std::size_t stock, Day day,
                 std::vector<std::string> symbols)
{
    std::erase_if(weighing.peers,
                  [&](const ChosenPeers& each) { return market.find(each.of, each.on) == stock; });
    if (!symbols.empty())
        weighing.peers.push_back(
            {market::symbolOn(market.instrument(stock), day), day, std::move(symbols)});
}

bool isFollowed(const Weighing& weighing, const market::Market& market, std::size_t stock)
{
    return std::ranges::any_of(weighing.followed, [&](const Followed& each) {
        return market.find(each.of, each.on) == stock;
    });
}

void follow(Weighing& weighing, const market::Market& market, std::size_t stock, Day day,
            bool isFollowed)
{
    std::erase_if(weighing.followed,
                  [&](const Followed& each) { return market.find(each.of, each.on) == stock; });
    if (isFollowed)
        weighing.followed.push_back({market::symbolOn(market.instrument(stock), day), day, day});
}

std::string toToml(const Weighing& weighing)
{
    std::string toml = fmt::format("reasons = {}\n", quotedToml(weighing.reasons));
    for (const ChosenPeers& peers : weighing.peers)
        toml += fmt::format("[[peers]]\nof = {}\non = \"{}\"\nare = {}\n", quotedToml(peers.of),
                            peers.on.iso(), quotedToml(peers.symbols));
    for (const Followed& each : weighing.followed)
        toml += fmt::format("[[followed]]\nof = {}\non = \"{}\"\nseen_to = \"{}\"\n",
                            quotedToml(each.of), each.on.iso(), each.seenTo.iso());
    return toml;
}

Result<Weighing> weighingFromToml(std::string_view toml)
{
    return readToml(toml, "write reasons = [\"…\"]", [](const toml::table& file) {
        refuseOthers(file, "weighing", {"reasons", "peers", "followed"});
        Weighing weighing{textsOf(file, "reasons"), {}, {}};
        for (const toml::table* each : tablesOf(file, "peers"))
            weighing.peers.push_back(readPeers(*each));
        for (const toml::table* each : tablesOf(file, "followed"))
            weighing.followed.push_back(readFollowed(*each));
        return weighing;
    });
}

} // namespace sieve::watchlists
