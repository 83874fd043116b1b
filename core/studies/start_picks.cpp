#include "core/studies/start_picks.h"

#include "core/engine/currencies.h"

#include <algorithm>
#include <fmt/format.h>
#include <map>
#include <optional>

namespace sieve::studies {

namespace {

/// Where the answers of a screen stand among the targets.
struct Places {
    std::size_t condition = 0;
    std::optional<std::size_t> rank;
    std::optional<std::size_t> weight;
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
        Places places;
        places.condition = target(nodes.condition, engine::everywhere);
        if (nodes.rank)
            places.rank = target(*nodes.rank, places.condition);
        if (weight)
            places.weight = target(*weight, places.condition);
        if (nodes.universe)
            places.universe = target(*nodes.universe, engine::everywhere);
        return places;
    }
    /// The figure that shares the money. Errors: of the text, and where it is no figure.
    std::optional<LocatedError> setWeight(const std::string& text)
    {
        const auto checked = language::check(text, names_, plan);
        if (!checked)
            return checked.error();
        if (checked->kind != Kind::Number)
            return LocatedError{{}, "money cannot be shared by this", "write a figure"};
        weight = market_.hasOtherCurrencies() ? engine::inMarketCurrency(plan, checked->node)
                                              : checked->node;
        return std::nullopt;
    }

    /// All that the picks depend on, in one market.
    std::string key(const StandingsQuestion& question,
                    std::span<const screens::Screen* const> screens,
                    std::span<const Places> places) const
    {
        std::string text = "picks";
        const auto add = [&](std::optional<std::size_t> target) {
            const engine::NodeKey key = target ? plan.key(targets[*target]) : engine::NodeKey();
            text += fmt::format(" {:x}:{:x}", key.high, key.low);
        };
        for (std::size_t i = 0; i < screens.size(); ++i) {
            for (const auto target : {std::optional(places[i].condition), places[i].rank,
                                      places[i].weight, places[i].universe})
                add(target);
            text += fmt::format(" {}", question.best > 0 ? question.best : screens[i]->keep);
        }
        text += question.weights.empty() ? " equally" : " weighted";
        for (const Day day : question.starts)
            text += fmt::format(" {}", day.serial());
        return text;
    }

    engine::Plan plan;
    std::optional<engine::NodeId> weight;
    std::vector<engine::NodeId> targets;
    std::vector<std::size_t> onlyWhere; ///< a target: see Evaluator::sweep

private:
    std::size_t target(engine::NodeId node, std::size_t where)
    {
        const auto [at, isNew] = places_.emplace(std::pair(node, where), targets.size());
        if (isNew) {
            targets.push_back(node);
            onlyWhere.push_back(where);
        }
        return at->second;
    }

    const language::Names& names_;
    const market::Market& market_;
    std::map<std::pair<engine::NodeId, std::size_t>, std::size_t> places_;
};

/// Calls `of(day)` for each day on which a target is yes. Most blocks of days have none.
template <class Of> void eachYes(const engine::SweepValues& swept, std::size_t target, Of of)
{
    const std::span<const double> values = swept.values[target];
    constexpr std::size_t together = 16;
    const bool isBarADay = swept.isBarADay();
    for (std::size_t first = 0; first < swept.bars.size(); first += together) {
        const std::size_t end = std::min(first + together, swept.bars.size());
        if (isBarADay && end == first + together) {
            const double* const block = &values[swept.bars[first] - swept.firstBar];
            bool isAny = false;
            for (std::size_t i = 0; i < together; ++i)
                isAny |= block[i] == 1.0;
            if (!isAny)
                continue;
        }
        for (std::size_t day = first; day < end; ++day)
            if (swept.value(target, day) == 1.0)
                of(day);
    }
}

} // namespace

bool StartPicks::Best::Entry::isBefore(const Entry& other) const
{
    if (isMissing(rank) != isMissing(other.rank))
        return !isMissing(rank);
    if (!isMissing(rank) && rank != other.rank)
        return rank > other.rank;
    return stock < other.stock;
}

void StartPicks::Best::keep(const Entry& entry, std::size_t most)
{
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
    if (entries_.size() < most)
        return;
    if (isMissing(entries_.front().rank))
        worstUnranked_.store(entries_.front().stock, std::memory_order_relaxed);
    else
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

Result<std::shared_ptr<const StartPicks>>
StartPicks::of(const StandingsQuestion& question, std::span<const screens::Screen* const> screens,
               const language::Names& names, engine::Evaluator& evaluator, const Progress& progress)
{
    const market::Market& market = evaluator.market();
    const std::shared_ptr<StartPicks> made(new StartPicks(question, screens, market.size()));
    StartPicks& picks = *made;
    Asked asked(names, market);
    if (!question.weights.empty())
        if (const auto fault = asked.setWeight(question.weights))
            return *fault;
    std::vector<Places> places;
    std::vector<std::optional<std::size_t>> universes; // a universe: its place among the targets
    for (const screens::Screen* screen : screens) {
        places.push_back(asked.add(*screen));
        const auto found = std::ranges::find(universes, places.back().universe);
        picks.universeOf_.push_back(static_cast<std::size_t>(found - universes.begin()));
        if (found == universes.end())
            universes.push_back(places.back().universe);
    }
    const std::string key = asked.key(question, screens, places);
    if (auto known = evaluator.found().find<StartPicks>(key))
        return known;
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
                picks.addMatches(i, swept, places[i].condition, places[i].rank, places[i].weight);
        },
        progress, asked.onlyWhere);
    evaluator.found().keep(key, made, picks.bytes());
    return std::shared_ptr<const StartPicks>(made);
}

std::size_t StartPicks::bytes() const
{
    const std::size_t bits = stocks_ * (starts_ / 8 + 40);
    std::size_t bytes = universes_.size() * bits;
    for (const Own& own : screens_) {
        bytes += own.matches.empty() ? 0 : bits;
        for (const auto& best : own.best)
            bytes += sizeof(Best) + best->entries().capacity() * sizeof(Best::Entry);
    }
    return bytes;
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
    const auto valueOf = [&](std::optional<std::size_t> target, std::size_t day) {
        return target ? swept.value(*target, day) : missing;
    };
    eachYes(swept, condition, [&](std::size_t day) {
        if (own.most == 0)
            own.matches[swept.instrument].set(swept.firstDay + day);
        else
            own.best[swept.firstDay + day]->offer({valueOf(rank, day), valueOf(weight, day),
                                                   static_cast<std::uint32_t>(swept.instrument)},
                                                  own.most);
    });
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
