#include "cli/opened_market.h"
#include "core/studies/aftermath.h"

#include <fmt/format.h>

namespace sieve::cli {

namespace {

Answer casesTold(const std::vector<studies::Aftermath>& cases, const Request& request,
                 const market::Market& market)
{
    Answer answer{{"symbol", "date", "bought_at"}, {}};
    for (const int span : request.terms.spans) {
        answer.columns.push_back(fmt::format("after_{}", span));
        answer.columns.push_back(fmt::format("others_after_{}", span));
    }
    for (const char* head : {"end", "bars", "result", "worst", "independent"})
        answer.columns.emplace_back(head);
    const auto known = [](double value) { return isMissing(value) ? Cell() : Cell(value); };
    for (const studies::Aftermath& each : cases) {
        auto& row = answer.rows.emplace_back();
        row.emplace_back(market::symbolOn(market.instrument(each.of.stock), each.day));
        row.emplace_back(each.day);
        row.push_back(known(each.bought));
        for (std::size_t span = 0; span < studies::Terms::spanCount; ++span) {
            row.push_back(known(each.changes[span]));
            row.push_back(known(each.others[span]));
        }
        row.emplace_back(std::string(endName(each.end)));
        row.emplace_back(static_cast<double>(each.bars));
        row.push_back(known(each.result));
        row.push_back(known(each.worst));
        row.emplace_back(each.isIndependent);
    }
    return answer;
}

/// A row for each span, of the stock asked for (where one was) and of all.
Answer sumsTold(const std::vector<studies::Aftermath>& cases, const Request& request,
                std::optional<std::size_t> stock)
{
    Answer answer{{"of", "cases", "independent", "periods", "after", "known", "mean",
                   "lower_quarter", "median", "upper_quarter", "share_up", "others_mean", "reached",
                   "stopped", "neither", "open", "mean_result", "mean_bars", "median_worst",
                   "worst"},
                  {}};
    const auto add = [&](const std::string& of, std::optional<std::size_t> one) {
        const studies::Summary sum = studies::summaryOf(cases, request.terms, one);
        for (std::size_t span = 0; span < studies::Terms::spanCount; ++span) {
            const auto& told = sum.spans[span];
            auto& row = answer.rows.emplace_back();
            row.emplace_back(of);
            for (const std::size_t number : {sum.cases, sum.independent, sum.periods})
                row.push_back(count(number));
            row.emplace_back(static_cast<double>(request.terms.spans[span]));
            row.push_back(count(told.known));
            for (const double value : {told.mean, told.lowerQuarter, told.median,
                                       told.upperQuarter, told.shareUp, told.others})
                row.push_back(isMissing(value) ? Cell() : Cell(value));
            for (const std::size_t number : {sum.reached, sum.stopped, sum.neither, sum.open})
                row.push_back(count(number));
            for (const double value : {sum.meanResult, sum.meanBars, sum.medianWorst, sum.worst})
                row.push_back(isMissing(value) ? Cell() : Cell(value));
        }
    };
    if (stock)
        add(request.symbol, stock);
    add("all", std::nullopt);
    return answer;
}

} // namespace

Answer occurrences(const Request& request, const Progress& progress)
{
    OpenedMarket opened(request);
    const Day day = opened.day(request);
    std::optional<std::size_t> stock;
    if (!request.symbol.empty())
        stock = opened.instrument(request.symbol);
    const auto found =
        studies::occurrencesOf(request.text, opened.names(), opened.evaluator(), day, progress);
    if (!found)
        throw InputFault(found.error(), request.text);
    auto cases = studies::aftermathOf(*found, request.terms, opened.market(), day, progress);
    if (!request.isTable)
        return sumsTold(cases, request, stock);
    std::erase_if(cases, [&](const auto& each) { return stock && each.of.stock != *stock; });
    return casesTold(cases, request, opened.market());
}

} // namespace sieve::cli
