#include "core/expressions/explanation.h"

#include "core/expressions/syntax.h"

namespace sieve::expressions {

namespace {

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
        Explanation explanation;
        add(explanation, text, *tree, *whole);
        const std::vector<ColumnPtr> columns = evaluator_.columns(plan_, targets_, day);
        std::size_t next = 0;
        fill(explanation, columns, instrument, next);
        return explanation;
    }

private:
    void add(Explanation& part, std::string_view text, const Syntax& tree, const Checked& checked)
    {
        part.text = std::string(text.substr(tree.where.offset, tree.where.bytes));
        part.kind = checked.kind;
        part.unit = checked.unit;
        targets_.push_back(checked.node);
        if (const Field* field =
                tree.form == Form::Name ? names_.vocabulary.field(tree.text) : nullptr) {
            part.meaning = field->title;
            part.unit = field->unit;
            if (!field->formula.empty())
                addIfValue(part, field->formula, field->tree);
            return;
        }
        for (const Syntax& child : tree.children)
            if (child.form != Form::Number && child.form != Form::Text && child.form != Form::Day)
                addIfValue(part, text, child);
    }

    /// A name of a statement's item or of a group has no value by itself, and is passed over.
    void addIfValue(Explanation& parent, std::string_view text, const Syntax& tree)
    {
        if (targets_.size() >= mostExplained)
            return;
        const Result<Checked> checked =
            check(text.substr(tree.where.offset, tree.where.bytes), names_, plan_);
        if (checked)
            add(parent.parts.emplace_back(), text, tree, *checked);
    }

    static void fill(Explanation& part, const std::vector<ColumnPtr>& columns,
                     std::size_t instrument, std::size_t& next)
    {
        part.value = (*columns[next++])[instrument];
        for (Explanation& each : part.parts)
            fill(each, columns, instrument, next);
    }

    const Names& names_;
    Evaluator& evaluator_;
    Plan plan_;
    std::vector<NodeId> targets_; ///< in the order of the tree
};

} // namespace

Result<Explanation> explain(std::string_view text, const Names& names, Evaluator& evaluator,
                            std::size_t instrument, Day day)
{
    return Explaining(names, evaluator).run(text, instrument, day);
}

} // namespace sieve::expressions
