#include "core/language/explanation.h"

#include "core/engine/currencies.h"
#include "core/language/functions.h"
#include "core/language/syntax.h"

#include <cmath>
#include <map>
#include <tuple>

namespace sieve::language {

using engine::ColumnPtr;
using engine::Evaluator;
using engine::Node;
using engine::NodeId;
using engine::Plan;

namespace {

/// The dates of a value, as its operator tells them.
void date(Explanation& part, const Node& node, const market::Market& market, std::size_t stock,
          Day day)
{
    const auto bar = market::barOn(market, stock, day);
    const engine::Operator& by = engine::operatorOf(node.op);
    if (!bar || !by.dates)
        return;
    const engine::ValueDates dates = by.dates(node, market, stock, market.bars(stock).days[*bar]);
    part.day = dates.day;
    part.periodEnd = dates.periodEnd;
    part.knownOn = dates.knownOn;
}

/// Builds the tree first, as parts of one plan, then asks for all values at once.
class Explaining {
public:
    Explaining(const Names& names, Evaluator& evaluator) : names_(names), evaluator_(evaluator) {}

    Result<Explanation> run(std::string_view text, std::size_t instrument, Day day)
    {
        const Result<Syntax> tree = parse(text);
        if (!tree)
            return tree.error();
        const Result<Checked> whole = check(text, names_, plan_);
        if (!whole)
            return whole.error();
        isInOtherCurrency_ = evaluator_.market().isInOtherCurrency(instrument);
        Explanation explanation;
        add(explanation, text, *tree, *whole);
        columns_ = evaluator_.columns(plan_, targets_, day);
        instrument_ = instrument;
        day_ = day;
        std::size_t next = 0;
        fill(explanation, next);
        return explanation;
    }

private:
    void add(Explanation& part, std::string_view text, const Syntax& tree, const Checked& checked)
    {
        part.text = std::string(text.substr(tree.where.offset, tree.where.bytes));
        part.kind = checked.kind;
        part.unit = checked.unit;
        const std::size_t own = targets_.size();
        targets_.push_back(checked.node);
        if (isInOtherCurrency_)
            if (const auto inMarket = engine::inMarketCurrency(plan_, checked.node);
                inMarket != checked.node) {
                inMarket_[own] = targets_.size();
                targets_.push_back(inMarket);
            }
        if (tree.form == Form::Comparison && tree.children.size() == 2)
            addSides(text, tree, own);
        if (const Field* field =
                tree.form == Form::Name ? names_.vocabulary.field(tree.text) : nullptr) {
            part.meaning = field->title;
            part.unit = field->unit;
            if (!field->formula.empty())
                addIfValue(part, field->formula, field->tree);
            return;
        }
        const Operator* function = tree.form == Form::Call ? functionNamed(tree.text) : nullptr;
        const bool changes = function && changesBars(function->op);
        for (const Syntax& child : tree.children) {
            if (child.form == Form::Number || child.form == Form::Text || child.form == Form::Day)
                continue;
            const auto outer = std::pair(before_, after_);
            if (changes) { // told on its own bars: the call stays around each part
                const std::size_t end = child.where.offset + child.where.bytes;
                before_ += text.substr(tree.where.offset, child.where.offset - tree.where.offset);
                after_ = std::string(text.substr(end, tree.where.offset + tree.where.bytes - end)) +
                         after_;
            }
            addIfValue(part, text, child);
            std::tie(before_, after_) = outer;
        }
    }

    Result<Checked> checkPart(std::string_view text, const Syntax& tree)
    {
        std::string whole = before_;
        whole += text.substr(tree.where.offset, tree.where.bytes);
        return check(whole + after_, names_, plan_);
    }

    /// The two sides of a comparison of figures, to be held against each other.
    void addSides(std::string_view text, const Syntax& tree, std::size_t comparison)
    {
        const Result<Checked> left = checkPart(text, tree.children[0]);
        const Result<Checked> right = checkPart(text, tree.children[1]);
        if (!left || !right || left->kind != Kind::Number || right->kind != Kind::Number)
            return;
        const bool isByRates =
            isInOtherCurrency_ && engine::dependsOnRates(plan_, targets_[comparison]);
        sides_[comparison] = targets_.size();
        for (const NodeId side : {left->node, right->node})
            targets_.push_back(isByRates && !plan_.isConstant(side)
                                   ? engine::inMarketCurrency(plan_, side)
                                   : side);
    }

    /// A name of a statement's item or of a group has no value by itself, and is passed over.
    void addIfValue(Explanation& parent, std::string_view text, const Syntax& tree)
    {
        if (targets_.size() >= mostExplained)
            return;
        const Result<Checked> checked = checkPart(text, tree);
        if (checked)
            add(parent.parts.emplace_back(), text, tree, *checked);
    }

    void fill(Explanation& part, std::size_t& next)
    {
        const std::size_t own = next++;
        part.value = (*columns_[own])[instrument_];
        date(part, plan_[targets_[own]], evaluator_.market(), instrument_, day_);
        if (const auto inMarket = inMarket_.find(own); inMarket != inMarket_.end()) {
            const market::Market& market = evaluator_.market();
            part.other = OtherMoney{market.instrument(instrument_).currency, market.currency(),
                                    (*columns_[inMarket->second])[instrument_]};
            ++next;
        }
        if (const auto sides = sides_.find(own); sides != sides_.end()) {
            const double left = (*columns_[sides->second])[instrument_];
            const double right = (*columns_[sides->second + 1])[instrument_];
            if (!isMissing(left) && !isMissing(right))
                part.distance = std::fabs(left - right);
            next += 2;
        }
        for (Explanation& each : part.parts)
            fill(each, next);
    }

    const Names& names_;
    Evaluator& evaluator_;
    Plan plan_;
    std::vector<NodeId> targets_;              ///< in the order of the tree
    std::map<std::size_t, std::size_t> sides_; ///< of a comparison's target: its left side's
    std::map<std::size_t, std::size_t>
        inMarket_; ///< of a target: the same in the market's currency
    bool isInOtherCurrency_ = false;
    std::string before_; ///< what stands around a part of other bars
    std::string after_;
    std::vector<ColumnPtr> columns_;
    std::size_t instrument_ = 0;
    Day day_ = Day::fromSerial(0);
};

} // namespace

Result<Explanation> explain(std::string_view text, const Names& names, Evaluator& evaluator,
                            std::size_t instrument, Day day)
{
    return Explaining(names, evaluator).run(text, instrument, day);
}

} // namespace sieve::language
