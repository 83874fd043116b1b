#include "core/screens/limits.h"

#include "core/base/missing.h"
#include "core/base/ties.h"
#include "core/engine/operators/values.h"
#include "core/language/signs.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace sieve::screens {

namespace {

using engine::Op;
using language::Checked;
using language::Form;
using language::Syntax;

bool isOrder(Op op)
{
    return op != Op::Equal && op != Op::NotEqual;
}

/// One side of a comparison.
struct Side {
    std::string text;
    SourceRange where;
    Checked checked;
    std::optional<double> fixed;
};

} // namespace

double Limit::shortfall(double figure, double at) const
{
    if (isMissing(figure) || isMissing(at))
        return missing;
    return std::max(0.0, wantsMore() ? differenceOf(at, figure) : differenceOf(figure, at));
}

std::vector<Limit> limitsOf(std::string_view criterion, const language::Names& names,
                            engine::Plan& plan)
{
    const Result<Syntax> tree = language::parse(criterion);
    if (!tree || tree->form != Form::Comparison)
        return {};
    std::vector<Side> sides;
    for (const Syntax& child : tree->children) {
        const auto text = criterion.substr(child.where.offset, child.where.bytes);
        const auto checked = check(text, names, plan);
        if (!checked || checked->kind != Kind::Number)
            return {};
        const bool isFixed = plan.isConstant(checked->node);
        sides.push_back({std::string(text), child.where, *checked,
                         isFixed ? std::optional(plan[checked->node].number) : std::nullopt});
    }
    std::vector<Limit> limits;
    for (std::size_t i = 0; i + 1 < sides.size(); ++i) {
        const Op op = language::comparisonNamed(tree->names[i]);
        // The field of a chain stands in its middle; of a pair it is the side that is no number.
        const bool isRightField = sides.size() > 2 ? i == 0 : sides[0].fixed && !sides[1].fixed;
        const Side& field = sides[isRightField ? i + 1 : i];
        const Side& bound = sides[isRightField ? i : i + 1];
        if (isOrder(op) && !field.fixed)
            limits.push_back({field.text, bound.text, field.checked.node, bound.checked.node,
                              isRightField ? mirrored(op) : op, field.checked.unit, bound.where,
                              bound.fixed});
    }
    return limits;
}

std::string boundText(double bound, Unit unit)
{
    const auto written = [](double figure) { return fmt::format("{:.10g}", figure + 0.0); };
    if (unit == Unit::Percent)
        return written(100.0 * bound) + "%";
    for (const auto& [size, ending] : {std::pair(1e9, "B"), std::pair(1e6, "M")})
        if (std::fabs(bound) >= size)
            return written(bound / size) + ending;
    const bool isAmount = unit == Unit::Money || unit == Unit::Shares;
    return isAmount && std::fabs(bound) >= 1e4 ? written(bound / 1e3) + "k" : written(bound);
}

std::string withBound(std::string_view criterion, const Limit& limit, double bound)
{
    const SourceRange& where = limit.where;
    std::string text(criterion);
    const bool isThere = where.offset + where.bytes <= text.size() &&
                         text.compare(where.offset, where.bytes, limit.bound) == 0;
    if (isThere && limit.fixed && std::isfinite(bound))
        text.replace(where.offset, where.bytes, boundText(bound, limit.unit));
    return text;
}

std::vector<std::string> criteriaOf(std::string_view condition)
{
    const Result<Syntax> tree = language::parse(condition);
    if (!tree || tree->form != Form::And)
        return {std::string(condition)};
    std::vector<std::string> criteria;
    for (const Syntax& child : tree->children)
        criteria.emplace_back(condition.substr(child.where.offset, child.where.bytes));
    return criteria;
}

} // namespace sieve::screens
