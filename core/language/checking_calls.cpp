#include "core/language/checking.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <fmt/format.h>
#include <set>

namespace sieve::language {

namespace {

SourceRange nameOf(const Syntax& tree)
{
    SourceRange where = tree.where;
    where.length = where.bytes = tree.text.size();
    return where;
}

template <class Enum, std::size_t count, class NameOf>
std::string listOf(const std::array<Enum, count>& values, NameOf name)
{
    std::vector<std::string_view> names;
    for (const Enum value : values)
        names.push_back(name(value));
    return fmt::format("one of {}", fmt::join(names, ", "));
}

market::BarField barFieldOf(indicators::Input input)
{
    using indicators::Input;
    return input == Input::High    ? market::BarField::High
           : input == Input::Low   ? market::BarField::Low
           : input == Input::Close ? market::BarField::Close
                                   : market::BarField::Volume;
}

constexpr std::array measures{market::EstimateMeasure::EarningsPerShare,
                              market::EstimateMeasure::Revenue,
                              market::EstimateMeasure::DividendsPerShare};
constexpr std::array ownerKinds{
    market::OwnerKind::Insiders, market::OwnerKind::DomesticInstitutions,
    market::OwnerKind::ForeignInstitutions, market::OwnerKind::Funds, market::OwnerKind::Public};

} // namespace

NodeId Checker::call(const Syntax& tree)
{
    if (const auto* indicator = indicators::indicatorNamed(tree.text))
        return indicatorCall(tree, *indicator);
    if (const Operator* function = functionNamed(tree.text))
        return functionCall(tree, *function);
    if (const ComposedFunction* function = names_.vocabulary.function(tree.text))
        return composedCall(tree, *function);
    if (names_.vocabulary.field(tree.text))
        fail(tree.where, fmt::format("'{}' is a field and takes no arguments", tree.text),
             fmt::format("write {}", tree.text));
    if (isPlannedPattern(tree.text))
        fail(nameOf(tree), fmt::format("'{}' is not available yet", tree.text),
             "functions of patterns come in a later version");
    const std::string nearest = nearestName(tree.text, names_.vocabulary);
    fail(nameOf(tree), fmt::format("no function '{}'", tree.text),
         nearest.empty() ? "look it up by its meaning in the dictionary"
                         : fmt::format("did you mean {}?", nearest));
}

/// The arguments in the parameters' order; null where one is left out.
Checker::Arranged Checker::arrange(const Syntax& tree,
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

Checker::Arranged Checker::arrangeFor(const Syntax& tree,
                                      std::span<const Parameter> parameters) const
{
    std::vector<std::string_view> names;
    for (const Parameter& parameter : parameters)
        names.push_back(parameter.name);
    Arranged arranged = arrange(tree, names);
    for (std::size_t i = 0; i < arranged.size(); ++i)
        if (!arranged[i] && !parameters[i].initial)
            fail(tree.where, fmt::format("{} needs '{}'", tree.text, names[i]),
                 fmt::format("write {}({})", tree.text, fmt::join(names, ", ")));
    return arranged;
}

/// A number that is known before anything runs, in the parameter's range.
double Checker::known(const Syntax* argument, const Parameter& parameter)
{
    if (!argument)
        return *parameter.initial;
    const bool isWhole = parameter.accepts == Accepts::Whole;
    const std::string range =
        fmt::format("write a number from {:g} to {:g}", parameter.least, parameter.most);
    const NodeId id = node(*argument);
    const double number = plan_[id].number;
    if (!plan_.isConstant(id) || kind(id) != Kind::Number || isMissing(number) ||
        (isWhole && number != std::floor(number)))
        fail(argument->where,
             fmt::format("'{}' must be a {} that is the same for every stock", parameter.name,
                         isWhole ? "whole number" : "number"),
             range);
    if (number < parameter.least || number > parameter.most)
        fail(argument->where, fmt::format("{:g} is out of range", number), range);
    return number;
}

NodeId Checker::indicatorCall(const Syntax& tree, const indicators::Indicator& indicator)
{
    using indicators::Input;
    const std::vector<Parameter> parameters = parametersOf(indicator);
    const Arranged arguments = arrangeFor(tree, parameters);
    Node made;
    made.op = Op::Indicator;
    made.indicator = &indicator;
    made.kind = indicator.kind;
    std::size_t next = 0;
    for (const Input input : indicator.inputs) {
        if (input == Input::Figure) {
            made.inputs.push_back(figure(*arguments[next++]));
            made.unit = plan_[made.inputs.back()].unit;
        } else if (input == Input::Other) {
            made.inputs.push_back(figure(*arguments[next++]));
        } else if (input == Input::Condition) {
            made.inputs.push_back(condition(*arguments[next++]));
        } else {
            made.inputs.push_back(barColumn(barFieldOf(input)));
        }
    }
    if (indicator.period) {
        made.settings.period = static_cast<int>(known(arguments[next], parameters[next]));
        ++next;
    }
    for (std::size_t i = 0; i < indicator.factors.size(); ++i, ++next)
        made.settings.factors.at(i) = known(arguments[next], parameters[next]);
    made.unit = indicator.unit.value_or(made.unit);
    return plan_.add(std::move(made));
}

NodeId Checker::barColumn(market::BarField field)
{
    Node made;
    made.op = Op::BarColumn;
    made.barField = field;
    made.unit = field == market::BarField::Volume ? Unit::Shares : Unit::Money;
    return plan_.add(std::move(made));
}

/// Adds a part whose kind, unit and settings are known, with what its row says of its inputs. One
/// that reads a column of a record hands its settings down to the record.
NodeId Checker::addOperator(Node made)
{
    const Operator& own = engine::operatorOf(made.op);
    const Operator& reading = own.record ? engine::operatorOf(*own.record) : own;
    std::vector<NodeId> inputs;
    for (const market::BarField field : reading.barInputs)
        inputs.push_back(barColumn(field));
    made.inputs.insert(made.inputs.begin(), inputs.begin(), inputs.end());
    if (!own.record)
        return plan_.add(std::move(made));
    Node column;
    column.op = own.op;
    column.kind = made.kind;
    column.unit = made.unit;
    made.op = *own.record;
    made.kind = Kind::Number;
    made.unit = Unit::Plain;
    column.inputs = {plan_.add(std::move(made))};
    return plan_.add(std::move(column));
}

NodeId Checker::functionCall(const Syntax& tree, const Operator& function)
{
    const Arranged arguments = arrangeFor(tree, function.parameters);
    Node made;
    made.op = function.op;
    for (std::size_t i = 0; i < arguments.size(); ++i)
        if (function.parameters[i].accepts != Accepts::OtherBars)
            addArgument(made, arguments[i], function.parameters[i]);
    if (function.name == "passes")
        return screenNode(tree, made.text);
    if (function.name == "checklist")
        return checklistNode(tree, made.text);
    if (made.op == Op::OnList)
        return listNode(tree, made.text);
    if (made.op == Op::Drawing)
        return drawingNode(tree, std::move(made));
    if (made.op == Op::ListLine)
        made.list = listNamed(tree, made.text);
    if (changesBars(made.op))
        return otherBars(tree, function, arguments, std::move(made));
    setType(made, function, tree);
    return addOperator(std::move(made));
}

/// Puts one argument where the node keeps it.
void Checker::addArgument(Node& made, const Syntax* argument, const Parameter& parameter)
{
    switch (parameter.accepts) {
    case Accepts::Figure:
        made.inputs.push_back(figure(*argument));
        break;
    case Accepts::Condition:
        made.inputs.push_back(condition(*argument));
        break;
    case Accepts::Anything:
        made.inputs.push_back(node(*argument));
        break;
    case Accepts::Text:
        made.inputs.push_back(node(*argument));
        if (kind(made.inputs.back()) != Kind::Text)
            fail(argument->where, "words are looked for in texts", "write contains(name, \"…\")");
        break;
    case Accepts::Whole:
        made.count = static_cast<int>(known(argument, parameter));
        break;
    case Accepts::Item:
        made.item = item(*argument);
        break;
    case Accepts::Measure: {
        const auto measure = market::estimateMeasureNamed(nameBehind(*argument).text);
        if (!measure)
            fail(argument->where, "this is nothing that analysts estimate",
                 listOf(measures, market::estimateMeasureName));
        made.item = static_cast<std::size_t>(*measure);
        break;
    }
    case Accepts::Owner: {
        const auto owner = market::ownerKindNamed(nameBehind(*argument).text);
        if (!owner)
            fail(argument->where, "this is no kind of owner",
                 listOf(ownerKinds, market::ownerKindName));
        made.item = static_cast<std::size_t>(*owner);
        break;
    }
    case Accepts::Within:
        if (const auto group = within(argument))
            made.inputs.push_back(*group);
        break;
    case Accepts::Group: {
        const std::string name = argument ? argument->text : "industry";
        if (name != "sector" && name != "industry" && name != "exchange")
            fail(argument->where, "this is no group of stocks",
                 "write of = sector, industry or exchange");
        made.inputs.push_back(leafNode(*leafFieldNamed(name)));
        break;
    }
    case Accepts::Weight:
        if (argument && argument->text != "equal" && argument->text != "cap")
            fail(argument->where, "this is no way to weigh", "write weight = equal or cap");
        made.item = argument && argument->text == "cap" ? 1 : 0;
        break;
    case Accepts::Stocks:
        if (argument && argument->text != "all" && argument->text != "traded")
            fail(argument->where, "this does not say which stocks", "write stocks = all or traded");
        made.item = argument && argument->text == "traded" ? 1 : 0;
        break;
    case Accepts::Quoted:
        made.text = argument ? quoted(*argument) : "";
        break;
    case Accepts::Day: {
        const NodeId day = node(*argument);
        if (!plan_.isConstant(day) || kind(day) != Kind::Day)
            fail(argument->where, "a day is needed", "write it as 2025-03-14");
        made.number = plan_[day].number;
        break;
    }
    case Accepts::Factor:
        made.number = known(argument, parameter);
        break;
    case Accepts::OtherBars:
        break;
    }
}

std::string Checker::quoted(const Syntax& tree) const
{
    if (tree.form != Form::Text)
        fail(tree.where, "a text in quotes is needed", "write it as \"…\"");
    return tree.text;
}

/// A part on other bars. Inside, a benchmark has the same scale; what needs the market's own days
/// has no place there.
NodeId Checker::otherBars(const Syntax& tree, const Operator& function, const Arranged& arguments,
                          Node made)
{
    const auto place =
        std::ranges::find(function.parameters, Accepts::OtherBars, &Parameter::accepts);
    const Syntax* argument =
        arguments[static_cast<std::size_t>(place - function.parameters.begin())];
    const bool isScale = function.family == Family::OtherScale;
    if (isScale && scale_)
        fail(tree.where, "bars of one scale cannot be made from those of another",
             "keep one of the two");
    const auto outer = scale_;
    if (isScale)
        scale_ = made;
    else
        scale_.reset();
    NodeId input = node(*argument);
    scale_ = outer;
    if (!isScale && scale_) { // told on the same scale as what surrounds it
        Node scaled = *scale_;
        scaled.kind = kind(input);
        scaled.unit = plan_[input].unit;
        scaled.inputs = {input};
        input = plan_.add(std::move(scaled));
    }
    std::set<NodeId> seen;
    std::vector<NodeId> below{input};
    while (!below.empty()) {
        const NodeId id = below.back();
        below.pop_back();
        if (!seen.insert(id).second)
            continue;
        const Operator& part = engine::operatorOf(plan_[id].op);
        if (part.family == Family::AcrossStocks)
            fail(tree.where, fmt::format("stocks are not compared inside {}", tree.text),
                 fmt::format("compare what it gives: percentile({}(…))", tree.text));
        if (isScale && part.knowsDays)
            fail(tree.where, fmt::format("{} knows no calendar days", tree.text),
                 "look up the day outside of it");
        const bool isOtherLine = part.family == Family::OtherLine;
        if (!isScale && isOtherLine)
            fail(tree.where, "this already is about another line", "keep one of the two");
        if (!isOtherLine)
            below.insert(below.end(), plan_[id].inputs.begin(), plan_[id].inputs.end());
    }
    made.inputs = {input};
    made.kind = kind(input);
    made.unit = plan_[input].unit;
    return plan_.add(std::move(made));
}

std::shared_ptr<const engine::ListMembers> Checker::listNamed(const Syntax& tree,
                                                              const std::string& name) const
{
    if (names_.listScreen && names_.listScreen(name))
        fail(tree.where, fmt::format("the list '{}' is kept by a screen and has no line", name),
             "copy it onto a list of your own");
    auto list = names_.list ? names_.list(name) : nullptr;
    if (!list)
        fail(tree.where, fmt::format("no list '{}'", name),
             "write the name of one of your lists, as it stands in Lists");
    return list;
}

NodeId Checker::listNode(const Syntax& tree, const std::string& name)
{
    if (const auto screen = names_.listScreen ? names_.listScreen(name) : std::nullopt)
        return screenNode(tree, *screen); // with who passes on each day
    const auto list = listNamed(tree, name);
    Node made;
    made.op = Op::OnList;
    made.kind = Kind::YesNo;
    made.text = name;
    made.list = list;
    return plan_.add(std::move(made));
}

NodeId Checker::drawingNode(const Syntax& tree, Node made)
{
    made.drawings = names_.drawing ? names_.drawing(made.text) : nullptr;
    if (!made.drawings)
        fail(tree.where, fmt::format("no drawing '{}'", made.text),
             "write the name of one of your drawings; it is given in the chart's list of drawings");
    made.kind = Kind::Number;
    made.unit = Unit::Money;
    return plan_.add(std::move(made));
}

/// Fills in the kind and unit of a function's value, as its row says.
void Checker::setType(Node& made, const Operator& function, const Syntax& tree)
{
    const auto& items = market::statementItems();
    const auto input = [&](std::size_t i) -> const Node& { return plan_[made.inputs.at(i)]; };
    made.kind = function.kind;
    made.unit = function.unit;
    switch (function.typed) {
    case Typed::AsStated:
        break;
    case Typed::AsInput:
        made.kind = input(0).kind;
        made.unit = input(0).unit;
        break;
    case Typed::AsEither: {
        const Node& a = input(made.inputs.size() - 2);
        const Node& b = input(made.inputs.size() - 1);
        if (a.kind != b.kind)
            fail(
                tree.where,
                fmt::format("one side is a {}, the other a {}", kindName(a.kind), kindName(b.kind)),
                "give two of a kind");
        made.kind = a.kind;
        made.unit = commonUnit(tree, a.unit, b.unit, "given beside");
        break;
    }
    case Typed::UnitOfBoth:
        made.unit = commonUnit(tree, input(0).unit, input(1).unit, "set against");
        break;
    case Typed::AsSummedItem:
        if (!items[made.item].isFlow)
            fail(tree.where,
                 fmt::format("'{}' stands on a balance sheet and is not summed over quarters",
                             items[made.item].key),
                 fmt::format("write quarter({})", items[made.item].key));
        [[fallthrough]];
    case Typed::AsItem:
        made.unit = items[made.item].unit;
        break;
    case Typed::AsMoney:
        made.unit = Unit::Money;
        if (input(0).unit != Unit::Money)
            fail(tree.where, "only money has a currency",
                 "write converted(close) or converted(market_cap)");
        break;
    case Typed::AsTraded:
        made.unit = input(0).unit;
        if (made.unit != Unit::Money && made.unit != Unit::Shares)
            fail(tree.where, "only prices and volumes were traded otherwise",
                 "write as_traded(close) or as_traded(volume)");
        break;
    }
}

std::size_t Checker::item(const Syntax& tree) const
{
    const Syntax& name = nameBehind(tree);
    const auto found =
        name.form == Form::Name ? market::statementItemNamed(name.text) : std::nullopt;
    if (found)
        return *found;
    std::vector<std::string_view> keys;
    for (const auto& each : market::statementItems())
        keys.push_back(each.key);
    fail(tree.where, "this is no item of the statements",
         fmt::format("one of {}", fmt::join(keys, ", ")));
}

/// The node that groups the stocks, or nothing for all of them.
std::optional<NodeId> Checker::within(const Syntax* tree)
{
    const std::string_view name = tree ? std::string_view(tree->text) : "all";
    if (!tree || (tree->form == Form::Name && name == "all"))
        return std::nullopt;
    if (tree->form == Form::Name && name == "universe")
        return universe_; // outside a screen the universe is all stocks
    for (const std::string_view each : {"sector", "industry", "exchange"})
        if (tree->form == Form::Name && name == each)
            return leafNode(*leafFieldNamed(each));
    if (tree->form == Form::Call && name == "on_list")
        return node(*tree);
    fail(tree->where, "this is no group of stocks",
         "write within = all, universe, sector, industry, exchange or on_list(\"…\")");
}

} // namespace sieve::language
