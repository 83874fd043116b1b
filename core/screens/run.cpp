#include "core/screens/run.h"
#include "core/base/parallel.h"

#include "core/engine/currencies.h"
#include "core/screens/answers.h"

#include <algorithm>
#include <atomic>
#include <cmath>
#include <fmt/format.h>

namespace sieve::screens {

namespace {

void rank(std::vector<std::size_t>& matches, const engine::Column& ranks)
{
    std::ranges::stable_sort(matches, [&ranks](std::size_t a, std::size_t b) {
        if (isMissing(ranks[a]) || isMissing(ranks[b]))
            return !isMissing(ranks[a]) && isMissing(ranks[b]);
        return ranks[a] > ranks[b];
    });
}

CriterionCount countOf(const Answers& answers, std::size_t place)
{
    const CriterionAnswer& answer = answers.criteria[place];
    CriterionCount count;
    count.error = answer.error;
    count.warnings = answer.warnings;
    count.limits = answer.limits;
    if (!answer.column)
        count.alone = answers.stocks.size();
    else
        for (const double* const column = answer.column->data();
             const std::size_t stock : answers.stocks) {
            count.alone += column[stock] == 1.0 ? 1U : 0U;
            count.noData += isMissing(column[stock]) ? 1U : 0U;
        }
    count.leftAfter = answers.left[place + 1].count();
    count.moreWithout = answers.keptOutBy(place).count();
    return count;
}

std::vector<std::size_t> matchesOf(const Answers& answers)
{
    std::vector<std::size_t> matches;
    answers.left.back().each([&](std::size_t place) { matches.push_back(answers.stocks[place]); });
    return matches;
}

} // namespace

ScreenRun run(const Screen& screen, const language::Names& names, engine::Evaluator& evaluator,
              Day day, const Progress& progress)
{
    const Answers answers = answer(screen, names, evaluator, day, progress);
    ScreenRun run;
    run.day = day;
    run.universe = answers.stocks.size();
    run.universeError = answers.universeError;
    run.rankError = answers.rankError;
    run.criteria.resize(answers.criteria.size());
    inParallel(answers.criteria.size(),
               [&](std::size_t i) { run.criteria[i] = countOf(answers, i); });
    run.matches = matchesOf(answers);
    run.passing = run.matches.size();
    if (answers.rank)
        rank(run.matches, *answers.rank);
    if (screen.keep > 0 && run.matches.size() > static_cast<std::size_t>(screen.keep))
        run.matches.resize(static_cast<std::size_t>(screen.keep));
    run.guidance = guidanceOf(answers);
    run.stocks = answers.stocks;
    return run;
}

std::optional<double> figureAtPercent(const Screen& screen, const language::Names& names,
                                      engine::Evaluator& evaluator, Day day, std::size_t criterion,
                                      std::size_t limit, double percent, const Progress& progress)
{
    const Answers answers = answer(screen, names, evaluator, day, progress);
    if (criterion >= answers.criteria.size() || limit >= answers.criteria[criterion].limits.size())
        return std::nullopt;
    std::vector<double> figures;
    answers.left[criterion].each([&](std::size_t place) {
        const double figure =
            answers.criteria[criterion].limits[limit].shown(answers.stocks[place]);
        if (!isMissing(figure))
            figures.push_back(figure);
    });
    if (figures.empty())
        return std::nullopt;
    std::ranges::sort(figures);
    const double place =
        std::clamp(percent / 100.0, 0.0, 1.0) * static_cast<double>(figures.size() - 1);
    return figures[static_cast<std::size_t>(std::lround(place))];
}

Changes changesBetween(const Screen& screen, const language::Names& names,
                       engine::Evaluator& evaluator, Day from, Day to, const Progress& progress)
{
    const auto before = matchesOf(answer(screen, names, evaluator, from, progress));
    const auto after = matchesOf(answer(screen, names, evaluator, to, progress));
    Changes changes;
    std::ranges::set_difference(after, before, std::back_inserter(changes.entered));
    std::ranges::set_difference(before, after, std::back_inserter(changes.left));
    std::ranges::set_intersection(before, after, std::back_inserter(changes.stayed));
    return changes;
}

std::vector<DayCount> countOver(const engine::Plan& plan, engine::NodeId condition,
                                engine::Evaluator& evaluator, std::span<const Day> days,
                                const Progress& progress)
{
    std::vector<std::atomic<std::uint32_t>> passing(days.size());
    std::vector<std::atomic<std::int32_t>> coming(days.size() + 1); // less those who go
    const market::Market& market = evaluator.market();
    evaluator.sweep(
        plan, std::span(&condition, 1), days,
        [&](const engine::SweepValues& swept) {
            if (market.isIndex(swept.instrument))
                return;
            ++coming[swept.firstDay];
            --coming[swept.firstDay + swept.bars.size()];
            for (std::size_t day = 0; day < swept.bars.size(); ++day)
                if (swept.value(0, day) == 1.0)
                    ++passing[swept.firstDay + day];
        },
        progress);
    std::vector<DayCount> counts(days.size());
    std::int32_t stocks = 0;
    for (std::size_t day = 0; day < days.size(); ++day) {
        stocks += coming[day];
        counts[day] = {passing[day], static_cast<std::size_t>(stocks)};
    }
    return counts;
}

ScreenNodes nodesOf(const Screen& screen, const language::Names& names,
                    const market::Market& market, engine::Plan& plan)
{
    ScreenNodes nodes;
    language::Names own = names;
    own.universe.reset();
    std::vector<engine::NodeId> parts;
    const auto add = [&](const std::string& text) {
        const auto checked = checkCondition(text, own, plan);
        if (checked)
            parts.push_back(checked->node);
        return checked ? std::optional(checked->node) : std::nullopt;
    };
    if (!screen.universe.empty())
        nodes.universe = own.universe = add(screen.universe);
    for (const Criterion& criterion : screen.criteria)
        if (criterion.isOn)
            add(criterion.text);
    if (parts.empty())
        parts.push_back(checkCondition("known(close)", own, plan)->node);
    engine::Node all; // one question instead of many: where one says no, none else is asked
    all.op = engine::Op::And;
    all.kind = Kind::YesNo;
    all.inputs = parts;
    nodes.condition = parts.size() == 1 ? parts[0] : plan.add(all);
    if (!screen.rankBy.empty())
        if (const auto rank = language::check(screen.rankBy, own, plan);
            rank && rank->kind == Kind::Number)
            nodes.rank = market.hasOtherCurrencies() ? engine::inMarketCurrency(plan, rank->node)
                                                     : rank->node;
    return nodes;
}

std::optional<LocatedError> faultOf(const Screen& screen, const language::Names& names)
{
    engine::Plan plan;
    language::Names own = names;
    own.universe.reset();
    const auto in = [](const std::string& text, LocatedError error) {
        error.problem = fmt::format("in '{}': {}", text, error.problem);
        return error;
    };
    if (!screen.universe.empty()) {
        const auto universe = checkCondition(screen.universe, own, plan);
        if (!universe)
            return in(screen.universe, universe.error());
        own.universe = universe->node;
    }
    for (const Criterion& criterion : screen.criteria)
        if (criterion.isOn)
            if (const auto checked = checkCondition(criterion.text, own, plan); !checked)
                return in(criterion.text, checked.error());
    if (screen.rankBy.empty())
        return std::nullopt;
    const auto rank = language::check(screen.rankBy, own, plan);
    if (!rank)
        return in(screen.rankBy, rank.error());
    if (rank->kind != Kind::Number)
        return in(screen.rankBy, {{}, "this is no figure to rank by", "write a number"});
    return std::nullopt;
}

std::vector<std::size_t> passingOver(const Screen& screen, const language::Names& names,
                                     engine::Evaluator& evaluator, std::span<const Day> days,
                                     const Progress& progress)
{
    engine::Plan plan;
    const engine::NodeId condition = nodesOf(screen, names, evaluator.market(), plan).condition;
    std::vector<std::size_t> passing;
    for (const DayCount& day : countOver(plan, condition, evaluator, days, progress))
        passing.push_back(day.passing);
    return passing;
}

language::ScreenCondition conditionOf(const Screen& screen)
{
    language::ScreenCondition condition;
    condition.universe = screen.universe;
    for (const Criterion& criterion : screen.criteria)
        if (criterion.isOn)
            condition.criteria.push_back(criterion.text);
    return condition;
}

} // namespace sieve::screens
