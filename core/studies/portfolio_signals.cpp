#include "core/studies/portfolio_signals.h"

#include "core/conditions/line.h"

#include <algorithm>
#include <fmt/format.h>

namespace sieve::studies {

namespace {

/// Conditions on the market's line, a value a session; missing where it cannot be told. The line is
/// only made where one is asked for.
class MarketConditions {
public:
    MarketConditions(engine::Evaluator& evaluator, const language::Names& names,
                     const Progress& progress)
        : evaluator_(evaluator), names_(names), progress_(progress)
    {
    }

    /// Errors: located in the text, which it names.
    std::optional<LocatedError> add(const std::string& text)
    {
        if (text.empty()) {
            places_.emplace_back();
            return std::nullopt;
        }
        if (!question_) {
            line_ = std::move(conditions::marketLines(evaluator_.market(), progress_).front());
            question_.emplace(names_, *line_);
        }
        const auto added = question_->addCondition(text);
        if (!added) {
            LocatedError error = added.error();
            error.problem = fmt::format("in '{}': {}", text, error.problem);
            return error;
        }
        places_.emplace_back(*added);
        return std::nullopt;
    }
    void ask(std::span<const Day> sessions)
    {
        if (!question_)
            return;
        const auto all = question_->histories(evaluator_, sessions.back(), progress_);
        const auto days = line_->bars().days;
        for (const auto& history : all) {
            auto& values = values_.emplace_back();
            for (const Day session : sessions) {
                const auto at = std::ranges::upper_bound(days, session) - days.begin();
                values.push_back(at == 0 ? missing : history[static_cast<std::size_t>(at) - 1]);
            }
        }
    }
    /// Of the text that was added as the so-manieth; an empty one always holds.
    double value(std::size_t text, std::size_t session) const
    {
        return places_[text] ? values_[*places_[text]][session] : 1.0;
    }

private:
    engine::Evaluator& evaluator_;
    const language::Names& names_;
    const Progress& progress_;
    std::optional<conditions::Line> line_;
    std::optional<conditions::LineQuestion> question_;
    std::vector<std::optional<std::size_t>> places_;
    std::vector<std::vector<double>> values_;
};

/// Whether another week or month has begun since the session before.
bool isNewPeriod(Rebalancing::By by, Day before, Day day)
{
    if (by == Rebalancing::By::Months)
        return before.date().month() != day.date().month() ||
               before.date().year() != day.date().year();
    // Weeks begin on Mondays: 1970-01-01 was a Thursday. So many weeks are added that none is below
    // 0.
    const auto weekOf = [](Day each) { return (each.serial() + 3 + 7 * 100'000) / 7; };
    return weekOf(before) != weekOf(day);
}

void chooseDays(PortfolioSignals& signals, const PortfolioRule& rule, std::span<const Day> sessions,
                const MarketConditions& market, std::size_t condition)
{
    int periods = 0;
    for (std::size_t at = 0; at < sessions.size(); ++at) {
        bool isDue = at == 0 || signals.step[at] != signals.step[at - 1];
        switch (rule.rebalancing.by) {
        case Rebalancing::By::Sessions:
            isDue = isDue || at % static_cast<std::size_t>(rule.rebalancing.every) == 0;
            break;
        case Rebalancing::By::Condition:
            isDue = isDue || market.value(condition, at) == 1.0;
            break;
        default:
            if (at > 0 && isNewPeriod(rule.rebalancing.by, sessions[at - 1], sessions[at]))
                isDue = ++periods % rule.rebalancing.every == 0 || isDue;
        }
        signals.isChoosing[at] = isDue ? 1 : 0;
    }
}

/// The best of a step on the sessions on which it chooses.
Result<std::shared_ptr<const StartPicks>> picksOf(const PortfolioStep& step, std::vector<Day> days,
                                                  const language::Names& names,
                                                  engine::Evaluator& evaluator,
                                                  const Progress& progress)
{
    screens::Screen screen = step.screen;
    if (step.isSmallestFirst && !screen.rankBy.empty())
        screen.rankBy = fmt::format("-({})", screen.rankBy);
    StandingsQuestion question;
    question.starts = std::move(days);
    question.best = std::max(step.hold, step.keepWithin);
    question.weights = step.weightBy;
    const screens::Screen* const asked = &screen;
    return StartPicks::of(question, std::span(&asked, 1), names, evaluator, progress);
}

} // namespace

Result<PortfolioSignals> signalsOf(const PortfolioRule& rule, std::span<const Day> sessions,
                                   const language::Names& names, engine::Evaluator& evaluator,
                                   const Progress& progress)
{
    for (const PortfolioStep& step : rule.steps)
        if (!step.isCash)
            if (const auto fault = screens::faultOf(step.screen, names))
                return *fault;
    MarketConditions market(evaluator, names, progress);
    for (const PortfolioStep& step : rule.steps)
        if (const auto fault = market.add(step.when))
            return *fault;
    const std::size_t rebalancing = rule.steps.size();
    for (const std::string& text : {rule.rebalancing.condition, rule.exits.onMarket})
        if (const auto fault = market.add(text))
            return *fault;
    market.ask(sessions);

    PortfolioSignals signals;
    signals.step.assign(sessions.size(), -1);
    signals.isChoosing.assign(sessions.size(), 0);
    signals.isOff.assign(sessions.size(), 0);
    signals.choiceAt.assign(sessions.size(), 0);
    for (std::size_t at = 0; at < sessions.size(); ++at) {
        bool isUnknown = false;
        for (std::size_t i = 0; i < rule.steps.size() && signals.step[at] < 0; ++i) {
            const double holds = market.value(i, at);
            isUnknown = isUnknown || isMissing(holds);
            if (holds == 1.0)
                signals.step[at] = static_cast<int>(i);
        }
        signals.unknownMarket += isUnknown ? 1U : 0U;
        signals.isOff[at] =
            !rule.exits.onMarket.empty() && market.value(rebalancing + 1, at) == 1.0 ? 1 : 0;
    }
    chooseDays(signals, rule, sessions, market, rebalancing);
    signals.picks.resize(rule.steps.size());
    for (std::size_t i = 0; i < rule.steps.size(); ++i) {
        std::vector<Day> days;
        for (std::size_t at = 0; at < sessions.size(); ++at)
            if (signals.isChoosing[at] != 0 && signals.step[at] == static_cast<int>(i)) {
                signals.choiceAt[at] = days.size();
                days.push_back(sessions[at]);
            }
        if (days.empty() || rule.steps[i].isCash)
            continue;
        const auto picks = picksOf(rule.steps[i], std::move(days), names, evaluator, progress);
        if (!picks)
            return picks.error();
        signals.picks[i] = *picks;
    }
    if (!rule.exits.onStock.empty()) {
        screens::Screen screen;
        screen.criteria.push_back({rule.exits.onStock});
        if (const auto fault = screens::faultOf(screen, names))
            return *fault;
        engine::Plan plan;
        const auto nodes = screens::nodesOf(screen, names, evaluator.market(), plan);
        signals.exits = matchedStocks(plan, nodes, {}, false, evaluator, sessions.front(),
                                      sessions.back(), progress);
    }
    return signals;
}

} // namespace sieve::studies
