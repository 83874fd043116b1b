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
    std::optional<std::size_t> universe;
};

/// All that is asked of a stock, each part once, and where it stands.
class Asked {
public:
    Asked(const language::Names& names, const market::Market& market)
        : names_(names), market_(market)
    {
    }

    Places add(const screens::Screen& screen)
    {
        const screens::ScreenNodes nodes = screens::nodesOf(screen, names_, market_, plan);
        Places places{target(nodes.condition), std::nullopt, std::nullopt};
        if (nodes.rank)
            places.rank = target(*nodes.rank);
        if (nodes.universe)
            places.universe = target(*nodes.universe);
        return places;
    }
    /// Errors: of the text, and where it is no figure.
    Result<std::size_t> addFigure(const std::string& text)
    {
        const auto checked = language::check(text, names_, plan);
        if (!checked)
            return checked.error();
        if (checked->kind != Kind::Number)
            return LocatedError{{}, "money cannot be shared by this", "write a figure"};
        return target(market_.hasOtherCurrencies() ? engine::inMarketCurrency(plan, checked->node)
                                                   : checked->node);
    }

    engine::Plan plan;
    std::vector<engine::NodeId> targets;

private:
    std::size_t target(engine::NodeId node)
    {
        const auto [at, isNew] = places_.emplace(node, targets.size());
        if (isNew)
            targets.push_back(node);
        return at->second;
    }

    const language::Names& names_;
    const market::Market& market_;
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

StartPicks::StartPicks(const StandingsQuestion& question,
                       std::span<const screens::Screen* const> screens, std::size_t stocks)
    : stocks_(stocks), starts_(question.starts.size())
{
    for (const screens::Screen* screen : screens) {
        Own& own = screens_.emplace_back();
        const int most = question.best > 0 ? question.best : screen->keep;
        own.isWeighted = !question.weights.empty();
        own.most = static_cast<std::size_t>(most > 0 ? most : own.isWeighted ? mostWeighted : 0);
        if (own.most == 0)
            own.matches.assign(stocks_, BarBits(starts_));
        else
            for (std::size_t i = 0; i < starts_; ++i)
                own.best.push_back(std::make_unique<Best>());
    }
}

Result<StartPicks> StartPicks::of(const StandingsQuestion& question,
                                  std::span<const screens::Screen* const> screens,
                                  const language::Names& names, engine::Evaluator& evaluator,
                                  const Progress& progress)
{
    const market::Market& market = evaluator.market();
    StartPicks picks(question, screens, market.size());
    Asked asked(names, market);
    std::vector<Places> places;
    std::vector<std::optional<std::size_t>> universes; // a universe: its place among the targets
    for (const screens::Screen* screen : screens) {
        places.push_back(asked.add(*screen));
        const auto found = std::ranges::find(universes, places.back().universe);
        picks.universeOf_.push_back(static_cast<std::size_t>(found - universes.begin()));
        if (found == universes.end())
            universes.push_back(places.back().universe);
    }
    std::optional<std::size_t> weightAt;
    if (!question.weights.empty()) {
        const auto added = asked.addFigure(question.weights);
        if (!added)
            return added.error();
        weightAt = *added;
    }
    picks.universes_.assign(universes.size(),
                            std::vector<BarBits>(picks.stocks_, BarBits(picks.starts_)));
    evaluator.sweep(
        asked.plan, asked.targets, question.starts,
        [&](const engine::SweepValues& swept) {
            if (market.isIndex(swept.instrument))
                return;
            for (std::size_t i = 0; i < universes.size(); ++i)
                picks.addMembers(i, swept, universes[i]);
            for (std::size_t i = 0; i < places.size(); ++i)
                picks.addMatches(i, swept, places[i].condition, places[i].rank, weightAt);
        },
        progress);
    return picks;
}

void StartPicks::addMembers(std::size_t universe, const engine::SweepValues& swept,
                            std::optional<std::size_t> condition)
{
    BarBits& members = universes_[universe][swept.instrument];
    for (std::size_t day = 0; day < swept.bars.size(); ++day)
        if (!condition || swept.value(*condition, day) == 1.0)
            members.set(swept.firstDay + day);
}

void StartPicks::addMatches(std::size_t screen, const engine::SweepValues& swept,
                            std::size_t condition, std::optional<std::size_t> rank,
                            std::optional<std::size_t> weight)
{
    Own& own = screens_[screen];
    const auto values = swept.values[condition];
    const auto valueOf = [&](std::optional<std::size_t> target, std::size_t at) {
        return target ? swept.values[*target][at] : missing;
    };
    for (std::size_t day = 0; day < swept.bars.size(); ++day) {
        const std::size_t at = swept.bars[day] - swept.firstBar;
        if (values[at] != 1.0)
            continue;
        if (own.most == 0)
            own.matches[swept.instrument].set(swept.firstDay + day);
        else
            own.best[swept.firstDay + day]->offer({valueOf(rank, at), valueOf(weight, at),
                                                   static_cast<std::uint32_t>(swept.instrument)},
                                                  own.most);
    }
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
