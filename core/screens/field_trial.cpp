#include "core/screens/field_trial.h"

#include "core/engine/across.h"
#include "core/engine/currencies.h"
#include "core/market/as_of.h"

namespace sieve::screens {

namespace {

/// How it is spread over the stocks that are listed on the day.
void spread(FieldTrial& trial, const engine::Column& column, const market::Market& market, Day day)
{
    const std::vector<std::size_t> stocks = market::stocksListed(market, day);
    trial.stocks = stocks.size();
    std::vector<double> figures;
    for (const std::size_t stock : stocks)
        if (!isMissing(column[stock]))
            figures.push_back(column[stock]);
    trial.known = figures.size();
    if (trial.kind != Kind::Number || figures.empty())
        return;
    trial.spread = distributionOf(figures);
    trial.median = engine::valueOfTheDay(engine::Op::Median, figures);
}

} // namespace

FieldTrial tryField(const language::Field& field, const std::string& former, const NameBook& book,
                    engine::Evaluator& evaluator, std::optional<std::size_t> stock, Day day,
                    const Progress& progress)
{
    FieldTrial trial;
    auto fields = std::make_shared<language::OwnFields>(*book.fields);
    if (!former.empty() && former != field.name)
        trial.error = fields->rename(former, field.name);
    if (!trial.error)
        trial.error = fields->put(field);
    if (trial.error)
        return trial;
    NameBook tried = book;
    tried.fields = fields;
    const language::Names names = tried.names();
    engine::Plan plan;
    const auto checked = check(field.name, names, plan);
    if (!checked) {
        trial.error = checked.error();
        return trial;
    }
    trial.kind = checked->kind;
    trial.unit = checked->unit;
    const engine::NodeId targets[] = {engine::inMarketCurrency(plan, checked->node)};
    spread(trial, *evaluator.columns(plan, targets, day, progress)[0], evaluator.market(), day);
    if (stock) {
        auto parts = explain(field.formula, names, evaluator, *stock, day);
        if (parts)
            trial.parts = *std::move(parts);
    }
    return trial;
}

} // namespace sieve::screens
