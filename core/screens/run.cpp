#include "core/screens/run.h"

#include "core/expressions/checker.h"

#include <algorithm>

namespace sieve::screens {

namespace {

using expressions::Checked;
using expressions::ColumnPtr;
using expressions::NodeId;

/// Every stock's place and its answers to the criteria that count.
struct Answers {
    std::vector<std::size_t> stocks;                 ///< in the universe
    std::vector<const expressions::Column*> columns; ///< a criterion; null: it lets all pass
};

bool passes(const Answers& answers, std::size_t criterion, std::size_t stock)
{
    const expressions::Column* column = answers.columns[criterion];
    return !column || (*column)[stock] == 1.0;
}

void count(const Answers& answers, std::vector<CriterionCount>& counts,
           std::vector<std::size_t>& matches)
{
    for (const std::size_t stock : answers.stocks) {
        std::size_t failed = 0;
        std::size_t lastFailed = 0;
        for (std::size_t i = 0; i < counts.size(); ++i) {
            if (!passes(answers, i, stock)) {
                ++failed;
                lastFailed = i;
            }
            counts[i].leftAfter += failed == 0 ? 1U : 0U;
        }
        if (failed == 0)
            matches.push_back(stock);
        if (failed == 1)
            ++counts[lastFailed].moreWithout;
    }
}

void rank(std::vector<std::size_t>& matches, const expressions::Column& ranks)
{
    std::ranges::stable_sort(matches, [&ranks](std::size_t a, std::size_t b) {
        if (isMissing(ranks[a]) || isMissing(ranks[b]))
            return !isMissing(ranks[a]) && isMissing(ranks[b]);
        return ranks[a] > ranks[b];
    });
}

} // namespace

ScreenRun run(const Screen& screen, const expressions::Vocabulary& vocabulary,
              expressions::Evaluator& evaluator, Day day)
{
    ScreenRun run;
    run.day = day;
    expressions::Plan plan;
    expressions::Names names{vocabulary, std::nullopt};
    std::vector<NodeId> targets;
    const auto target = [&targets](const Result<Checked>& checked) {
        targets.push_back(checked->node);
        return targets.size() - 1;
    };

    std::optional<std::size_t> universe;
    if (!screen.universe.empty()) {
        const auto checked = checkCondition(screen.universe, names, plan);
        if (checked) {
            universe = target(checked);
            names.universe = checked->node;
        } else {
            run.universeError = checked.error();
        }
    }
    std::vector<std::optional<std::size_t>> criteria;
    for (const Criterion& criterion : screen.criteria) {
        CriterionCount& counts = run.criteria.emplace_back();
        const auto checked = checkCondition(criterion.text, names, plan);
        criteria.push_back(checked ? std::optional(target(checked)) : std::nullopt);
        if (checked)
            counts.warnings = checked->warnings;
        else
            counts.error = checked.error();
    }
    std::optional<std::size_t> rankBy;
    if (!screen.rankBy.empty()) {
        const auto checked = check(screen.rankBy, names, plan);
        if (checked && checked->kind == Kind::Number)
            rankBy = target(checked);
        else
            run.rankError = checked ? LocatedError{{},
                                                   "the rank is no number",
                                                   "rank by a figure, for example strength_126"}
                                    : checked.error();
    }

    const std::vector<ColumnPtr> columns = evaluator.columns(plan, targets, day);
    Answers answers;
    const market::Market& market = evaluator.market();
    for (std::size_t stock = 0; stock < market.size(); ++stock)
        if (market.instrument(stock).kind != market::InstrumentKind::Index &&
            market::barOn(market, stock, day) && (!universe || (*columns[*universe])[stock] == 1.0))
            answers.stocks.push_back(stock);
    run.universe = answers.stocks.size();
    for (std::size_t i = 0; i < criteria.size(); ++i) {
        const expressions::Column* column = criteria[i] ? columns[*criteria[i]].get() : nullptr;
        for (const std::size_t stock : answers.stocks) {
            run.criteria[i].alone += !column || (*column)[stock] == 1.0 ? 1U : 0U;
            run.criteria[i].noData += column && isMissing((*column)[stock]) ? 1U : 0U;
        }
        answers.columns.push_back(screen.criteria[i].isOn ? column : nullptr);
    }
    count(answers, run.criteria, run.matches);
    run.passing = run.matches.size();
    if (rankBy)
        rank(run.matches, *columns[*rankBy]);
    if (screen.keep > 0 && run.matches.size() > static_cast<std::size_t>(screen.keep))
        run.matches.resize(static_cast<std::size_t>(screen.keep));
    return run;
}

} // namespace sieve::screens
