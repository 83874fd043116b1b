#include "core/conditions/line.h"
#include "core/base/parallel.h"

#include "core/engine/list_members.h"

#include <algorithm>
#include <fmt/format.h>
#include <functional>
#include <stdexcept>

namespace sieve::conditions {

namespace {

constexpr const char* allShares = "kind == \"share\"";

Line indexLine(const market::Market& market, std::size_t at)
{
    market::InstrumentRecord record;
    record.instrument = market.instrument(at);
    record.bars = market::Bars(market.bars(at));
    Line line;
    if (record.bars.size() > 0) {
        const std::size_t footing = market.footing(at, record.bars.size() - 1);
        for (const auto& [field, column] : {std::pair(market::BarField::Open, &record.bars.open),
                                            {market::BarField::High, &record.bars.high},
                                            {market::BarField::Low, &record.bars.low},
                                            {market::BarField::Close, &record.bars.close},
                                            {market::BarField::Volume, &record.bars.volume}})
            market.adjusted(at, field, footing, 0, *column);
        for (const market::Action& action : market.actions(at))
            if (action.kind == market::ActionKind::Split &&
                action.exDate <= record.bars.days.back())
                line.splits.push_back(action);
    }
    line.title = record.instrument.name.empty() ? record.instrument.symbol : record.instrument.name;
    line.shares = allShares;
    for (std::size_t i = 0; i < market.size(); ++i)
        if (std::ranges::find(market.instrument(i).memberships, record.instrument.symbol,
                              &market::Membership::index) !=
            market.instrument(i).memberships.end()) {
            line.shares =
                fmt::format("{} and in_index(\"{}\")", allShares, record.instrument.symbol);
            break;
        }
    std::vector<market::InstrumentRecord> records;
    records.push_back(std::move(record));
    line.market =
        std::make_shared<const market::Market>(market::MarketDescription{}, std::move(records));
    line.hasRange = true;
    return line;
}

} // namespace

double Line::scaleOn(Day day) const
{
    double scale = 1.0;
    for (const market::Action& split : splits)
        if (split.exDate > day)
            scale *= split.value;
    return scale;
}

std::optional<std::size_t> Line::barBy(Day day) const
{
    const auto next = std::ranges::upper_bound(bars().days, day);
    if (next == bars().days.begin())
        return std::nullopt;
    return static_cast<std::size_t>(next - bars().days.begin()) - 1;
}

Line lineOf(const market::Market& market, std::string title, std::string shares,
            std::span<const market::Member> members, market::Weight weight, market::Return kind)
{
    return {std::move(title), std::move(shares),
            market::marketOf(market::makeComposite(market, members, weight, kind)), false};
}

Line lineOfList(const market::Market& market, const std::string& name,
                const engine::ListMembers& list)
{
    market::Composite line =
        market::makeComposite(market, membersOf(market, list), market::Weight::Equal);
    const auto moved = std::ranges::find_if(
        line.levels, [&line](double level) { return level != line.levels.front(); });
    const auto idle = std::max<std::ptrdiff_t>(moved - line.levels.begin() - 1, 0);
    line.levels.erase(line.levels.begin(), line.levels.begin() + idle);
    line.days.erase(line.days.begin(), line.days.begin() + idle);
    return {name, "on_list(\"" + name + "\")", market::marketOf(line), false};
}

std::vector<Line> marketLines(const market::Market& market, const Progress& progress)
{
    std::vector<std::function<Line()>> makers;
    const auto addComposite = [&](std::string title, std::string shares,
                                  std::vector<market::Member> members, market::Weight weight) {
        makers.emplace_back([=, &market, members = std::move(members)] {
            return lineOf(market, title, shares, members, weight);
        });
    };
    addComposite("All shares, equal weight", allShares, market::allShares(market),
                 market::Weight::Equal);
    addComposite("All shares, by capitalization", allShares, market::allShares(market),
                 market::Weight::Capitalization);
    const auto benchmark = market.find(market.description().benchmark);
    const auto addIndex = [&](std::size_t at) {
        if (market.tenure(at).bars > 0)
            makers.emplace_back([&market, at] { return indexLine(market, at); });
    };
    if (benchmark)
        addIndex(*benchmark);
    for (std::size_t i = 0; i < market.size(); ++i)
        if (market.isIndex(i) && i != benchmark)
            addIndex(i);
    const std::vector<market::Exchange>& exchanges = market.description().exchanges;
    for (const market::Exchange& exchange : exchanges)
        if (const auto text = market.texts().find(exchange.name); text && exchanges.size() > 1)
            addComposite(
                exchange.name, fmt::format("{} and exchange == \"{}\"", allShares, exchange.name),
                sharesWith(market, market::TextField::Exchange, *text), market::Weight::Equal);
    std::vector<Line> lines(makers.size());
    inParallel(makers.size(), [&](std::size_t i) {
        if (progress.stopRequested())
            throw Stopped{};
        lines[i] = makers[i]();
    });
    return lines;
}

LineQuestion::LineQuestion(const language::Names& names, const Line& line)
    : line_(line), names_(names)
{
    const auto shares = checkCondition(line.shares, names, plan_);
    if (!shares)
        throw std::logic_error("line: " + sentence(shares.error()));
    names_.universe = shares->node;
}

Result<std::size_t> LineQuestion::add(const Result<language::Checked>& checked)
{
    if (!checked)
        return checked.error();
    checked_.push_back(*checked);
    return checked_.size() - 1;
}

Result<std::size_t> LineQuestion::add(std::string_view text)
{
    return add(check(text, names_, plan_));
}

Result<std::size_t> LineQuestion::addCondition(std::string_view text)
{
    return add(checkCondition(text, names_, plan_));
}

std::vector<std::vector<double>> LineQuestion::histories(engine::Evaluator& evaluator, Day day,
                                                         const Progress& progress) const
{
    std::vector<engine::NodeId> targets;
    for (const language::Checked& checked : checked_)
        targets.push_back(checked.node);
    return evaluator.lineHistories(plan_, targets, *line_.market, day, progress);
}

} // namespace sieve::conditions
