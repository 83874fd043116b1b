#include "core/screens/run.h"

#include "core/screens/answers.h"

#include <algorithm>
#include <atomic>

namespace sieve::screens {

namespace {

void rank(std::vector<std::size_t>& matches, const expressions::Column& ranks)
{
    std::ranges::stable_sort(matches, [&ranks](std::size_t a, std::size_t b) {
        if (isMissing(ranks[a]) || isMissing(ranks[b]))
            return !isMissing(ranks[a]) && isMissing(ranks[b]);
        return ranks[a] > ranks[b];
    });
}

CriterionCount countAlone(const CriterionAnswer& answer, std::span<const std::size_t> stocks)
{
    CriterionCount count;
    count.error = answer.error;
    count.warnings = answer.warnings;
    for (const LimitFigures& limit : answer.limits)
        count.limits.push_back(limit.limit);
    for (const std::size_t stock : stocks) {
        count.alone += !answer.column || (*answer.column)[stock] == 1.0 ? 1U : 0U;
        count.noData += answer.column && isMissing((*answer.column)[stock]) ? 1U : 0U;
    }
    return count;
}

void countTogether(const Answers& answers, ScreenRun& run)
{
    for (const std::size_t stock : answers.stocks) {
        std::size_t failed = 0;
        std::size_t lastFailed = 0;
        for (std::size_t i = 0; i < run.criteria.size(); ++i) {
            if (!answers.criteria[i].passes(stock)) {
                ++failed;
                lastFailed = i;
            }
            run.criteria[i].leftAfter += failed == 0 ? 1U : 0U;
        }
        if (failed == 0)
            run.matches.push_back(stock);
        if (failed == 1)
            ++run.criteria[lastFailed].moreWithout;
    }
}

std::vector<std::size_t> matchesOf(const Answers& answers)
{
    std::vector<std::size_t> matches;
    for (const std::size_t stock : answers.stocks)
        if (std::ranges::all_of(answers.criteria, [stock](const CriterionAnswer& criterion) {
                return criterion.passes(stock);
            }))
            matches.push_back(stock);
    return matches;
}

} // namespace

ScreenRun run(const Screen& screen, const expressions::Names& names,
              expressions::Evaluator& evaluator, Day day, const Progress& progress)
{
    const Answers answers = answer(screen, names, evaluator, day, progress);
    ScreenRun run;
    run.day = day;
    run.universe = answers.stocks.size();
    run.universeError = answers.universeError;
    run.rankError = answers.rankError;
    for (const CriterionAnswer& criterion : answers.criteria)
        run.criteria.push_back(countAlone(criterion, answers.stocks));
    countTogether(answers, run);
    run.passing = run.matches.size();
    if (answers.rank)
        rank(run.matches, *answers.rank);
    if (screen.keep > 0 && run.matches.size() > static_cast<std::size_t>(screen.keep))
        run.matches.resize(static_cast<std::size_t>(screen.keep));
    run.guidance = guidanceOf(answers);
    return run;
}

Changes changesBetween(const Screen& screen, const expressions::Names& names,
                       expressions::Evaluator& evaluator, Day from, Day to)
{
    const auto before = matchesOf(answer(screen, names, evaluator, from));
    const auto after = matchesOf(answer(screen, names, evaluator, to));
    Changes changes;
    std::ranges::set_difference(after, before, std::back_inserter(changes.entered));
    std::ranges::set_difference(before, after, std::back_inserter(changes.left));
    std::ranges::set_intersection(before, after, std::back_inserter(changes.stayed));
    return changes;
}

std::vector<std::size_t> passingOver(const Screen& screen, const expressions::Names& names,
                                     expressions::Evaluator& evaluator, std::span<const Day> days,
                                     const Progress& progress)
{
    expressions::Plan plan;
    expressions::Names own = names;
    own.universe.reset();
    std::vector<expressions::NodeId> targets;
    const auto add = [&](const std::string& text) {
        const auto checked = checkCondition(text, own, plan);
        if (checked)
            targets.push_back(checked->node);
        return checked ? std::optional(checked->node) : std::nullopt;
    };
    if (!screen.universe.empty())
        own.universe = add(screen.universe);
    for (const Criterion& criterion : screen.criteria)
        if (criterion.isOn)
            add(criterion.text);
    if (targets.empty())
        targets.push_back(checkCondition("known(close)", own, plan)->node);
    std::vector<std::atomic<std::uint32_t>> counts(days.size());
    const market::Market& market = evaluator.market();
    evaluator.sweep(
        plan, targets, days,
        [&](const expressions::SweepValues& swept) {
            if (market.instrument(swept.instrument).kind == market::InstrumentKind::Index)
                return;
            for (std::size_t day = 0; day < swept.bars.size(); ++day) {
                bool passes = true;
                for (std::size_t target = 0; target < targets.size(); ++target)
                    passes = passes && swept.value(target, day) == 1.0;
                if (passes)
                    ++counts[swept.firstDay + day];
            }
        },
        progress);
    return {counts.begin(), counts.end()};
}

expressions::ScreenCondition conditionOf(const Screen& screen)
{
    expressions::ScreenCondition condition;
    condition.universe = screen.universe;
    for (const Criterion& criterion : screen.criteria)
        if (criterion.isOn)
            condition.criteria.push_back(criterion.text);
    return condition;
}

} // namespace sieve::screens
