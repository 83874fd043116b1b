#include "core/language/checking.h"

#include <algorithm>
#include <fmt/format.h>

namespace sieve::language {

NodeId Checker::name(const Syntax& tree)
{
    if (arguments_)
        if (const auto found = arguments_->find(tree.text); found != arguments_->end())
            return found->second.name ? node(*found->second.name) : found->second.node;
    if (const LeafField* leaf = leafFieldNamed(tree.text))
        return leafNode(*leaf);
    if (tree.text == "yes" || tree.text == "no")
        return constant(tree.text == "yes" ? 1.0 : 0.0, Kind::YesNo, Unit::Plain);
    if (const Field* field = names_.vocabulary.field(tree.text))
        return fieldNode(*field, tree);
    if (isFunction(tree.text) || isPlannedPattern(tree.text))
        return call(tree); // "atr" alone is atr()
    if (market::statementItemNamed(tree.text))
        fail(tree.where, fmt::format("'{}' is an item of the statements", tree.text),
             fmt::format("say which: quarter({0}), year({0}) or ttm({0})", tree.text));
    const std::string nearest = nearestName(tree.text, names_.vocabulary);
    fail(tree.where, fmt::format("no field '{}'", tree.text),
         nearest.empty() ? "look it up by its meaning in the dictionary"
                         : fmt::format("did you mean {}?", nearest));
}

bool Checker::isFunction(std::string_view name) const
{
    return indicators::indicatorNamed(name) || functionNamed(name) ||
           names_.vocabulary.function(name);
}

NodeId Checker::leafNode(const LeafField& leaf)
{
    Node made;
    made.op = leaf.op;
    made.barField = leaf.barField;
    made.textField = leaf.textField;
    if (const Field* field = names_.vocabulary.field(leaf.name)) {
        made.kind = field->kind;
        made.unit = field->unit;
    }
    return addOperator(std::move(made));
}

/// Remembers what is being read; a thing that is read within itself would never end.
void Checker::open(const Syntax& use, const std::string& name)
{
    if (std::ranges::find(opened_, name) != opened_.end()) {
        const bool isDirect = opened_.back() == name;
        fail(use.where,
             isDirect ? fmt::format("'{}' is defined by itself", name)
                      : fmt::format("'{}' is defined by itself: {} → {}", name,
                                    fmt::join(opened_, " → "), name),
             "write its formula without it");
    }
    opened_.push_back(name);
}

/// The same value under the unit that its entry states, where the formula's own says less.
NodeId Checker::withUnit(NodeId id, Unit unit)
{
    const Node& node = plan_[id];
    const bool isComputed = isValueByValue(node.op) || node.op == Op::Constant;
    if (node.kind != Kind::Number || node.unit == unit || !isComputed)
        return id;
    Node stated = node;
    stated.unit = unit;
    return plan_.add(std::move(stated));
}

NodeId Checker::fieldNode(const Field& field, const Syntax& use)
{
    const auto known = fieldNodes_.find(field.name);
    if (known != fieldNodes_.end() && !scale_)
        return known->second;
    open(use, field.name);
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
    id = withUnit(id, field.unit);
    if (!scale_)
        fieldNodes_.emplace(field.name, id);
    return id;
}

NodeId Checker::composedCall(const Syntax& tree, const ComposedFunction& function)
{
    const std::vector<std::string_view> names(function.parameters.begin(),
                                              function.parameters.end());
    const Arranged arranged = arrange(tree, names);
    Arguments arguments;
    for (std::size_t i = 0; i < names.size(); ++i) {
        if (!arranged[i] && function.defaults[i].empty())
            fail(tree.where, fmt::format("{} needs '{}'", tree.text, names[i]),
                 fmt::format("write {}({})", tree.text, fmt::join(names, ", ")));
        const Syntax& given = arranged[i] ? *arranged[i] : function.defaultTrees[i];
        Argument& argument = arguments[function.parameters[i]];
        if (function.areNames[i])
            argument.name = &nameBehind(given);
        else
            argument.node = node(given);
    }
    open(tree, function.name);
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
    return function.unit ? withUnit(id, *function.unit) : id;
}

/// A name that a composed function was given for one of its own.
const Syntax& Checker::nameBehind(const Syntax& tree) const
{
    if (tree.form == Form::Name && arguments_)
        if (const auto found = arguments_->find(tree.text);
            found != arguments_->end() && found->second.name)
            return *found->second.name;
    return tree;
}

/// A whole screen as a condition; its own universe is what `within = universe` means inside.
NodeId Checker::screenNode(const Syntax& tree, const std::string& name)
{
    const auto screen = names_.screen ? names_.screen(name) : std::nullopt;
    if (!screen)
        fail(tree.where, fmt::format("no screen '{}'", name),
             "write the name of a saved or ready screen, as it stands in the list of screens");
    const std::string path = fmt::format("screen \"{}\"", name);
    open(tree, path);
    const auto outerUniverse = std::exchange(universe_, std::nullopt);
    const auto* outer = std::exchange(arguments_, nullptr);
    const auto outerFields = std::exchange(fieldNodes_, {}); // they may speak of the universe
    std::vector<NodeId> parts;
    if (!screen->universe.empty()) {
        parts.push_back(conditionIn(tree, path, screen->universe));
        universe_ = parts[0];
    }
    for (const std::string& criterion : screen->criteria)
        parts.push_back(conditionIn(tree, path, criterion));
    fieldNodes_ = outerFields;
    arguments_ = outer;
    universe_ = outerUniverse;
    opened_.pop_back();
    if (parts.empty())
        return constant(1.0, Kind::YesNo, Unit::Plain);
    return parts.size() == 1 ? parts[0]
                             : valueByValue(Op::And, std::move(parts), Kind::YesNo, Unit::Plain);
}

/// How many questions are answered by yes; what cannot be answered is not.
NodeId Checker::checklistNode(const Syntax& tree, const std::string& name)
{
    const auto checklist = names_.checklist ? names_.checklist(name) : std::nullopt;
    if (!checklist)
        fail(tree.where, fmt::format("no checklist '{}'", name),
             "write the name of one of your checklists, as it stands in Weigh");
    const std::string path = fmt::format("checklist \"{}\"", name);
    open(tree, path);
    const auto* outer = std::exchange(arguments_, nullptr);
    std::vector<NodeId> parts;
    for (const std::string& rule : checklist->rules)
        parts.push_back(conditionIn(tree, path, rule));
    arguments_ = outer;
    opened_.pop_back();
    for (const auto& answers : checklist->answers) {
        Node answered;
        answered.op = Op::Answered;
        answered.kind = Kind::YesNo;
        answered.answers = answers;
        parts.push_back(plan_.add(std::move(answered)));
    }
    const NodeId one = constant(1.0, Kind::Number, Unit::Plain);
    const NodeId none = constant(0.0, Kind::Number, Unit::Plain);
    NodeId sum = none;
    for (const NodeId part : parts) {
        const NodeId met = valueByValue(Op::If, {part, one, none}, Kind::Number, Unit::Plain);
        const NodeId known = valueByValue(Op::OrElse, {met, none}, Kind::Number, Unit::Plain);
        sum = valueByValue(Op::Add, {sum, known}, Kind::Number, Unit::Plain);
    }
    return sum;
}

/// A condition of a screen or checklist that is named in an expression.
NodeId Checker::conditionIn(const Syntax& use, const std::string& path, const std::string& text)
{
    const Result<Syntax> tree = parse(text);
    if (!tree)
        fail(use.where, fmt::format("in {}: {}", path, tree.error().problem), tree.error().remedy);
    try {
        return condition(*tree);
    } catch (Failure& failure) {
        fail(use.where, fmt::format("in {}: {}", path, failure.error.problem),
             failure.error.remedy);
    }
}

} // namespace sieve::language
