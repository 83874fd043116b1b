#pragma once

// The inside of check(): one object that turns a tree into parts of the plan. checker.cpp holds the
// forms of the language, checking_names.cpp what names stand for, checking_calls.cpp the functions.

#include "core/language/checker.h"
#include "core/language/functions.h"
#include "core/language/leaf_fields.h"

#include <initializer_list>
#include <map>
#include <string>

namespace sieve::language {

using engine::Family;
using engine::Node;
using engine::NodeId;
using engine::Op;
using engine::Plan;
using engine::Typed;

/// What is wrong, on its way to check().
struct Failure {
    LocatedError error;
};

[[noreturn]] void fail(const SourceRange& where, std::string problem, std::string remedy);

class Checker {
public:
    Checker(const Names& names, Plan& plan) : names_(names), plan_(plan), universe_(names.universe)
    {
    }

    NodeId node(const Syntax& tree);
    NodeId condition(const Syntax& tree);
    std::vector<LocatedError> takeWarnings() { return std::move(warnings_); }

private:
    /// What a parameter of a composed function was given: a value, or a name.
    struct Argument {
        NodeId node = 0;
        const Syntax* name = nullptr;
    };
    using Arguments = std::map<std::string, Argument, std::less<>>;
    using Arranged = std::vector<const Syntax*>;

    // Forms
    Kind kind(NodeId id) const { return plan_[id].kind; }
    NodeId figure(const Syntax& tree);
    NodeId constant(double number, Kind kind, Unit unit);
    NodeId text(const std::string& text);
    NodeId valueByValue(Op op, std::vector<NodeId> inputs, Kind kind, Unit unit);
    NodeId logic(const Syntax& tree);
    NodeId arithmetic(const Syntax& tree);
    NodeId dayArithmetic(const Syntax& tree, Op op, NodeId left, NodeId right);
    NodeId comparison(const Syntax& tree);
    NodeId membership(const Syntax& tree);
    Unit commonUnit(const Syntax& tree, Unit a, Unit b, std::string_view done);
    void checkComparable(const Syntax& tree, Op op, NodeId left, NodeId right);
    void checkReach(const Syntax& tree, Op op, NodeId left, NodeId right);
    void warn(const Syntax& tree, std::string problem, std::string remedy);

    // Names
    NodeId name(const Syntax& tree);
    bool isFunction(std::string_view name) const;
    NodeId leafNode(const LeafField& leaf);
    NodeId fieldNode(const Field& field, const Syntax& use);
    NodeId composedCall(const Syntax& tree, const ComposedFunction& function);
    NodeId screenNode(const Syntax& tree, const std::string& name);
    NodeId checklistNode(const Syntax& tree, const std::string& name);
    NodeId conditionIn(const Syntax& use, const std::string& path, const std::string& text);
    void open(const Syntax& use, const std::string& name);
    NodeId withUnit(NodeId id, Unit unit);
    const Syntax& nameBehind(const Syntax& tree) const;

    // Calls
    NodeId call(const Syntax& tree);
    Arranged arrange(const Syntax& tree, std::span<const std::string_view> parameters) const;
    Arranged arrangeFor(const Syntax& tree, std::span<const Parameter> parameters) const;
    double known(const Syntax* argument, const Parameter& parameter);
    NodeId indicatorCall(const Syntax& tree, const indicators::Indicator& indicator);
    NodeId barColumn(market::BarField field);
    NodeId addOperator(Node made);
    NodeId functionCall(const Syntax& tree, const Operator& function);
    void addArgument(Node& made, const Syntax* argument, const Parameter& parameter);
    void setType(Node& made, const Operator& function, const Syntax& tree);
    NodeId otherBars(const Syntax& tree, const Operator& function, const Arranged& arguments,
                     Node made);
    std::shared_ptr<const engine::ListMembers> listNamed(const Syntax& tree,
                                                         const std::string& name) const;
    NodeId listNode(const Syntax& tree, const std::string& name);
    engine::NodeId drawingNode(const Syntax& tree, engine::Node made);
    std::size_t item(const Syntax& tree) const;
    std::optional<NodeId> within(const Syntax* tree);
    std::string quoted(const Syntax& tree) const;

    const Names& names_;
    Plan& plan_;
    std::optional<NodeId> universe_;
    const Arguments* arguments_ = nullptr; ///< of the composed function being read
    std::optional<Node> scale_;            ///< weekly, monthly or minutes around what is being read
    std::map<std::string, NodeId, std::less<>> fieldNodes_;
    std::vector<std::string> opened_; ///< fields, functions and screens being read, to find cycles
    std::vector<LocatedError> warnings_;
};

} // namespace sieve::language
