#include "core/studies/start_picks.h"

#include "core/engine/currencies.h"

#include <algorithm>
#include <map>
#include <optional>

namespace sieve::studies {

namespace {

/// Where the answers of a screen stand among the targets.
struct Places {
    std::size_t condition = 0;
    std::optional<std::size_t> rank;
};

/// Every node once.
class TargetList {
public:
    std::size_t add(engine::NodeId node)
    {
        const auto [at, isNew] = places_.emplace(node, nodes.size());
        if (isNew)
            nodes.push_back(node);
        return at->second;
    }
    std::vector<engine::NodeId> nodes;

private:
    std::map<engine::NodeId, std::size_t> places_;
};

} // namespace

bool StartPicks::Best::Entry::isBefore(const Entry& other) const
{
    if (isMissing(rank) != isMissing(other.rank))
        return !isMissing(rank);
    if (!isMissing(rank) && rank != other.rank)
        return rank > other.rank;
    return stock < other.stock;
}

void StartPicks::Best::offer(const Entry& entry, std::size_t most)
{
    if (entry.rank < worst_.load(std::memory_order_relaxed))
        return;
    const auto isBefore = [](const Entry& a, const Entry& b) { return a.isBefore(b); };
    const std::scoped_lock lock(mutex_);
    if (entries_.size() == most) {
        if (!entry.isBefore(entries_.front()))
            return;
        std::ranges::pop_heap(entries_, isBefore);
        entries_.back() = entry;
    } else {
        entries_.push_back(entry);
    }
    std::ranges::push_heap(entries_, isBefore);
    if (entries_.size() == most && !isMissing(entries_.front().rank))
        worst_.store(entries_.front().rank, std::memory_order_relaxed);
}

Result<StartPicks> StartPicks::of(const StandingsQuestion& question,
                                  std::span<const screens::Screen* const> screens,
                                  const language::Names& names, engine::Evaluator& evaluator,
                                  const Progress& progress)
{
    const market::Market& market = evaluator.market();
    StartPicks picks;
    picks.stocks_ = market.size();
    picks.starts_ = question.starts.size();
    engine::Plan plan;
    TargetList targets;
    std::vector<Places> places;
    std::optional<std::size_t> weightAt;
    std::vector<std::optional<std::size_t>> universeAt; // a universe: its place among the targets
    const auto universeOf = [&](const std::optional<std::size_t>& at) {
        const auto found = std::ranges::find(universeAt, at);
        if (found != universeAt.end())
            return static_cast<std::size_t>(found - universeAt.begin());
        universeAt.push_back(at);
        return universeAt.size() - 1;
    };
    for (const screens::Screen* screen : screens) {
        const screens::ScreenNodes nodes = screens::nodesOf(*screen, names, market, plan);
        Places& own = places.emplace_back();
        own.condition = targets.add(nodes.condition);
        Own& made = picks.screens_.emplace_back();
        const int most = question.best > 0 ? question.best : screen->keep;
        made.isWeighted = !question.weights.empty();
        made.most = static_cast<std::size_t>(most > 0 ? most : made.isWeighted ? mostWeighted : 0);
        if (made.most > 0 && nodes.rank)
            own.rank = targets.add(*nodes.rank);
        std::optional<std::size_t> universe;
        if (nodes.universe)
            universe = targets.add(*nodes.universe);
        picks.universeOf_.push_back(universeOf(universe));
        if (made.most == 0)
            made.matches.assign(picks.stocks_, BarBits(picks.starts_));
        else
            for (std::size_t i = 0; i < picks.starts_; ++i)
                made.best.push_back(std::make_unique<Best>());
    }
    if (!question.weights.empty()) {
        const auto checked = language::check(question.weights, names, plan);
        if (!checked)
            return checked.error();
        if (checked->kind != Kind::Number)
            return LocatedError{{}, "money cannot be shared by this", "write a figure"};
        weightAt =
            targets.add(market.hasOtherCurrencies() ? engine::inMarketCurrency(plan, checked->node)
                                                    : checked->node);
    }
    picks.universes_.assign(universeAt.size(),
                            std::vector<BarBits>(picks.stocks_, BarBits(picks.starts_)));
    evaluator.sweep(
        plan, targets.nodes, question.starts,
        [&](const engine::SweepValues& swept) {
            const std::size_t stock = swept.instrument;
            if (market.isIndex(stock))
                return;
            for (std::size_t i = 0; i < universeAt.size(); ++i)
                for (std::size_t day = 0; day < swept.bars.size(); ++day)
                    if (!universeAt[i] || swept.value(*universeAt[i], day) == 1.0)
                        picks.universes_[i][stock].set(swept.firstDay + day);
            for (std::size_t i = 0; i < places.size(); ++i) {
                Own& own = picks.screens_[i];
                const auto values = swept.values[places[i].condition];
                for (std::size_t day = 0; day < swept.bars.size(); ++day) {
                    const std::size_t at = swept.bars[day] - swept.firstBar;
                    if (values[at] != 1.0)
                        continue;
                    if (own.most == 0) {
                        own.matches[stock].set(swept.firstDay + day);
                        continue;
                    }
                    own.best[swept.firstDay + day]->offer(
                        {places[i].rank ? swept.values[*places[i].rank][at] : missing,
                         weightAt ? swept.values[*weightAt][at] : missing,
                         static_cast<std::uint32_t>(stock)},
                        own.most);
                }
            }
        },
        progress);
    return picks;
}

std::vector<StartPicks::Ranked> StartPicks::ranked(std::size_t screen, std::size_t start) const
{
    std::vector<Best::Entry> entries = screens_.at(screen).best.at(start)->entries();
    std::ranges::sort(entries, [](const auto& a, const auto& b) { return a.isBefore(b); });
    std::vector<Ranked> ranked;
    for (const Best::Entry& entry : entries)
        ranked.push_back({entry.stock, entry.weight});
    return ranked;
}

std::vector<StartPick> StartPicks::picks(std::size_t screen) const
{
    const Own& own = screens_.at(screen);
    std::vector<StartPick> all;
    if (own.most == 0) {
        std::vector<std::size_t> counts(starts_);
        for (std::size_t stock = 0; stock < stocks_; ++stock)
            own.matches[stock].each([&](std::size_t start) {
                ++counts[start];
                all.push_back(
                    {static_cast<std::uint32_t>(stock), static_cast<std::uint32_t>(start), 0.0});
            });
        for (StartPick& each : all)
            each.weight = 1.0 / static_cast<double>(counts[each.start]);
        return all;
    }
    for (std::size_t start = 0; start < starts_; ++start) {
        const auto& entries = own.best[start]->entries();
        const auto weightOf = [&](const Best::Entry& entry) {
            return own.isWeighted && entry.weight > 0.0 ? entry.weight : 0.0;
        };
        // In one order, so that their sum has the same bits every time.
        std::vector<Best::Entry> ordered(entries);
        std::ranges::sort(ordered, {}, &Best::Entry::stock);
        double sum = 0.0;
        for (const Best::Entry& entry : ordered)
            sum += weightOf(entry);
        for (const Best::Entry& entry : ordered)
            all.push_back(
                {entry.stock, static_cast<std::uint32_t>(start),
                 sum > 0.0 ? weightOf(entry) / sum : 1.0 / static_cast<double>(ordered.size())});
    }
    std::ranges::sort(all, {},
                      [](const StartPick& each) { return std::pair(each.stock, each.start); });
    return all;
}

} // namespace sieve::studies
