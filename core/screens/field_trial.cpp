#include "core/screens/field_trial.h"

#include <algorithm>

namespace sieve::screens {

namespace {

/// How it is spread over the stocks that are listed on the day.
void spread(FieldTrial& trial, const expressions::Column& column, const market::Market& market,
            Day day)
{
    std::vector<double> figures;
    for (std::size_t i = 0; i < market.size(); ++i) {
        if (!market.tenure(i).isListed(day) ||
            market.instrument(i).kind == market::InstrumentKind::Index)
            continue;
        ++trial.stocks;
        if (!isMissing(column[i]))
            figures.push_back(column[i]);
    }
    trial.known = figures.size();
    if (trial.kind != Kind::Number || figures.empty())
        return;
    trial.spread = distributionOf(figures);
    const auto middle = figures.begin() + static_cast<std::ptrdiff_t>((figures.size() - 1) / 2);
    std::ranges::nth_element(figures, middle);
    trial.median = *middle;
}

} // namespace

FieldTrial tryField(const expressions::Field& field, const std::string& former,
                    const NameBook& book, expressions::Evaluator& evaluator,
                    std::optional<std::size_t> stock, Day day, const Progress& progress)
{
    FieldTrial trial;
    auto fields = std::make_shared<expressions::OwnFields>(*book.fields);
    if (!former.empty() && former != field.name)
        trial.error = fields->rename(former, field.name);
    if (!trial.error)
        trial.error = fields->put(field);
    if (trial.error)
        return trial;
    NameBook tried = book;
    tried.fields = fields;
    const expressions::Names names = tried.names();
    expressions::Plan plan;
    const auto checked = check(field.name, names, plan);
    if (!checked) {
        trial.error = checked.error();
        return trial;
    }
    trial.kind = checked->kind;
    trial.unit = checked->unit;
    const expressions::NodeId targets[] = {checked->node};
    spread(trial, *evaluator.columns(plan, targets, day, progress)[0], evaluator.market(), day);
    if (stock) {
        auto parts = explain(field.formula, names, evaluator, *stock, day);
        if (parts)
            trial.parts = *std::move(parts);
    }
    return trial;
}

} // namespace sieve::screens
