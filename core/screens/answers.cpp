#include "core/screens/answers.h"
#include "core/base/parallel.h"

#include "core/engine/currencies.h"
#include "core/market/as_of.h"

#include <fmt/format.h>
#include <map>

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
        hasOtherCurrencies_ = evaluator.market().hasOtherCurrencies();
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
        warnOfUnknownRates(evaluator.market(), day);
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
        inParallel(answers_.criteria.size(), [&](std::size_t i) {
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
        if (hasOtherCurrencies_ && engine::dependsOnRates(plan_, checked->node))
            needRates_.push_back(place);
        for (Limit& limit : limitsOf(criterion.text, names_, plan_)) {
            if (!needRates_.empty() && needRates_.back() == place &&
                !compareInMarketCurrency(limit))
                continue;
            const std::size_t at = answer.limits.size();
            want(limit.fieldNode,
                 [place, at](Answers& all) { return &all.criteria[place].limits[at].field; });
            want(limit.boundNode,
                 [place, at](Answers& all) { return &all.criteria[place].limits[at].bound; });
            answer.limits.push_back({std::move(limit), nullptr, nullptr});
        }
    }

    /// Takes both sides as the criterion compares them; false where rates are in it in another way,
    /// such as in a logarithm of money: then there is no picture of the limit.
    bool compareInMarketCurrency(Limit& limit)
    {
        const auto isMoney = [&](NodeId id) { return plan_[id].unit == Unit::Money; };
        if (!isMoney(limit.fieldNode) && !isMoney(limit.boundNode))
            return false;
        limit.fieldNode = engine::inMarketCurrency(plan_, limit.fieldNode);
        if (!plan_.isConstant(limit.boundNode))
            limit.boundNode = engine::inMarketCurrency(plan_, limit.boundNode);
        return true;
    }

    /// Stocks that a criterion cannot compare, for want of an exchange rate on the day.
    void warnOfUnknownRates(const market::Market& market, Day day)
    {
        if (needRates_.empty())
            return;
        std::map<std::string, std::size_t> unknown;
        for (const std::size_t stock : answers_.stocks) {
            const auto bar = market::barOn(market, stock, day);
            if (bar && isMissing(market.rate(stock, market.bars(stock).days[*bar])))
                ++unknown[market.instrument(stock).currency];
        }
        for (const auto& [currency, count] : unknown)
            for (const std::size_t place : needRates_)
                answers_.criteria[place].warnings.push_back(
                    {{},
                     fmt::format("no exchange rate of {} to {} is known on this day: {} stocks "
                                 "cannot be compared",
                                 currency, market.currency(), count),
                     "add its rates to currency_rates.csv of the dataset"});
    }

    void readRank()
    {
        if (screen_.rankBy.empty())
            return;
        const auto checked = check(screen_.rankBy, names_, plan_);
        if (checked && checked->kind == Kind::Number)
            want(hasOtherCurrencies_ ? engine::inMarketCurrency(plan_, checked->node)
                                     : checked->node,
                 [](Answers& all) { return &all.rank; });
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
    bool hasOtherCurrencies_ = false;
    std::vector<std::size_t> needRates_; ///< criteria, by their places
    Answers answers_;
};

} // namespace

Answers answer(const Screen& screen, language::Names names, engine::Evaluator& evaluator, Day day,
               const Progress& progress)
{
    return AnswerPlan(screen, std::move(names)).answer(evaluator, day, progress);
}

} // namespace sieve::screens
