#include "cli/opened_market.h"

#include "core/language/coverage.h"
#include "core/language/explanation.h"
#include "core/language/syntax.h"
#include "core/screens/run.h"
#include "core/screens/table.h"
#include "core/storage/file_aside.h"

#include <algorithm>
#include <fmt/format.h>

namespace sieve::cli {

namespace {

using language::Checked;
using language::Vocabulary;

screens::Screen screenOf(const Request& request)
{
    screens::Screen screen;
    if (request.file.empty()) {
        screen.name = "command line";
        if (const auto tree = language::parse(request.text); !tree)
            throw InputFault(tree.error(), request.text);
        for (std::string& criterion : screens::criteriaOf(request.text))
            screen.criteria.push_back({std::move(criterion), true, {}});
        return screen;
    }
    const std::string text = storage::readWhole(request.file);
    Result<screens::Screen> read = screens::screenFromToml(text);
    if (!read)
        throw InputFault(read.error(), text);
    return *std::move(read);
}

void addExplained(const language::Explanation& part, std::size_t depth, const OpenedMarket& opened,
                  Answer& answer)
{
    answer.rows.push_back({static_cast<double>(depth), part.text, part.meaning,
                           std::string(kindName(part.kind)), std::string(unitName(part.unit)),
                           opened.cell(part.value, part.kind)});
    if (opened.market().hasOtherCurrencies()) {
        auto& row = answer.rows.back();
        row.push_back(part.other ? Cell(part.other->currency) : Cell());
        row.push_back(part.other ? Cell(part.other->inMarket) : Cell());
    }
    for (const language::Explanation& each : part.parts)
        addExplained(each, depth + 1, opened, answer);
}

} // namespace

Answer series(const Request& request)
{
    OpenedMarket opened(request);
    const std::size_t instrument = opened.instrument(request.symbol);
    const std::vector<Checked> all = opened.check(request.expressions);
    const Day last = opened.sessions(request).back();
    Answer answer{{"date"}, {}};
    std::vector<std::vector<double>> values;
    for (std::size_t i = 0; i < all.size(); ++i) {
        answer.columns.push_back(request.expressions[i]);
        values.push_back(opened.evaluator().history(opened.plan(), all[i].node, instrument, last));
    }
    const auto days = opened.market().bars(instrument).days;
    for (std::size_t bar = 0; bar < days.size() && days[bar] <= last; ++bar) {
        if (request.from && days[bar] < *request.from)
            continue;
        auto& row = answer.rows.emplace_back();
        row.emplace_back(days[bar].iso());
        for (std::size_t i = 0; i < all.size(); ++i)
            row.push_back(opened.cell(values[i][bar], all[i].kind));
    }
    return answer;
}

Answer column(const Request& request)
{
    OpenedMarket opened(request);
    const std::vector<Checked> all = opened.check(request.expressions);
    std::vector<engine::NodeId> targets;
    Answer answer{{"symbol"}, {}};
    for (std::size_t i = 0; i < all.size(); ++i) {
        targets.push_back(all[i].node);
        answer.columns.push_back(request.expressions[i]);
    }
    const Day day = opened.day(request);
    const auto columns = opened.evaluator().columns(opened.plan(), targets, day);
    for (std::size_t i = 0; i < opened.market().size(); ++i) {
        if (!market::barOn(opened.market(), i, day))
            continue;
        auto& row = answer.rows.emplace_back();
        row.emplace_back(market::symbolOn(opened.market().instrument(i), day));
        for (std::size_t c = 0; c < all.size(); ++c)
            row.push_back(opened.cell((*columns[c])[i], all[c].kind));
    }
    return answer;
}

Answer screen(const Request& request)
{
    OpenedMarket opened(request);
    const screens::Screen screen = screenOf(request);
    const Day day = opened.day(request);
    const screens::ScreenRun run = screens::run(screen, opened.names(), opened.evaluator(), day);
    if (run.universeError)
        throw InputFault(*run.universeError, screen.universe);
    if (run.rankError)
        throw InputFault(*run.rankError, screen.rankBy);
    if (request.isTable) {
        auto columns = screen.columns;
        if (columns.empty())
            columns = {"symbol", "name", "close"};
        const auto table =
            screens::makeTable(run.matches, columns, opened.names(), opened.evaluator(), day);
        for (std::size_t i = 0; i < columns.size(); ++i)
            if (table.columns[i].error)
                throw InputFault(*table.columns[i].error, columns[i]);
        return screens::sheetOf(table, opened.market().texts());
    }
    Answer answer{{"what", "text", "alone", "left_after", "more_without", "no_data", "criterion",
                   "value", "limit", "distance"},
                  {}};
    const auto add = [&answer](std::vector<Cell> row) {
        row.resize(answer.columns.size());
        answer.rows.push_back(std::move(row));
    };
    add({"universe", screen.universe, count(run.universe), count(run.universe)});
    for (std::size_t i = 0; i < run.criteria.size(); ++i) {
        const screens::CriterionCount& each = run.criteria[i];
        if (each.error)
            throw InputFault(*each.error, screen.criteria[i].text);
        add({"criterion", screen.criteria[i].text, count(each.alone), count(each.leftAfter),
             count(each.moreWithout), count(each.noData), count(i + 1)});
    }
    const auto symbolOf = [&](std::size_t stock) {
        return market::symbolOn(opened.market().instrument(stock), day);
    };
    for (const std::size_t match : run.matches)
        add({"match", symbolOf(match)});
    for (const screens::NearMiss& miss : run.guidance.nearMisses)
        add({"near miss", symbolOf(miss.instrument), Cell(), Cell(), Cell(), Cell(),
             count(miss.criterion + 1), miss.figure, miss.bound, miss.distance});
    return answer;
}

Answer daily(const Request& request, const Progress& progress)
{
    OpenedMarket opened(request);
    const Checked condition = opened.check(request.text);
    if (condition.kind != Kind::YesNo)
        throw InputFault(LocatedError{{}, "this is no condition", "write one that is yes or no"},
                         request.text);
    Answer answer{{"date", "passing", "stocks"}, {}};
    const auto days = opened.sessions(request);
    const auto counts =
        screens::countOver(opened.plan(), condition.node, opened.evaluator(), days, progress);
    for (std::size_t i = 0; i < days.size(); ++i)
        answer.rows.push_back({days[i].iso(), count(counts[i].passing), count(counts[i].stocks)});
    return answer;
}

Answer explain(const Request& request)
{
    OpenedMarket opened(request);
    const std::size_t instrument = opened.instrument(request.symbol);
    const std::string& text = request.expressions.front();
    const Result<language::Explanation> explanation = language::explain(
        text, opened.names(), opened.evaluator(), instrument, opened.day(request));
    if (!explanation)
        throw InputFault(explanation.error(), text);
    Answer answer{{"depth", "part", "meaning", "kind", "unit", "value"}, {}};
    if (opened.market().hasOtherCurrencies()) {
        answer.columns.emplace_back("currency");
        answer.columns.push_back(fmt::format("in_{}", opened.market().currency()));
    }
    addExplained(*explanation, 0, opened, answer);
    return answer;
}

Answer fields(const Request& request)
{
    Answer answer{{"name", "title", "meaning", "family", "kind", "unit", "formula"}, {}};
    const std::span<const language::Field> all = Vocabulary::builtIn().fields();
    for (const language::Field& field : all)
        answer.rows.push_back({field.name, field.title, field.meaning, field.family,
                               std::string(kindName(field.kind)), std::string(unitName(field.unit)),
                               field.formula});
    if (request.market.empty())
        return answer;
    OpenedMarket opened(request);
    answer.columns.emplace_back("coverage");
    const auto shares =
        language::coverage(opened.evaluator(), opened.names(), all, opened.day(request));
    for (std::size_t i = 0; i < shares.size(); ++i)
        answer.rows[i].emplace_back(shares[i]);
    return answer;
}

} // namespace sieve::cli
