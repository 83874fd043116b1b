#include "core/engine/gated_pass.h"

#include "core/engine/evaluator.h"
#include "core/engine/operators/values.h"
#include "core/indicators/wide.h"

#include <algorithm>
#include <array>
#include <bit>
#include <cstdint>
#include <map>
#include <set>

namespace sieve::engine {

namespace {

/// Of the parts asked together; beyond it, to know first where the answer is no spares more than
/// it costs to begin anew.
constexpr double costAtOnce = 12.0;

/// What a part costs a bar, in comparisons: an estimate, which decides about the order only.
double costOf(const Node& node)
{
    const double cost = operatorOf(node.op).cost;
    if (!node.indicator)
        return cost;
    return cost + static_cast<double>(node.indicator->reach(node.settings)) / 64.0; // a recursion
}

/// The same for many screens, each of which adds its own to what is asked together.
constexpr double mostAtOnce = 100.0;
/// What costs more is asked alone, so that only bars on which it decides are paid for.
constexpr double costAlone = 100.0;

constexpr std::size_t barsTogether = 16; ///< a block: a part of a word of bits
constexpr std::size_t bitsAWord = 64;

/// Sixteen answers as bits: which are other than no, and which are known.
SIEVE_WIDE void bitsOf(const double* answers, std::size_t blocks, std::uint16_t* notNo,
                       std::uint16_t* known)
{
    for (std::size_t block = 0; block < blocks; ++block) {
        std::uint64_t open = 0;
        std::uint64_t there = 0;
        for (std::size_t i = 0; i < barsTogether; ++i) {
            const double answer = answers[block * barsTogether + i];
            open |= answer == 0.0 ? std::uint64_t{0} : std::uint64_t{1} << i;
            there |= answer == answer ? std::uint64_t{1} << i : std::uint64_t{0};
        }
        notNo[block] = static_cast<std::uint16_t>(open);
        known[block] = static_cast<std::uint16_t>(there);
    }
}

/// Sets the bits of some answers; `at`: the place of the first, which begins a block.
void setBits(std::span<const double> answers, std::size_t at, std::span<std::uint64_t> notNo,
             std::span<std::uint64_t> known)
{
    constexpr std::size_t most = 64;
    std::array<std::uint16_t, most> open{};
    std::array<std::uint16_t, most> there{};
    std::array<double, barsTogether> last{}; // a block that is not whole
    for (std::size_t first = 0; first < answers.size();) {
        const std::size_t whole = std::min(most, (answers.size() - first) / barsTogether);
        const std::size_t blocks = std::max<std::size_t>(whole, 1);
        if (whole == 0)
            std::ranges::copy(answers.subspan(first), last.begin());
        bitsOf(whole == 0 ? last.data() : answers.data() + first, blocks, open.data(),
               there.data());
        for (std::size_t i = 0; i < blocks; ++i) {
            const std::size_t bar = at + first + i * barsTogether;
            notNo[bar / bitsAWord] |= std::uint64_t{open[i]} << bar % bitsAWord;
            known[bar / bitsAWord] |= std::uint64_t{there[i]} << bar % bitsAWord;
        }
        first += blocks * barsTogether;
    }
}

} // namespace

/// A criterion with its parts.
struct GatedPass::Criterion {
    NodeId id = 0;
    std::vector<NodeId> parts;
    double cost = 0.0;
    std::vector<std::size_t> screens; ///< those that have it

    Criterion(const Plan& plan, NodeId of) : id(of), parts(plan.neededAlongBars(std::span(&of, 1)))
    {
        for (const NodeId part : parts)
            cost += costOf(plan[part]);
    }
    std::size_t reach(const Plan& plan) const
    {
        std::size_t most = 0;
        for (const NodeId part : parts)
            if (plan[part].indicator)
                most = std::max(most, plan[part].indicator->reach(plan[part].settings));
        return most;
    }
};

GatedPass::GatedPass(const Context& context, const Plan& plan, std::span<const NodeId> targets,
                     Depth depth, std::span<const std::size_t> onlyWhere)
{
    std::vector<NodeId> plain;
    std::vector<NodeId> figures;
    for (std::size_t i = 0; i < targets.size(); ++i) {
        const std::size_t where = onlyWhere.empty() ? everywhere : onlyWhere[i];
        if (where != everywhere) {
            places_.push_back({Place::In::Figures, figures.size()});
            figures.push_back(targets[i]);
            figures_.push_back({where, {}});
        } else if (plan[targets[i]].op == Op::And) {
            places_.push_back({Place::In::Screens, screens_.size()});
            screens_.emplace_back();
        } else {
            places_.push_back({Place::In::Plain, plain.size()});
            plain.push_back(targets[i]);
        }
    }
    plain_.emplace(context, plan, plain, depth);
    if (!figures.empty())
        asFigure_.emplace(context, plan, figures, depth);
    std::vector<NodeId> steady;
    std::vector<Criterion> criteria = addScreens(plan, targets, steady);
    if (!steady.empty())
        steady_.emplace(context, plan, steady, depth);
    addLevels(context, plan, std::move(criteria), depth);
}

/// Each criterion once, with the screens that have it.
std::vector<GatedPass::Criterion> GatedPass::addScreens(const Plan& plan,
                                                        std::span<const NodeId> targets,
                                                        std::vector<NodeId>& steady)
{
    std::vector<Criterion> criteria;
    std::map<NodeId, std::size_t> criterionAt;
    std::map<NodeId, std::size_t> steadyAt;
    for (std::size_t i = 0; i < targets.size(); ++i) {
        if (places_[i].in != Place::In::Screens)
            continue;
        const std::vector<NodeId>& own = plan[targets[i]].inputs;
        for (const NodeId id : std::set<NodeId>(own.begin(), own.end()))
            if (plan.isSteady(id)) {
                const auto [at, isNew] = steadyAt.emplace(id, steady.size());
                if (isNew)
                    steady.push_back(id);
                screens_[places_[i].at].steady.push_back(at->second);
            } else {
                const auto [at, isNew] = criterionAt.emplace(id, criteria.size());
                if (isNew)
                    criteria.emplace_back(plan, id);
                criteria[at->second].screens.push_back(places_[i].at);
            }
    }
    return criteria;
}

void GatedPass::addLevels(const Context& context, const Plan& plan, std::vector<Criterion> criteria,
                          Depth depth)
{
    std::ranges::stable_sort(criteria, {}, &Criterion::cost);
    const double costOfLevel =
        std::min(costAtOnce * static_cast<double>(screens_.size()), mostAtOnce);
    for (std::size_t first = 0; first < criteria.size();) {
        std::vector<NodeId> together;
        std::map<std::size_t, std::vector<std::size_t>> ofScreens;
        double cost = 0.0;
        std::size_t farApart = barsTogether;
        const auto fits = [&](const Criterion& next) {
            return together.empty() || (next.cost < costAlone && cost + next.cost <= costOfLevel);
        };
        for (; first < criteria.size() && fits(criteria[first]); ++first) {
            for (const std::size_t screen : criteria[first].screens)
                ofScreens[screen].push_back(together.size());
            together.push_back(criteria[first].id);
            cost += criteria[first].cost;
            if (criteria[first].cost < costAlone)
                farApart = std::clamp<std::size_t>(criteria[first].reach(plan) / 4,
                                                   std::max<std::size_t>(farApart, 64), 256);
        }
        std::vector<Ask> asks;
        for (auto& [screen, own] : ofScreens)
            asks.push_back({screen, std::move(own)});
        levels_.push_back({BarPass(context, plan, together, depth), farApart, std::move(asks),
                           std::vector<Bars>(together.size())});
    }
}

void GatedPass::run(const BarFrame& frame, std::size_t from, std::size_t to)
{
    asked_ = {from, to};
    plain_->run(frame, from, to);
    if (!screens_.empty())
        begin(frame);
    for (Level& level : levels_) {
        select(level);
        for (const Bars& bars : selection_)
            ask(level, frame, bars);
        if (!selection_.empty())
            narrow(level);
    }
    for (Screen& screen : screens_)
        tell(screen);
    if (asFigure_)
        fillFigures(frame);
}

/// What the criteria say that all bars answer alike.
void GatedPass::begin(const BarFrame& frame)
{
    const std::size_t bars = asked_.to - asked_.from;
    words_ = (bars + bitsAWord - 1) / bitsAWord;
    if (steady_ && bars > 0)
        steady_->run(frame, asked_.from, asked_.from + 1);
    for (Screen& screen : screens_) {
        double answer = 1.0;
        if (bars > 0)
            for (const std::size_t place : screen.steady)
                answer = combine(Op::And, std::array{answer, steady_->values(place)[0]});
        screen.open.assign(words_, answer == 0.0 ? 0 : ~std::uint64_t{0});
        if (bars % bitsAWord != 0)
            screen.open.back() &= ~(~std::uint64_t{0} << bars % bitsAWord);
        screen.known.assign(words_, isMissing(answer) ? 0 : ~std::uint64_t{0});
        screen.hull = hullOf(screen.open);
    }
}

/// Finds the bars on which a screen of the level is open, and on which of them each criterion is
/// wanted. Long runs of other bars are left out.
void GatedPass::select(Level& level)
{
    level.wanted.assign(level.pass.targets(), {});
    marks_.assign(words_, 0);
    for (const Ask& each : level.asks) {
        const Screen& screen = screens_[each.screen];
        if (screen.hull.isEmpty())
            continue;
        for (std::size_t word = 0; word < words_; ++word)
            marks_[word] |= screen.open[word];
        for (const std::size_t criterion : each.criteria) {
            Bars& wanted = level.wanted[criterion];
            wanted = wanted.isEmpty() ? screen.hull
                                      : Bars{std::min(wanted.from, screen.hull.from),
                                             std::max(wanted.to, screen.hull.to)};
        }
    }
    selection_.clear();
    for (std::size_t bar = 0; bar < asked_.to - asked_.from; bar += barsTogether) {
        if ((marks_[bar / bitsAWord] >> bar % bitsAWord & 0xFFFFU) == 0)
            continue;
        const std::size_t first = asked_.from + bar;
        if (selection_.empty() || first >= selection_.back().to + level.farApart)
            selection_.push_back({first, first});
        selection_.back().to = std::min(first + barsTogether, asked_.to);
    }
    notNo_.assign(level.wanted.size() * words_, 0);
    known_.assign(level.wanted.size() * words_, 0);
}

/// What a level's criteria say on a run of bars.
void GatedPass::ask(Level& level, const BarFrame& frame, const Bars& bars)
{
    bool isWhole = true; // each criterion on all of the bars
    wanted_.clear();
    for (const Bars& hull : level.wanted) {
        const Bars own{std::max(hull.from, bars.from), std::min(hull.to, bars.to)};
        wanted_.push_back(own.isEmpty() ? Bars() : own);
        isWhole = isWhole && own.from == bars.from && own.to == bars.to;
    }
    level.pass.run(frame, bars.from, bars.to,
                   isWhole ? std::span<const Bars>() : std::span<const Bars>(wanted_));
    for (std::size_t i = 0; i < wanted_.size(); ++i)
        setBits(level.pass.values(i), wanted_[i].from - asked_.from,
                std::span(notNo_).subspan(i * words_, words_),
                std::span(known_).subspan(i * words_, words_));
}

/// What the level's answers make of the screens.
void GatedPass::narrow(const Level& level)
{
    for (const Ask& each : level.asks) {
        Screen& screen = screens_[each.screen];
        if (screen.hull.isEmpty())
            continue;
        for (const std::size_t criterion : each.criteria)
            for (std::size_t word = 0; word < words_; ++word) {
                screen.open[word] &= notNo_[criterion * words_ + word];
                screen.known[word] &= known_[criterion * words_ + word];
            }
        screen.hull = hullOf(screen.open);
    }
}

Bars GatedPass::hullOf(const BitRow& open) const
{
    std::size_t first = 0;
    std::size_t end = open.size();
    while (first < end && open[first] == 0)
        ++first;
    while (first < end && open[end - 1] == 0)
        --end;
    if (first == end)
        return {};
    const auto blockOf = [](std::size_t bit) { return bit / barsTogether * barsTogether; };
    const std::size_t from =
        first * bitsAWord + blockOf(static_cast<std::size_t>(std::countr_zero(open[first])));
    const std::size_t to =
        end * bitsAWord - blockOf(static_cast<std::size_t>(std::countl_zero(open[end - 1])));
    return {asked_.from + from, std::min(asked_.from + to, asked_.to)};
}

/// The answers as values, which is how everybody reads them.
void GatedPass::tell(Screen& screen) const
{
    screen.values.assign(asked_.to - asked_.from, 0.0);
    for (std::size_t bar = screen.hull.from; bar < screen.hull.to; ++bar) {
        const std::size_t at = bar - asked_.from;
        const auto bit = [at](const BitRow& row) {
            return (row[at / bitsAWord] >> at % bitsAWord & 1U) != 0;
        };
        screen.values[at] = !bit(screen.open) ? 0.0 : bit(screen.known) ? 1.0 : missing;
    }
}

/// The figures that are wanted where a target holds: from the first to the last such bar.
void GatedPass::fillFigures(const BarFrame& frame)
{
    wanted_.assign(figures_.size(), {});
    for (std::size_t i = 0; i < figures_.size(); ++i) {
        const std::span<const double> answers = values(figures_[i].where);
        std::size_t first = 0;
        std::size_t end = answers.size();
        while (first < end && answers[first] != 1.0)
            ++first;
        while (first < end && answers[end - 1] != 1.0)
            --end;
        if (first < end)
            wanted_[i] = {asked_.from + first, asked_.from + end};
    }
    asFigure_->run(frame, asked_.from, asked_.to, wanted_);
    for (std::size_t i = 0; i < figures_.size(); ++i) {
        std::vector<double>& values = figures_[i].values;
        values.resize(std::max(values.size(), asked_.to - asked_.from)); // outside: never read
        if (!wanted_[i].isEmpty())
            std::ranges::copy(asFigure_->values(i), &values[wanted_[i].from - asked_.from]);
    }
}

std::span<const double> GatedPass::values(std::size_t target) const
{
    const Place& place = places_.at(target);
    switch (place.in) {
    case Place::In::Screens:
        return screens_[place.at].values;
    case Place::In::Figures:
        return std::span(figures_[place.at].values).first(asked_.to - asked_.from);
    case Place::In::Plain:
        break;
    }
    return plain_->values(place.at);
}

} // namespace sieve::engine
