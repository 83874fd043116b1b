#include "core/expressions/checker.h"

#include "core/expressions/functions.h"
#include "core/expressions/leaf_fields.h"
#include "core/expressions/operators.h"
#include "core/expressions/unit_rules.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <fmt/format.h>

namespace sieve::expressions {

namespace {

struct Failure {
    LocatedError error;
};

[[noreturn]] void fail(const SourceRange& where, std::string problem, std::string remedy)
{
    throw Failure{{where, std::move(problem), std::move(remedy)}};
}

/// Turns trees into parts of the plan. An error leaves through Failure, which only check() sees.
class Checker {
public:
    Checker(const Names& names, Plan& plan) : names_(names), plan_(plan) {}

    NodeId node(const Syntax& tree)
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

    NodeId condition(const Syntax& tree)
    {
        const NodeId id = node(tree);
        if (kind(id) != Kind::YesNo)
            fail(tree.where,
                 fmt::format("a {} stands where a condition is needed", kindName(kind(id))),
                 kind(id) == Kind::Text ? "compare it with == \"…\" or in (\"…\", \"…\")"
                                        : "compare it, for example with > 0");
        return id;
    }

    std::vector<LocatedError> takeWarnings() { return std::move(warnings_); }

private:
    Kind kind(NodeId id) const { return plan_[id].kind; }

    NodeId figure(const Syntax& tree)
    {
        const NodeId id = node(tree);
        if (kind(id) != Kind::Number)
            fail(tree.where,
                 fmt::format("a {} stands where a number is needed", kindName(kind(id))),
                 kind(id) == Kind::YesNo ? "count it with count(condition, n), or choose with "
                                           "if(condition, 1, 0)"
                                         : "use a field that is a number");
        return id;
    }

    NodeId constant(double number, Kind kind, Unit unit)
    {
        Node made;
        made.kind = kind;
        made.unit = unit;
        made.number = number;
        return plan_.add(std::move(made));
    }

    NodeId text(const std::string& text)
    {
        Node made;
        made.op = Op::TextConstant;
        made.kind = Kind::Text;
        made.text = text;
        return plan_.add(std::move(made));
    }

    NodeId valueByValue(Op op, std::vector<NodeId> inputs, Kind kind, Unit unit)
    {
        Node made;
        made.op = op;
        made.kind = kind;
        made.unit = unit;
        made.inputs = std::move(inputs);
        return plan_.add(std::move(made));
    }

    NodeId logic(const Syntax& tree)
    {
        std::vector<NodeId> parts;
        for (const Syntax& child : tree.children)
            parts.push_back(condition(child));
        return valueByValue(tree.form == Form::And ? Op::And : Op::Or, std::move(parts),
                            Kind::YesNo, Unit::Plain);
    }

    NodeId arithmetic(const Syntax& tree)
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

    NodeId dayArithmetic(const Syntax& tree, Op op, NodeId left, NodeId right)
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

    Unit commonUnit(const Syntax& tree, Unit a, Unit b, std::string_view done)
    {
        if (!areComparable(a, b))
            warnings_.push_back({tree.where,
                                 fmt::format("{} is {} {}", unitName(b), done, unitName(a)),
                                 "bring both to one unit, for example by dividing by close"});
        return a == Unit::Plain ? b : a;
    }

    NodeId comparison(const Syntax& tree)
    {
        std::vector<NodeId> operands;
        for (const Syntax& child : tree.children)
            operands.push_back(node(child));
        std::vector<NodeId> parts;
        for (std::size_t i = 0; i + 1 < operands.size(); ++i) {
            const Op op = comparisonNamed(tree.names[i]);
            checkComparable(tree, op, operands[i], operands[i + 1]);
            parts.push_back(
                valueByValue(op, {operands[i], operands[i + 1]}, Kind::YesNo, Unit::Plain));
        }
        if (parts.size() == 1)
            return parts[0];
        return valueByValue(Op::And, std::move(parts), Kind::YesNo, Unit::Plain);
    }

    void checkComparable(const Syntax& tree, Op op, NodeId left, NodeId right)
    {
        if (kind(left) != kind(right))
            fail(tree.where,
                 fmt::format("a {} is compared with a {}", kindName(kind(left)),
                             kindName(kind(right))),
                 kind(left) == Kind::Text || kind(right) == Kind::Text
                     ? "put texts in \"quotes\" and compare them with texts"
                     : "compare two of a kind");
        const bool isEquality = op == Op::Equal || op == Op::NotEqual;
        if (kind(left) == Kind::Text && !isEquality)
            fail(tree.where, "texts have no order", "compare them with == or !=");
        if (kind(left) == Kind::Number && !areComparable(plan_[left].unit, plan_[right].unit))
            warnings_.push_back({tree.where,
                                 fmt::format("{} is compared with {}", unitName(plan_[left].unit),
                                             unitName(plan_[right].unit)),
                                 "bring both to one unit, for example by dividing by close"});
    }

    NodeId membership(const Syntax& tree)
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

    // Names

    NodeId name(const Syntax& tree)
    {
        if (arguments_)
            if (const auto found = arguments_->find(tree.text); found != arguments_->end())
                return found->second;
        if (const LeafField* leaf = leafFieldNamed(tree.text))
            return leafNode(*leaf);
        if (tree.text == "yes" || tree.text == "no")
            return constant(tree.text == "yes" ? 1.0 : 0.0, Kind::YesNo, Unit::Plain);
        if (const Field* field = names_.vocabulary.field(tree.text))
            return fieldNode(*field, tree);
        if (isFunction(tree.text))
            return call(tree); // "atr" alone is atr()
        if (market::statementItemNamed(tree.text))
            fail(tree.where, fmt::format("'{}' is an item of the statements", tree.text),
                 fmt::format("say which: quarter({0}), year({0}) or ttm({0})", tree.text));
        const std::string nearest = nearestName(tree.text, names_.vocabulary);
        fail(tree.where, fmt::format("no field '{}'", tree.text),
             nearest.empty() ? "look it up by its meaning in the dictionary"
                             : fmt::format("did you mean {}?", nearest));
    }

    bool isFunction(std::string_view name) const
    {
        return indicators::indicatorNamed(name) || functionNamed(name) ||
               names_.vocabulary.function(name);
    }

    NodeId leafNode(const LeafField& leaf)
    {
        Node made;
        made.op = leaf.op;
        made.barField = leaf.barField;
        made.textField = leaf.textField;
        if (const Field* field = names_.vocabulary.field(leaf.name)) {
            made.kind = field->kind;
            made.unit = field->unit;
        }
        return plan_.add(std::move(made));
    }

    NodeId fieldNode(const Field& field, const Syntax& use)
    {
        if (const auto known = fieldNodes_.find(field.name); known != fieldNodes_.end())
            return known->second;
        if (std::ranges::find(opened_, field.name) != opened_.end())
            fail(use.where, fmt::format("'{}' is defined by itself", field.name),
                 "write its formula without it");
        opened_.push_back(field.name);
        const auto* outer = std::exchange(arguments_, nullptr);
        NodeId id = 0;
        try {
            id = node(field.tree);
        } catch (Failure& failure) { // the place that can be mended is where the field is used
            fail(use.where, fmt::format("in '{}': {}", field.name, failure.error.problem),
                 failure.error.remedy);
        }
        arguments_ = outer;
        opened_.pop_back();
        fieldNodes_.emplace(field.name, id);
        return id;
    }

    // Calls

    NodeId call(const Syntax& tree)
    {
        if (const auto* indicator = indicators::indicatorNamed(tree.text))
            return indicatorCall(tree, *indicator);
        if (const Function* function = functionNamed(tree.text))
            return functionCall(tree, *function);
        if (const ComposedFunction* function = names_.vocabulary.function(tree.text))
            return composedCall(tree, *function);
        if (names_.vocabulary.field(tree.text))
            fail(tree.where, fmt::format("'{}' is a field and takes no arguments", tree.text),
                 fmt::format("write {}", tree.text));
        const std::string nearest = nearestName(tree.text, names_.vocabulary);
        fail(nameOf(tree), fmt::format("no function '{}'", tree.text),
             nearest.empty() ? "look it up by its meaning in the dictionary"
                             : fmt::format("did you mean {}?", nearest));
    }

    static SourceRange nameOf(const Syntax& tree)
    {
        SourceRange where = tree.where;
        where.length = where.bytes = tree.text.size();
        return where;
    }

    /// The arguments in the parameters' order; null where one is left out.
    std::vector<const Syntax*> arrange(const Syntax& tree,
                                       std::span<const std::string_view> parameters) const
    {
        std::vector<const Syntax*> arranged(parameters.size(), nullptr);
        std::size_t next = 0;
        for (std::size_t i = 0; i < tree.children.size(); ++i) {
            std::size_t place = next;
            if (!tree.names[i].empty()) {
                const auto found = std::ranges::find(parameters, tree.names[i]);
                place = static_cast<std::size_t>(found - parameters.begin());
                if (found == parameters.end())
                    fail(tree.children[i].where,
                         fmt::format("{} has no argument '{}'", tree.text, tree.names[i]),
                         fmt::format("its arguments are {}", fmt::join(parameters, ", ")));
            }
            if (place >= parameters.size())
                fail(tree.children[i].where, fmt::format("{} takes no more arguments", tree.text),
                     parameters.empty()
                         ? fmt::format("write {}", tree.text)
                         : fmt::format("write {}({})", tree.text, fmt::join(parameters, ", ")));
            if (arranged[place])
                fail(tree.children[i].where,
                     fmt::format("the argument '{}' is given twice", parameters[place]),
                     "keep one of them");
            arranged[place] = &tree.children[i];
            next = place + 1;
        }
        return arranged;
    }

    template <class Parameters>
    std::vector<const Syntax*> arrangeFor(const Syntax& tree, const Parameters& parameters) const
    {
        std::vector<std::string_view> names;
        for (const Parameter& parameter : parameters)
            names.push_back(parameter.name);
        std::vector<const Syntax*> arranged = arrange(tree, names);
        for (std::size_t i = 0; i < arranged.size(); ++i)
            if (!arranged[i] && !parameters[i].initial)
                fail(tree.where, fmt::format("{} needs '{}'", tree.text, names[i]),
                     fmt::format("write {}({})", tree.text, fmt::join(names, ", ")));
        return arranged;
    }

    int whole(const Syntax* argument, const Parameter& parameter)
    {
        if (!argument)
            return static_cast<int>(*parameter.initial);
        const NodeId id = node(*argument);
        const double number = plan_[id].number;
        if (!plan_.isConstant(id) || kind(id) != Kind::Number || number != std::floor(number))
            fail(argument->where,
                 fmt::format("'{}' must be a whole number that is the same for every stock",
                             parameter.name),
                 fmt::format("write a number from {} to {}", parameter.least, parameter.most));
        if (number < parameter.least || number > parameter.most)
            fail(argument->where, fmt::format("{:g} is out of range", number),
                 fmt::format("write a number from {} to {}", parameter.least, parameter.most));
        return static_cast<int>(number);
    }

    NodeId indicatorCall(const Syntax& tree, const indicators::Indicator& indicator)
    {
        using indicators::Input;
        const std::vector<Parameter> parameters = parametersOf(indicator);
        const auto arguments = arrangeFor(tree, parameters);
        Node made;
        made.op = Op::Indicator;
        made.indicator = &indicator;
        made.kind = indicator.kind;
        for (const Input input : indicator.inputs)
            made.inputs.push_back(input == Input::Figure      ? figure(*arguments[0])
                                  : input == Input::Condition ? condition(*arguments[0])
                                                              : barColumn(input));
        if (indicator.period)
            made.count = whole(arguments.back(), parameters.back());
        made.unit = indicator.unit.value_or(plan_[made.inputs[0]].unit);
        return plan_.add(std::move(made));
    }

    NodeId barColumn(indicators::Input input)
    {
        using indicators::Input;
        const std::string_view name = input == Input::High    ? "high"
                                      : input == Input::Low   ? "low"
                                      : input == Input::Close ? "close"
                                                              : "volume";
        return leafNode(*leafFieldNamed(name));
    }

    NodeId functionCall(const Syntax& tree, const Function& function)
    {
        const auto arguments = arrangeFor(tree, function.parameters);
        Node made;
        made.op = function.op;
        for (std::size_t i = 0; i < arguments.size(); ++i) {
            const Parameter& parameter = function.parameters[i];
            switch (parameter.accepts) {
            case Accepts::Figure:
                made.inputs.push_back(figure(*arguments[i]));
                break;
            case Accepts::Condition:
                made.inputs.push_back(condition(*arguments[i]));
                break;
            case Accepts::Anything:
                made.inputs.push_back(node(*arguments[i]));
                break;
            case Accepts::Whole:
                made.count = whole(arguments[i], parameter);
                break;
            case Accepts::Item:
                made.item = item(*arguments[i]);
                break;
            case Accepts::Within:
                if (const auto group = within(arguments[i]))
                    made.inputs.push_back(*group);
                break;
            }
        }
        typeOf(made, tree);
        return plan_.add(std::move(made));
    }

    /// Fills in the kind and unit that a built-in function's value has.
    void typeOf(Node& made, const Syntax& tree)
    {
        const auto& items = market::statementItems();
        switch (made.op) {
        case Op::TrailingTwelveMonths:
            if (!items[made.item].isFlow)
                fail(tree.where,
                     fmt::format("'{}' stands on a balance sheet and is not summed over quarters",
                                 items[made.item].key),
                     fmt::format("write quarter({})", items[made.item].key));
            [[fallthrough]];
        case Op::Quarter:
        case Op::Year:
            made.unit = items[made.item].unit;
            break;
        case Op::Known:
            made.kind = Kind::YesNo;
            break;
        case Op::If:
        case Op::OrElse: {
            const std::size_t first = made.op == Op::If ? 1 : 0;
            const Node& a = plan_[made.inputs[first]];
            const Node& b = plan_[made.inputs[first + 1]];
            if (a.kind != b.kind)
                fail(tree.where,
                     fmt::format("one side is a {}, the other a {}", kindName(a.kind),
                                 kindName(b.kind)),
                     "give two of a kind");
            made.kind = a.kind;
            made.unit = commonUnit(tree, a.unit, b.unit, "given beside");
            break;
        }
        case Op::Lesser:
        case Op::Greatest:
            made.unit = commonUnit(tree, plan_[made.inputs[0]].unit, plan_[made.inputs[1]].unit,
                                   "set against");
            break;
        case Op::Percentile:
            made.unit = Unit::Points;
            break;
        case Op::ShareOf:
            made.unit = Unit::Percent;
            break;
        case Op::Prior:
        case Op::Median:
        case Op::Mean:
        case Op::Absolute:
            made.kind = plan_[made.inputs[0]].kind;
            made.unit = plan_[made.inputs[0]].unit;
            break;
        default: // ranks, counts, z-scores, roots and logarithms are plain numbers
            break;
        }
    }

    static std::size_t item(const Syntax& tree)
    {
        const auto found =
            tree.form == Form::Name ? market::statementItemNamed(tree.text) : std::nullopt;
        if (found)
            return *found;
        std::vector<std::string_view> keys;
        for (const auto& each : market::statementItems())
            keys.push_back(each.key);
        fail(tree.where, "this is no item of the statements",
             fmt::format("one of {}", fmt::join(keys, ", ")));
    }

    /// The node that groups the stocks, or nothing for all of them.
    std::optional<NodeId> within(const Syntax* tree)
    {
        const std::string_view name = tree ? std::string_view(tree->text) : "all";
        if (!tree || (tree->form == Form::Name && name == "all"))
            return std::nullopt;
        if (tree->form == Form::Name && name == "universe")
            return names_.universe; // outside a screen the universe is all stocks
        for (const std::string_view each : {"sector", "industry", "exchange"})
            if (tree->form == Form::Name && name == each)
                return leafNode(*leafFieldNamed(each));
        fail(tree->where, "this is no group of stocks",
             "write within = all, universe, sector, industry or exchange");
    }

    NodeId composedCall(const Syntax& tree, const ComposedFunction& function)
    {
        if (std::ranges::find(opened_, function.name) != opened_.end())
            fail(tree.where, fmt::format("'{}' is defined by itself", function.name),
                 "write its formula without it");
        std::vector<std::string_view> names(function.parameters.begin(), function.parameters.end());
        const auto arranged = arrange(tree, names);
        Arguments arguments;
        for (std::size_t i = 0; i < names.size(); ++i) {
            if (!arranged[i] && function.defaults[i].empty())
                fail(tree.where, fmt::format("{} needs '{}'", tree.text, names[i]),
                     fmt::format("write {}({})", tree.text, fmt::join(names, ", ")));
            const NodeId id =
                arranged[i] ? node(*arranged[i])
                            : constant(std::stod(function.defaults[i]), Kind::Number, Unit::Plain);
            arguments.emplace(function.parameters[i], id);
        }
        opened_.push_back(function.name);
        const auto* outer = std::exchange(arguments_, &arguments);
        NodeId id = 0;
        try {
            id = node(function.tree);
        } catch (Failure& failure) { // the formula is right; what was put into it is not
            fail(tree.where, fmt::format("in {}: {}", tree.text, failure.error.problem),
                 failure.error.remedy);
        }
        arguments_ = outer;
        opened_.pop_back();
        return id;
    }

    using Arguments = std::map<std::string, NodeId, std::less<>>;

    const Names& names_;
    Plan& plan_;
    const Arguments* arguments_ = nullptr; ///< of the composed function being read
    std::map<std::string, NodeId, std::less<>> fieldNodes_;
    std::vector<std::string> opened_; ///< fields and functions being read, to find cycles
    std::vector<LocatedError> warnings_;
};

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

} // namespace sieve::expressions
