#include "core/engine/currencies.h"

#include "core/engine/operators/operator.h"

#include <algorithm>
#include <utility>
#include <vector>

namespace sieve::engine {

namespace {

/// Whose money a figure is made of.
enum class Money {
    None,    ///< of none: it has no currency
    Written, ///< an amount that stands in the expression as a number
    Own,     ///< the instrument's
    Market,  ///< in the market's currency
};

/// What a rate does to a figure: it goes with the rate's `power` (1 a price, -1 one by a price, 2 a
/// square), or it is a logarithm of such a figure.
struct Figure {
    Money money = Money::None;
    double power = 0.0;
    bool isLogarithm = false;

    bool isMade() const { return power != 0.0 || isLogarithm; } ///< of money
    bool isAmount() const { return power == 1.0 && !isLogarithm; }
};

bool isNumber(const Node& node)
{
    return node.kind == Kind::Number;
}

/// Whether it sets its inputs beside each other, so that they must be of one currency.
bool isMeeting(Op op)
{
    return op == Op::Add || op == Op::Subtract || (op >= Op::Less && op <= Op::NotEqual) ||
           op == Op::If || op == Op::OrElse || op == Op::Lesser || op == Op::Greatest;
}

/// Whether the stocks of a day give a figure of the same kind as theirs.
bool keepsKind(Op across)
{
    return across == Op::Median || across == Op::Mean || across == Op::TotalOf ||
           across == Op::LeastPlaced;
}

Node conversionOf(NodeId id)
{
    Node made;
    made.op = Op::Converted;
    made.unit = Unit::Money;
    made.inputs = {id};
    return made;
}

/// Adds the parts of a question to a new plan, with money in them converted where it must be.
class Converting {
public:
    explicit Converting(Plan& made) : made_(made) {}

    /// Adds a part; its inputs stand in the new plan.
    NodeId take(Node node)
    {
        const Family family = operatorOf(node.op).family;
        if (family == Family::AcrossStocks || family == Family::OtherLine)
            node.inputs[0] = converted(node.inputs[0]);
        else if (node.op == Op::Converted && figures_[node.inputs[0]].money == Money::Market)
            return node.inputs[0];
        else if (mustConvert(node))
            for (NodeId& input : node.inputs)
                input = converted(input);
        return add(std::move(node));
    }

private:
    NodeId add(Node node)
    {
        const Figure figure = figureOf(node);
        const NodeId id = made_.add(std::move(node));
        figures_.resize(made_.size());
        figures_[id] = figure;
        return id;
    }

    /// Whether an instrument's own money meets the market's, or an amount that is written.
    bool mustConvert(const Node& node) const
    {
        if (operatorOf(node.op).family != Family::ValueByValue && node.op != Op::Indicator)
            return false;
        const auto has = [&](Money money) {
            return std::ranges::any_of(
                node.inputs, [&](NodeId input) { return figures_[input].money == money; });
        };
        return has(Money::Own) &&
               (has(Money::Market) || (has(Money::Written) && isMeeting(node.op)));
    }

    /// The same figure with the instrument's own money in it brought to the market's currency.
    NodeId converted(NodeId id)
    {
        if (figures_[id].money != Money::Own)
            return id;
        if (figures_[id].isAmount())
            return add(conversionOf(id));
        Node node = made_[id];
        for (NodeId& input : node.inputs)
            input = converted(input);
        return add(std::move(node));
    }

    Figure figureOf(const Node& node) const
    {
        if (!isNumber(node))
            return {};
        if (node.op == Op::Converted)
            return {Money::Market, 1.0};
        const bool isWritable = node.unit == Unit::Plain || node.unit == Unit::Money;
        if (node.op == Op::Constant)
            return {isWritable && !isMissing(node.number) && node.number != 0.0 ? Money::Written
                                                                                : Money::None};
        Figure figure = madeOf(node);
        if (figure.isMade()) {
            const Family family = operatorOf(node.op).family;
            const bool isMarkets = family == Family::AcrossStocks || family == Family::OtherLine ||
                                   std::ranges::any_of(node.inputs, [this](NodeId input) {
                                       return figures_[input].money == Money::Market;
                                   });
            figure.money = isMarkets ? Money::Market : Money::Own;
        } else if (isWritable && isWritten(node)) {
            figure.money = Money::Written;
        }
        return figure;
    }

    /// How money is in it; whose stays open.
    Figure madeOf(const Node& node) const
    {
        const Operator& by = operatorOf(node.op);
        const Figure stated{Money::None, node.unit == Unit::Money ? 1.0 : 0.0};
        switch (by.family) {
        case Family::Constant:
        case Family::Data:
            return stated;
        case Family::AcrossStocks:
            return keepsKind(node.op) ? figures_[node.inputs[0]] : Figure();
        case Family::OtherScale:
        case Family::OtherLine:
            return figures_[node.inputs[0]];
        case Family::AlongBars: {
            const bool isStated =
                node.indicator ? node.indicator->unit.has_value() : by.typed == Typed::AsStated;
            const auto figure = std::ranges::find_if(
                node.inputs, [this](NodeId input) { return isNumber(made_[input]); });
            return isStated || figure == node.inputs.end() ? stated : figures_[*figure];
        }
        case Family::ValueByValue:
            return computed(node);
        }
        return {};
    }

    Figure computed(const Node& node) const
    {
        const auto input = [&](std::size_t i) { return figures_[node.inputs[i]]; };
        switch (node.op) {
        case Op::Multiply:
        case Op::Divide: {
            const double sign = node.op == Op::Multiply ? 1.0 : -1.0;
            return {Money::None, input(0).power + sign * input(1).power,
                    input(0).isLogarithm || input(1).isLogarithm};
        }
        case Op::Power: {
            const Node& exponent = made_[node.inputs[1]];
            const double times = exponent.op == Op::Constant ? exponent.number : 1.0;
            return {Money::None, input(0).power * times, input(0).isLogarithm};
        }
        case Op::SquareRoot:
            return {Money::None, input(0).power / 2.0, input(0).isLogarithm};
        case Op::Logarithm:
            return {Money::None, 0.0, input(0).isMade()};
        case Op::Subtract:
            if (input(0).isLogarithm && input(1).isLogarithm)
                return {}; // of a quotient
            break;
        default:
            break;
        }
        for (std::size_t i = 0; i < node.inputs.size(); ++i)
            if (input(i).isMade())
                return input(i);
        return {};
    }

    /// Whether all its figures stand in the expression, such as if(optionable, 5, 10).
    bool isWritten(const Node& node) const
    {
        if (operatorOf(node.op).family != Family::ValueByValue)
            return false;
        bool hasWritten = false;
        for (const NodeId input : node.inputs) {
            const bool isWrittenInput = figures_[input].money == Money::Written;
            hasWritten = hasWritten || isWrittenInput;
            if (isNumber(made_[input]) && !isWrittenInput && !made_.isConstant(input))
                return false;
        }
        return hasWritten;
    }

    Plan& made_;
    std::vector<Figure> figures_; ///< of its parts
};

} // namespace

TargetPlan inOneCurrency(const Plan& plan, std::span<const NodeId> targets)
{
    TargetPlan made;
    Converting converting(made.plan);
    rewrite(plan, targets, made,
            [&converting](Node node) { return converting.take(std::move(node)); });
    return made;
}

bool dependsOnRates(const Plan& plan, NodeId id)
{
    const TargetPlan asked = inOneCurrency(plan, std::span(&id, 1));
    for (NodeId part = 0; part < asked.plan.size(); ++part)
        if (asked.plan[part].op == Op::Converted)
            return true;
    return false;
}

NodeId inMarketCurrency(Plan& plan, NodeId id)
{
    const Node& node = plan[id];
    const bool isMoney = isNumber(node) && node.unit == Unit::Money && node.op != Op::Converted;
    return isMoney ? plan.add(conversionOf(id)) : id;
}

} // namespace sieve::engine
