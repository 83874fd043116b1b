#include "core/watchlists/tray.h"

#include <algorithm>
#include <array>

namespace sieve::watchlists {

namespace {

constexpr std::array<std::pair<Mark, std::string_view>, 4> names{{{Mark::Open, "open"},
                                                                  {Mark::Kept, "kept"},
                                                                  {Mark::Dropped, "dropped"},
                                                                  {Mark::Later, "later"}}};

} // namespace

std::string_view markName(Mark mark)
{
    return std::ranges::find(names, mark, [](const auto& each) { return each.first; })->second;
}

std::optional<Mark> markNamed(std::string_view name)
{
    for (const auto& [mark, each] : names)
        if (each == name)
            return mark;
    return std::nullopt;
}

TrayCounts Tray::counts() const
{
    const auto count = [this](Mark mark) {
        return static_cast<std::size_t>(std::ranges::count(cards_, mark, &Card::mark));
    };
    return {count(Mark::Open), count(Mark::Kept), count(Mark::Dropped), count(Mark::Later)};
}

void Tray::add(const std::vector<Card>& cards)
{
    cards_.insert(cards_.end(), cards.begin(), cards.end());
}

void Tray::mark(std::size_t place, Mark mark, const std::string& reason)
{
    cards_.at(place).mark = mark;
    cards_.at(place).reason = reason;
}

void Tray::setPlan(std::size_t place, std::optional<TradePlan> plan)
{
    cards_.at(place).plan = std::move(plan);
}

std::optional<std::size_t> Tray::nextUndecided(std::size_t place) const
{
    for (const Mark wanted : {Mark::Open, Mark::Later})
        for (std::size_t step = 1; step <= cards_.size(); ++step)
            if (const std::size_t next = (place + step) % cards_.size();
                cards_[next].mark == wanted && next != place)
                return next;
    return std::nullopt;
}

} // namespace sieve::watchlists
