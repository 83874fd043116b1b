#include "core/expressions/plan.h"

#include <algorithm>
#include <bit>
#include <cmath>

namespace sieve::expressions {

namespace {

/// Two independent lanes of the splitmix64 finalizer (Steele, Lea and Flood, 2014).
class KeyMaker {
public:
    void mix(std::uint64_t value)
    {
        key_.high = finalize(key_.high ^ (value + 0x9E3779B97F4A7C15ULL));
        key_.low = finalize(key_.low + (value ^ 0xD1B54A32D192ED03ULL) * 0xBF58476D1CE4E5B9ULL);
    }
    void mix(std::string_view text)
    {
        mix(text.size());
        for (const char c : text)
            mix(static_cast<std::uint64_t>(static_cast<unsigned char>(c)));
    }
    NodeKey key() const { return key_; }

private:
    static std::uint64_t finalize(std::uint64_t x)
    {
        x = (x ^ (x >> 30)) * 0xBF58476D1CE4E5B9ULL;
        x = (x ^ (x >> 27)) * 0x94D049BB133111EBULL;
        return x ^ (x >> 31);
    }
    NodeKey key_{1, 2};
};

bool isTrue(double value)
{
    return value != 0.0 && !isMissing(value);
}

double yes(bool value)
{
    return value ? 1.0 : 0.0;
}

double finiteOr(double value) // an overflow is no figure to trade on
{
    return std::isfinite(value) ? value : missing;
}

double logicalAnd(std::span<const double> inputs)
{
    double all = 1.0;
    for (const double input : inputs) {
        if (input == 0.0)
            return 0.0;
        if (isMissing(input))
            all = missing;
    }
    return all;
}

double logicalOr(std::span<const double> inputs)
{
    double any = 0.0;
    for (const double input : inputs) {
        if (isTrue(input))
            return 1.0;
        if (isMissing(input))
            any = missing;
    }
    return any;
}

double compare(Op op, double a, double b)
{
    if (isMissing(a) || isMissing(b))
        return missing;
    switch (op) {
    case Op::Less:
        return yes(a < b);
    case Op::LessEqual:
        return yes(a <= b);
    case Op::Greater:
        return yes(a > b);
    case Op::GreaterEqual:
        return yes(a >= b);
    case Op::Equal:
        return yes(a == b);
    default:
        return yes(a != b);
    }
}

double calculate(Op op, double a, double b)
{
    if (isMissing(a) || isMissing(b))
        return missing;
    switch (op) {
    case Op::Add:
        return a + b;
    case Op::Subtract:
        return a - b;
    case Op::Multiply:
        return finiteOr(a * b);
    case Op::Divide:
        return b == 0.0 ? missing : finiteOr(a / b);
    case Op::Power:
        return finiteOr(std::pow(a, b));
    case Op::Lesser:
        return std::min(a, b);
    default:
        return std::max(a, b);
    }
}

} // namespace

bool isValueByValue(Op op)
{
    return op >= Op::Negate && op <= Op::Logarithm;
}

bool isAcross(Op op)
{
    return op >= Op::Percentile;
}

double combine(Op op, std::span<const double> inputs)
{
    switch (op) {
    case Op::Negate:
        return -inputs[0];
    case Op::Add:
    case Op::Subtract:
    case Op::Multiply:
    case Op::Divide:
    case Op::Power:
    case Op::Lesser:
    case Op::Greatest:
        return calculate(op, inputs[0], inputs[1]);
    case Op::Less:
    case Op::LessEqual:
    case Op::Greater:
    case Op::GreaterEqual:
    case Op::Equal:
    case Op::NotEqual:
        return compare(op, inputs[0], inputs[1]);
    case Op::Not:
        return isMissing(inputs[0]) ? missing : yes(inputs[0] == 0.0);
    case Op::And:
        return logicalAnd(inputs);
    case Op::Or:
        return logicalOr(inputs);
    case Op::If:
        return isMissing(inputs[0]) ? missing : inputs[isTrue(inputs[0]) ? 1 : 2];
    case Op::Known:
        return yes(!isMissing(inputs[0]));
    case Op::OrElse:
        return isMissing(inputs[0]) ? inputs[1] : inputs[0];
    case Op::Absolute:
        return std::fabs(inputs[0]);
    case Op::SquareRoot:
        return inputs[0] < 0.0 ? missing : std::sqrt(inputs[0]);
    case Op::Logarithm:
        return inputs[0] > 0.0 ? std::log(inputs[0]) : missing;
    default:
        return missing;
    }
}

NodeId Plan::add(Node node)
{
    const bool isFixed =
        isValueByValue(node.op) &&
        std::ranges::all_of(node.inputs, [this](NodeId input) { return isConstant(input); });
    if (isFixed) {
        std::vector<double> values;
        for (const NodeId input : node.inputs)
            values.push_back(nodes_[input].number);
        Node constant;
        constant.kind = node.kind;
        constant.unit = node.unit;
        constant.number = combine(node.op, values);
        node = std::move(constant);
    }

    KeyMaker maker;
    for (const auto part :
         {static_cast<std::uint64_t>(node.op), static_cast<std::uint64_t>(node.kind),
          static_cast<std::uint64_t>(node.unit), std::bit_cast<std::uint64_t>(node.number),
          static_cast<std::uint64_t>(node.barField), static_cast<std::uint64_t>(node.textField),
          static_cast<std::uint64_t>(node.item), static_cast<std::uint64_t>(node.count)})
        maker.mix(part);
    maker.mix(node.text);
    maker.mix(node.indicator ? node.indicator->key : std::string_view());
    for (const NodeId input : node.inputs) {
        maker.mix(keys_[input].high);
        maker.mix(keys_[input].low);
    }
    const auto [place, isNew] = byKey_.try_emplace(maker.key(), static_cast<NodeId>(nodes_.size()));
    if (isNew) {
        nodes_.push_back(std::move(node));
        keys_.push_back(maker.key());
    }
    return place->second;
}

std::vector<NodeId> Plan::neededAlongBars(std::span<const NodeId> targets) const
{
    std::vector<bool> marked(nodes_.size());
    for (const NodeId target : targets)
        marked[target] = true;
    std::vector<NodeId> order;
    for (auto id = static_cast<NodeId>(nodes_.size()); id-- > 0;) {
        if (!marked[id])
            continue;
        order.push_back(id);
        if (isAcross(nodes_[id].op))
            continue;
        for (const NodeId input : nodes_[id].inputs)
            marked[input] = true;
    }
    std::ranges::reverse(order);
    return order;
}

} // namespace sieve::expressions
