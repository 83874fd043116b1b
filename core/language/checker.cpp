#include "core/language/checker.h"

#include "core/language/checking.h"
#include "core/language/signs.h"
#include "core/language/unit_rules.h"

#include <fmt/format.h>

namespace sieve::language {

void fail(const SourceRange& where, std::string problem, std::string remedy)
{
    throw Failure{{where, std::move(problem), std::move(remedy)}};
}

NodeId Checker::node(const Syntax& tree)
{
    if (plan_.size() > mostParts)
        fail(tree.where, "more parts than can be evaluated",
             "take some out, or split the question");
    switch (tree.form) {
    case Form::Number:
        return constant(tree.number, Kind::Number, tree.unit);
    case Form::Text:
        return text(tree.text);
    case Form::Day:
        return constant(tree.number, Kind::Day, Unit::Days);
    case Form::Name:
        return name(tree);
    case Form::Call:
        return call(tree);
    case Form::Negate: {
        const NodeId child = figure(tree.children[0]);
        return valueByValue(Op::Negate, {child}, Kind::Number, plan_[child].unit);
    }
    case Form::Not:
        return valueByValue(Op::Not, {condition(tree.children[0])}, Kind::YesNo, Unit::Plain);
    case Form::And:
    case Form::Or:
        return logic(tree);
    case Form::Arithmetic:
        return arithmetic(tree);
    case Form::Comparison:
        return comparison(tree);
    case Form::In:
        return membership(tree);
    }
    fail(tree.where, "not understood", "write it anew");
}

void Checker::warn(const Syntax& tree, std::string problem, std::string remedy)
{
    warnings_.push_back({tree.where, std::move(problem), std::move(remedy)});
}

NodeId Checker::condition(const Syntax& tree)
{
    const NodeId id = node(tree);
    if (kind(id) != Kind::YesNo)
        fail(tree.where, fmt::format("a {} stands where a condition is needed", kindName(kind(id))),
             kind(id) == Kind::Text ? "compare it with == \"…\" or in (\"…\", \"…\")"
                                    : "compare it, for example with > 0");
    return id;
}

NodeId Checker::figure(const Syntax& tree)
{
    const NodeId id = node(tree);
    if (kind(id) != Kind::Number)
        fail(tree.where, fmt::format("a {} stands where a number is needed", kindName(kind(id))),
             kind(id) == Kind::YesNo ? "count it with count(condition, n), or choose with "
                                       "if(condition, 1, 0)"
                                     : "use a field that is a number");
    return id;
}

NodeId Checker::constant(double number, Kind kind, Unit unit)
{
    Node made;
    made.kind = kind;
    made.unit = unit;
    made.number = number;
    return plan_.add(std::move(made));
}

NodeId Checker::text(const std::string& text)
{
    Node made;
    made.op = Op::TextConstant;
    made.kind = Kind::Text;
    made.text = text;
    return plan_.add(std::move(made));
}

NodeId Checker::valueByValue(Op op, std::vector<NodeId> inputs, Kind kind, Unit unit)
{
    Node made;
    made.op = op;
    made.kind = kind;
    made.unit = unit;
    made.inputs = std::move(inputs);
    return plan_.add(std::move(made));
}

NodeId Checker::logic(const Syntax& tree)
{
    std::vector<NodeId> parts;
    for (const Syntax& child : tree.children)
        parts.push_back(condition(child));
    return valueByValue(tree.form == Form::And ? Op::And : Op::Or, std::move(parts), Kind::YesNo,
                        Unit::Plain);
}

NodeId Checker::arithmetic(const Syntax& tree)
{
    const Op op = arithmeticNamed(tree.text);
    const NodeId left = node(tree.children[0]);
    const NodeId right = node(tree.children[1]);
    if (kind(left) == Kind::Day || kind(right) == Kind::Day)
        return dayArithmetic(tree, op, left, right);
    for (const auto& [id, child] :
         {std::pair(left, &tree.children[0]), std::pair(right, &tree.children[1])})
        if (kind(id) != Kind::Number)
            fail(child->where, fmt::format("a {} cannot be computed with", kindName(kind(id))),
                 "use a field that is a number");
    const Unit a = plan_[left].unit;
    const Unit b = plan_[right].unit;
    Unit unit = Unit::Plain;
    if (op == Op::Multiply)
        unit = unitOfProduct(a, b);
    else if (op == Op::Divide)
        unit = unitOfQuotient(a, b);
    else if (op != Op::Power)
        unit = commonUnit(tree, a, b, op == Op::Add ? "added to" : "taken from");
    return valueByValue(op, {left, right}, Kind::Number, unit);
}

NodeId Checker::dayArithmetic(const Syntax& tree, Op op, NodeId left, NodeId right)
{
    const bool bothDays = kind(left) == Kind::Day && kind(right) == Kind::Day;
    if (bothDays && op == Op::Subtract)
        return valueByValue(op, {left, right}, Kind::Number, Unit::Days);
    const bool shifts = kind(left) == Kind::Day && kind(right) == Kind::Number;
    if (shifts && (op == Op::Add || op == Op::Subtract))
        return valueByValue(op, {left, right}, Kind::Day, Unit::Days);
    fail(tree.where, "days cannot be computed with like this",
         "subtract one day from another, or add a number of days to one");
}

Unit Checker::commonUnit(const Syntax& tree, Unit a, Unit b, std::string_view done)
{
    if (!areComparable(a, b))
        warn(tree, fmt::format("{} is {} {}", unitName(b), done, unitName(a)),
             "bring both to one unit, for example by dividing by close");
    return a == Unit::Plain ? b : a;
}

NodeId Checker::comparison(const Syntax& tree)
{
    std::vector<NodeId> operands;
    for (const Syntax& child : tree.children)
        operands.push_back(node(child));
    std::vector<NodeId> parts;
    for (std::size_t i = 0; i + 1 < operands.size(); ++i) {
        const Op op = comparisonNamed(tree.names[i]);
        checkComparable(tree, op, operands[i], operands[i + 1]);
        parts.push_back(valueByValue(op, {operands[i], operands[i + 1]}, Kind::YesNo, Unit::Plain));
    }
    if (parts.size() == 1)
        return parts[0];
    return valueByValue(Op::And, std::move(parts), Kind::YesNo, Unit::Plain);
}

void Checker::checkComparable(const Syntax& tree, Op op, NodeId left, NodeId right)
{
    if (kind(left) != kind(right))
        fail(tree.where,
             fmt::format("a {} is compared with a {}", kindName(kind(left)), kindName(kind(right))),
             kind(left) == Kind::Text || kind(right) == Kind::Text
                 ? "put texts in \"quotes\" and compare them with texts"
                 : "compare two of a kind");
    const bool isEquality = op == Op::Equal || op == Op::NotEqual;
    if (kind(left) == Kind::Text && !isEquality)
        fail(tree.where, "texts have no order", "compare them with == or !=");
    if (kind(left) != Kind::Number)
        return;
    if (!areComparable(plan_[left].unit, plan_[right].unit))
        warn(tree,
             fmt::format("{} is compared with {}", unitName(plan_[left].unit),
                         unitName(plan_[right].unit)),
             "bring both to one unit, for example by dividing by close");
    checkReach(tree, op, left, right);
}

/// Limits that a field's unit makes unlikely: 12 for a share of the whole, 120 for points.
void Checker::checkReach(const Syntax& tree, Op op, NodeId left, NodeId right)
{
    if (plan_.isConstant(left) == plan_.isConstant(right))
        return;
    const Node& limit = plan_[plan_.isConstant(left) ? left : right];
    const Unit unit = plan_[plan_.isConstant(left) ? right : left].unit;
    const double size = limit.number < 0 ? -limit.number : limit.number;
    if (unit == Unit::Percent && limit.unit == Unit::Plain && size >= 3.0)
        warn(tree, fmt::format("{:g} is {:g} %", limit.number, 100.0 * limit.number),
             fmt::format("write {:g}% if that is meant", limit.number));
    const bool isOutside = limit.number < 0.0 || limit.number > 100.0;
    if (unit == Unit::Points && isOutside && op != Op::NotEqual)
        warn(tree, fmt::format("{:g} lies outside 0 to 100, where points are", limit.number),
             "write a limit from 0 to 100");
}

NodeId Checker::membership(const Syntax& tree)
{
    const NodeId sought = node(tree.children[0]);
    std::vector<NodeId> parts;
    for (std::size_t i = 1; i < tree.children.size(); ++i) {
        const NodeId each = node(tree.children[i]);
        checkComparable(tree.children[i], Op::Equal, sought, each);
        parts.push_back(valueByValue(Op::Equal, {sought, each}, Kind::YesNo, Unit::Plain));
    }
    const NodeId any = parts.size() == 1
                           ? parts[0]
                           : valueByValue(Op::Or, std::move(parts), Kind::YesNo, Unit::Plain);
    return tree.text == "in" ? any : valueByValue(Op::Not, {any}, Kind::YesNo, Unit::Plain);
}

namespace {

Result<Checked> run(std::string_view text, const Names& names, Plan& plan, bool mustBeCondition)
{
    const Result<Syntax> tree = parse(text);
    if (!tree)
        return tree.error();
    Checker checker(names, plan);
    try {
        const NodeId node = mustBeCondition ? checker.condition(*tree) : checker.node(*tree);
        return Checked{node, plan[node].kind, plan[node].unit, checker.takeWarnings()};
    } catch (const Failure& failure) {
        return failure.error;
    }
}

} // namespace

Result<Checked> check(std::string_view text, const Names& names, Plan& plan)
{
    return run(text, names, plan, false);
}

Result<Checked> checkCondition(std::string_view text, const Names& names, Plan& plan)
{
    return run(text, names, plan, true);
}

} // namespace sieve::language
