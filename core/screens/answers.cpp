#include "core/screens/answers.h"

#include "core/market/as_of.h"

#include <tbb/parallel_for.h>

namespace sieve::screens {

namespace {

using engine::NodeId;
using language::Checked;

/// Reads a screen's texts into one plan and remembers where each answer will stand.
class AnswerPlan {
public:
    AnswerPlan(const Screen& screen, language::Names names) : screen_(screen), names_(names) {}

    Answers answer(engine::Evaluator& evaluator, Day day, const Progress& progress)
    {
        readUniverse();
        for (const Criterion& criterion : screen_.criteria)
            readCriterion(criterion);
        readRank();
        const auto columns = evaluator.columns(plan_, targets_, day, progress);
        for (const auto& [place, to] : wanted_)
            *to(answers_) = columns[place];
        answers_.stocks = market::stocksListed(evaluator.market(), day);
        if (universe_)
            std::erase_if(answers_.stocks, [&universe = *columns[*universe_]](std::size_t stock) {
                return universe[stock] != 1.0;
            });
        sortOut();
        return std::move(answers_);
    }

private:
    using To = std::function<engine::ColumnPtr*(Answers&)>;

    void want(NodeId node, To to)
    {
        wanted_.emplace_back(targets_.size(), std::move(to));
        targets_.push_back(node);
    }

    void sortOut()
    {
        const std::vector<std::size_t>& stocks = answers_.stocks;
        tbb::parallel_for(std::size_t{0}, answers_.criteria.size(), [&](std::size_t i) {
            CriterionAnswer& criterion = answers_.criteria[i];
            criterion.passing = StockBits(
                stocks.size(), [&](std::size_t place) { return criterion.passes(stocks[place]); });
        });
        const StockBits everyone(stocks.size(), [](std::size_t) { return true; });
        StockBits missedSome = everyone - everyone;
        StockBits missedMore = missedSome;
        answers_.left.assign(1, everyone);
        for (const CriterionAnswer& criterion : answers_.criteria) {
            const StockBits missed = everyone - criterion.passing;
            missedMore = missedMore | (missedSome & missed);
            missedSome = missedSome | missed;
            answers_.left.push_back(answers_.left.back() & criterion.passing);
        }
        answers_.missedOne = missedSome - missedMore;
    }

    void readUniverse()
    {
        names_.universe.reset();
        if (screen_.universe.empty())
            return;
        const auto checked = checkCondition(screen_.universe, names_, plan_);
        if (!checked) {
            answers_.universeError = checked.error();
            return;
        }
        universe_ = targets_.size();
        targets_.push_back(checked->node);
        names_.universe = checked->node;
    }

    void readCriterion(const Criterion& criterion)
    {
        const std::size_t place = answers_.criteria.size();
        CriterionAnswer& answer = answers_.criteria.emplace_back();
        answer.isOn = criterion.isOn;
        const auto checked = checkCondition(criterion.text, names_, plan_);
        if (!checked) {
            answer.error = checked.error();
            return;
        }
        answer.warnings = checked->warnings;
        want(checked->node, [place](Answers& all) { return &all.criteria[place].column; });
        for (Limit& limit : limitsOf(criterion.text, names_, plan_)) {
            const std::size_t at = answer.limits.size();
            want(limit.fieldNode,
                 [place, at](Answers& all) { return &all.criteria[place].limits[at].field; });
            want(limit.boundNode,
                 [place, at](Answers& all) { return &all.criteria[place].limits[at].bound; });
            answer.limits.push_back({std::move(limit), nullptr, nullptr});
        }
    }

    void readRank()
    {
        if (screen_.rankBy.empty())
            return;
        const auto checked = check(screen_.rankBy, names_, plan_);
        if (checked && checked->kind == Kind::Number)
            want(checked->node, [](Answers& all) { return &all.rank; });
        else
            answers_.rankError = checked ? LocatedError{{},
                                                        "the rank is no number",
                                                        "rank by a figure, for example "
                                                        "strength_126"}
                                         : checked.error();
    }

    const Screen& screen_;
    language::Names names_;
    engine::Plan plan_;
    std::vector<NodeId> targets_;
    std::vector<std::pair<std::size_t, To>> wanted_;
    std::optional<std::size_t> universe_;
    Answers answers_;
};

} // namespace

Answers answer(const Screen& screen, language::Names names, engine::Evaluator& evaluator, Day day,
               const Progress& progress)
{
    return AnswerPlan(screen, std::move(names)).answer(evaluator, day, progress);
}

} // namespace sieve::screens
