#include "cli/commands.h"

#include "core/expressions/coverage.h"
#include "core/expressions/explanation.h"
#include "core/expressions/syntax.h"
#include "core/intake/take_in.h"
#include "core/screens/name_book.h"
#include "core/screens/run.h"
#include "core/screens/starter.h"
#include "core/storage/file_aside.h"

#include <algorithm>
#include <fmt/format.h>

namespace sieve::cli {

namespace {

using expressions::Checked;
using expressions::Vocabulary;

/// The command line knows the ready screens by name; lists and own fields are the window's.
screens::NameBook starterBook()
{
    screens::NameBook book;
    for (const screens::Screen& screen : screens::starterScreens())
        book.screens[screen.name] = screens::conditionOf(screen);
    return book;
}

/// A market with what it takes to ask it.
class Bench {
public:
    explicit Bench(const Request& request) : evaluator_(open(request.market)) {}

    expressions::Evaluator& evaluator() { return evaluator_; }
    const market::Market& market() const { return evaluator_.market(); }
    const expressions::Plan& plan() const { return plan_; }
    const expressions::Names& names() const { return names_; }

    Checked check(const std::string& text)
    {
        Result<Checked> checked = expressions::check(text, names_, plan_);
        if (!checked)
            throw InputFault(checked.error(), text);
        return *std::move(checked);
    }
    std::vector<Checked> check(const std::vector<std::string>& texts)
    {
        std::vector<Checked> all;
        for (const std::string& text : texts)
            all.push_back(check(text));
        return all;
    }
    std::size_t instrument(const std::string& symbol) const
    {
        const auto found = market().find(symbol);
        if (!found)
            throw InputFault(fmt::format("no instrument has the symbol '{}'", symbol));
        return *found;
    }
    Day day(const Request& request) const
    {
        return request.day ? market().sessionOnOrBefore(*request.day) : market().sessions().back();
    }
    Cell cell(double value, Kind kind) const { return cellOf(value, kind, market().texts()); }

private:
    static market::MarketPtr open(const std::filesystem::path& folder)
    {
        Result<intake::Intake> intake = intake::openFolder(folder);
        if (!intake)
            throw InputFault(intake.error());
        return intake->market;
    }

    expressions::Evaluator evaluator_;
    expressions::Plan plan_;
    screens::NameBook book_ = starterBook();
    expressions::Names names_ = book_.names();
};

screens::Screen screenOf(const Request& request)
{
    screens::Screen screen;
    if (request.file.empty()) {
        screen.name = "command line";
        if (const auto tree = expressions::parse(request.text); !tree)
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

void addExplained(const expressions::Explanation& part, std::size_t depth, const Bench& bench,
                  Answer& answer)
{
    answer.rows.push_back({static_cast<double>(depth), part.text, part.meaning,
                           std::string(kindName(part.kind)), std::string(unitName(part.unit)),
                           bench.cell(part.value, part.kind)});
    for (const expressions::Explanation& each : part.parts)
        addExplained(each, depth + 1, bench, answer);
}

} // namespace

Answer series(const Request& request)
{
    Bench bench(request);
    const std::size_t instrument = bench.instrument(request.symbol);
    const std::vector<Checked> all = bench.check(request.expressions);
    const Day last = request.to.value_or(bench.market().sessions().back());
    Answer answer{{"date"}, {}};
    std::vector<std::vector<double>> values;
    for (std::size_t i = 0; i < all.size(); ++i) {
        answer.columns.push_back(request.expressions[i]);
        values.push_back(bench.evaluator().history(bench.plan(), all[i].node, instrument, last));
    }
    const auto days = bench.market().bars(instrument).days;
    for (std::size_t bar = 0; bar < days.size() && days[bar] <= last; ++bar) {
        if (request.from && days[bar] < *request.from)
            continue;
        auto& row = answer.rows.emplace_back();
        row.emplace_back(days[bar].iso());
        for (std::size_t i = 0; i < all.size(); ++i)
            row.push_back(bench.cell(values[i][bar], all[i].kind));
    }
    return answer;
}

Answer column(const Request& request)
{
    Bench bench(request);
    const std::vector<Checked> all = bench.check(request.expressions);
    std::vector<expressions::NodeId> targets;
    Answer answer{{"symbol"}, {}};
    for (std::size_t i = 0; i < all.size(); ++i) {
        targets.push_back(all[i].node);
        answer.columns.push_back(request.expressions[i]);
    }
    const Day day = bench.day(request);
    const auto columns = bench.evaluator().columns(bench.plan(), targets, day);
    for (std::size_t i = 0; i < bench.market().size(); ++i) {
        if (!market::barOn(bench.market(), i, day))
            continue;
        auto& row = answer.rows.emplace_back();
        row.emplace_back(market::symbolOn(bench.market().instrument(i), day));
        for (std::size_t c = 0; c < all.size(); ++c)
            row.push_back(bench.cell((*columns[c])[i], all[c].kind));
    }
    return answer;
}

Answer screen(const Request& request)
{
    Bench bench(request);
    const screens::Screen screen = screenOf(request);
    const Day day = bench.day(request);
    const screens::ScreenRun run = screens::run(screen, bench.names(), bench.evaluator(), day);
    if (run.universeError)
        throw InputFault(*run.universeError, screen.universe);
    if (run.rankError)
        throw InputFault(*run.rankError, screen.rankBy);
    Answer answer{{"what", "text", "alone", "left_after", "more_without", "no_data", "criterion",
                   "value", "limit", "distance"},
                  {}};
    const auto count = [](std::size_t number) { return Cell(static_cast<double>(number)); };
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
        return market::symbolOn(bench.market().instrument(stock), day);
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
    Bench bench(request);
    const Checked condition = bench.check(request.text);
    if (condition.kind != Kind::YesNo)
        throw InputFault(LocatedError{{}, "this is no condition", "write one that is yes or no"},
                         request.text);
    const auto sessions = bench.market().sessions();
    const auto first = std::ranges::lower_bound(sessions, request.from.value_or(sessions.front()));
    const auto last = std::ranges::upper_bound(sessions, request.to.value_or(sessions.back()));
    Answer answer{{"date", "passing", "stocks"}, {}};
    if (first >= last)
        return answer;
    const std::span<const Day> days(first, last);
    const auto columns =
        bench.evaluator().columnsOver(bench.plan(), condition.node, days, progress);
    for (std::size_t i = 0; i < days.size(); ++i) {
        std::size_t passing = 0;
        std::size_t stocks = 0;
        for (std::size_t stock = 0; stock < bench.market().size(); ++stock) {
            if (bench.market().instrument(stock).kind == market::InstrumentKind::Index ||
                !market::barOn(bench.market(), stock, days[i]))
                continue;
            ++stocks;
            passing += (*columns[i])[stock] == 1.0 ? 1 : 0;
        }
        answer.rows.push_back(
            {days[i].iso(), static_cast<double>(passing), static_cast<double>(stocks)});
    }
    return answer;
}

Answer explain(const Request& request)
{
    Bench bench(request);
    const std::size_t instrument = bench.instrument(request.symbol);
    const std::string& text = request.expressions.front();
    const Result<expressions::Explanation> explanation = expressions::explain(
        text, bench.names(), bench.evaluator(), instrument, bench.day(request));
    if (!explanation)
        throw InputFault(explanation.error(), text);
    Answer answer{{"depth", "part", "meaning", "kind", "unit", "value"}, {}};
    addExplained(*explanation, 0, bench, answer);
    return answer;
}

Answer fields(const Request& request)
{
    Answer answer{{"name", "title", "meaning", "family", "kind", "unit", "formula"}, {}};
    const std::span<const expressions::Field> all = Vocabulary::builtIn().fields();
    for (const expressions::Field& field : all)
        answer.rows.push_back({field.name, field.title, field.meaning, field.family,
                               std::string(kindName(field.kind)), std::string(unitName(field.unit)),
                               field.formula});
    if (request.market.empty())
        return answer;
    Bench bench(request);
    answer.columns.emplace_back("coverage");
    const auto shares =
        expressions::coverage(bench.evaluator(), bench.names(), all, bench.day(request));
    for (std::size_t i = 0; i < shares.size(); ++i)
        answer.rows[i].emplace_back(shares[i]);
    return answer;
}

} // namespace sieve::cli
