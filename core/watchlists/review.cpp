#include "core/watchlists/review.h"

#include "core/base/parallel.h"
#include "core/base/quantile.h"
#include "core/market/as_of.h"
#include "core/watchlists/position.h"
#include "core/watchlists/verdict_index.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <map>
#include <mutex>
#include <set>

namespace sieve::watchlists {

namespace {

/// A stock's closes, highs and lows from a day's bar on, on the footing of the last one.
struct Path {
    std::size_t from = 0; ///< the bar of the day
    std::vector<double> close;
    std::vector<double> high;
    std::vector<double> low;

    double gainAfter(std::size_t bars) const
    {
        return bars < close.size() ? close[bars] / close[0] - 1.0 : missing;
    }
};

std::optional<Path> pathOf(const market::Market& market, std::size_t stock, Day from, Day to)
{
    const auto first = market::lastBarBy(market, stock, from);
    const auto last = market::lastBarBy(market, stock, to);
    if (!first || !last)
        return std::nullopt;
    Path path{*first, {}, {}, {}};
    const std::size_t footing = market.footing(stock, *last);
    for (const auto& [field, column] : {std::pair{market::BarField::Close, &path.close},
                                        {market::BarField::High, &path.high},
                                        {market::BarField::Low, &path.low}}) {
        column->resize(*last + 1 - *first);
        market.adjusted(stock, field, footing, *first, *column);
    }
    return path;
}

double medianOf(std::vector<double> figures)
{
    std::erase_if(figures, [](double figure) { return isMissing(figure); });
    std::ranges::sort(figures);
    return quantileOf(figures, 0.5);
}

/// Medians of all stocks over spans that begin on the same day, each found once.
class Everybody {
public:
    Everybody(const market::Market& market, Day to) : market_(market), to_(to) {}

    struct Medians {
        double toDay = missing;
        std::array<double, reviewSpans.size()> after{};
    };
    const Medians& since(Day day)
    {
        const std::scoped_lock lock(mutex_);
        const auto known = medians_.find(day);
        return known != medians_.end() ? known->second : medians_[day] = made(day);
    }

private:
    Medians made(Day day) const
    {
        std::vector<double> gains;
        std::array<std::vector<double>, reviewSpans.size()> after;
        for (const std::size_t stock : market::stocksListed(market_, day)) {
            const market::BarsView& bars = market_.bars(stock);
            const auto first = market::lastBarBy(market_, stock, day);
            const auto last = market::lastBarBy(market_, stock, to_);
            if (!first || !last)
                continue;
            const auto gainTo = [&](std::size_t bar) {
                return bars.close[bar] /
                           (bars.close[*first] * market_.priceFactor(stock, bars.days[*first],
                                                                     market_.footing(stock, bar))) -
                       1.0;
            };
            gains.push_back(gainTo(*last));
            for (std::size_t span = 0; span < reviewSpans.size(); ++span)
                if (const std::size_t bar = *first + static_cast<std::size_t>(reviewSpans[span]);
                    bar <= *last)
                    after[span].push_back(gainTo(bar));
        }
        Medians medians;
        medians.toDay = medianOf(std::move(gains));
        for (std::size_t span = 0; span < reviewSpans.size(); ++span)
            medians.after[span] = medianOf(std::move(after[span]));
        return medians;
    }

    const market::Market& market_;
    Day to_;
    std::mutex mutex_; ///< guards the one below; references into it stay
    std::map<Day, Medians> medians_;
};

/// The open of a day's bar on the footing of another bar.
double openOf(const market::Market& market, std::size_t stock, Day day, std::size_t footingBar)
{
    const auto bar = market::lastBarBy(market, stock, day);
    return market.bars(stock).open[*bar] *
           market.priceFactor(stock, day, market.footing(stock, footingBar));
}

/// What following a plan gave: bought when it said so and sold as it said.
void followPlan(ReviewCase& of, const Entry& entry, const PlanCourse& waiting,
                engine::Evaluator& evaluator, const language::Names& names,
                const TradingTerms& terms, Day day, const Progress& progress)
{
    if (!entry.plan)
        return;
    if (!waiting.enteredOn) {
        of.end = PlanEnd::NotEntered;
        return;
    }
    // The plan in force when it said to buy, as if the person had done so.
    const market::Market& market = evaluator.market();
    const auto bar = market::lastBarBy(market, of.stock, day);
    const auto bought = market::lastBarBy(market, of.stock, *waiting.enteredOn);
    if (!bar || !bought)
        return;
    const double factor =
        market.priceFactor(of.stock, *waiting.enteredOn, market.footing(of.stock, *bar));
    Entry followed = entry;
    followed.page.trades = {{*waiting.enteredOn, waiting.enteredAt / factor, 100.0}};
    const PlanCourse course =
        coursesOf(std::span(&followed, 1), evaluator, names, terms, day, progress).front();
    double sold = market.bars(of.stock).close[*bar];
    of.end = PlanEnd::Open;
    for (const StateChange& change : course.changes) {
        if (change.on < *waiting.enteredOn)
            continue;
        const double open = openOf(market, of.stock, change.on, *bar);
        if (change.state == PlanState::StopReached) {
            of.end = PlanEnd::Stop;
            sold = std::min(change.level, open);
        } else if (change.state == PlanState::TargetReached) {
            of.end = PlanEnd::Target;
            sold = std::max(change.level, open);
        } else if (change.state == PlanState::ExitSaysLeave) {
            of.end = PlanEnd::Rule;
            sold = change.price;
        } else {
            continue;
        }
        break;
    }
    of.byPlan = sold / waiting.enteredAt - 1.0;
}

/// The state of the whole market over the medium horizon.
std::string marketOn(const conditions::Reading* reading, Day day)
{
    if (!reading)
        return {};
    const conditions::LineReading& line = reading->lines.front();
    const auto bar = line.line.barBy(day);
    const auto& history = line.trends[1].history;
    if (!bar || *bar >= history.size() || !history[*bar])
        return {};
    return std::string(conditions::trendName(*history[*bar]));
}

/// An idea as it stands in the library.
struct Idea {
    Entry entry;
    std::string list;
    Decision decision = Decision::Kept;
};

std::vector<Idea> ideasOf(const ReviewQuestion& question, Day day)
{
    std::vector<Idea> ideas;
    for (const auto& list : question.lists) {
        if (list->isKeptByRule())
            continue;
        for (const Entry& entry : list->entries)
            ideas.push_back({entry, list->name});
        for (const FormerEntry& former : list->former)
            ideas.push_back({former.entry, list->name,
                             former.leftOn <= day ? Decision::TakenOff : Decision::Kept});
    }
    if (question.tray)
        for (const Card& card : question.tray->cards())
            if (card.mark == Mark::Dropped)
                ideas.push_back(
                    {{card.symbol, card.takenOn, missing, card.reason, card.source, card.plan},
                     {},
                     Decision::Dropped});
    std::erase_if(ideas, [day](const Idea& idea) { return idea.entry.addedOn > day; });
    return ideas;
}

} // namespace

std::string_view decisionName(Decision decision)
{
    constexpr std::array<std::string_view, 3> names{"kept", "taken off", "dropped"};
    return names.at(static_cast<std::size_t>(decision));
}

std::string_view endName(PlanEnd end)
{
    constexpr std::array<std::string_view, 6> names{"no plan", "never entered", "open",
                                                    "stop",    "target",        "rule"};
    return names.at(static_cast<std::size_t>(end));
}

std::string_view reviewByName(ReviewBy by)
{
    constexpr std::array<std::string_view, reviewKinds.size()> names{
        "all",     "source", "reason",   "category", "verdict",
        "checked", "market", "decision", "list",     "end"};
    return names.at(static_cast<std::size_t>(by));
}

std::vector<ReviewCase> reviewOf(const ReviewQuestion& question, engine::Evaluator& evaluator,
                                 const language::Names& names, Day day, const Progress& progress)
{
    const market::Market& market = evaluator.market();
    const std::vector<Idea> ideas = ideasOf(question, day);
    std::vector<Entry> entries;
    for (const Idea& idea : ideas) {
        entries.push_back(idea.entry);
        entries.back().page.trades.clear(); // as if nothing had been bought
    }
    const auto courses = coursesOf(entries, evaluator, names, question.terms, day, progress);
    const auto benchmark = market.find(market.description().benchmark);
    const VerdictIndex verdicts(question.verdicts, market);
    Everybody everybody(market, day);
    std::vector<std::optional<ReviewCase>> all(ideas.size());
    inParallel(ideas.size(), [&](std::size_t i) {
        if (progress.stopRequested())
            throw Stopped{};
        const Entry& entry = ideas[i].entry;
        const auto stock = stockOf(entry, market);
        const auto path = stock ? pathOf(market, *stock, entry.addedOn, day) : std::nullopt;
        if (!path)
            return;
        ReviewCase of;
        of.stock = *stock;
        of.on = entry.addedOn;
        of.list = ideas[i].list;
        of.source = entry.source;
        of.reason = entry.reason;
        of.category = entry.page.category;
        of.decision = ideas[i].decision;
        of.market = marketOn(question.reading, entry.addedOn);
        if (const Verdict* verdict = verdicts.newest(*stock, entry.addedOn)) {
            of.verdict = verdict->words;
            of.checked = static_cast<int>(verdict->met());
        }
        of.gain = path->close.back() / path->close.front() - 1.0;
        const Everybody::Medians& medians = everybody.since(entry.addedOn);
        for (std::size_t span = 0; span < reviewSpans.size(); ++span) {
            of.after[span] = path->gainAfter(static_cast<std::size_t>(reviewSpans[span]));
            of.afterOverAll[span] = of.after[span] - medians.after[span];
        }
        of.overAll = of.gain - medians.toDay;
        const std::size_t end = std::min<std::size_t>(
            path->close.size(), static_cast<std::size_t>(reviewSpans.back()) + 1);
        for (std::size_t bar = 1; bar < end; ++bar) {
            of.best = std::fmax(of.best, path->high[bar] / path->close[0] - 1.0);
            of.worst = std::fmin(of.worst, path->low[bar] / path->close[0] - 1.0);
        }
        if (const auto beside =
                benchmark ? pathOf(market, *benchmark, entry.addedOn, day) : std::nullopt)
            of.overBenchmark = of.gain - (beside->close.back() / beside->close.front() - 1.0);
        followPlan(of, entries[i], courses[i], evaluator, names, question.terms, day, progress);
        const Position position = positionOf(entry.page.trades, market, *stock, day);
        if (position.since)
            of.byTrades =
                (position.realized + (position.isHeld() ? position.worth - position.cost : 0.0)) /
                position.bought;
        all[i] = std::move(of);
    });
    std::vector<ReviewCase> cases;
    for (auto& each : all)
        if (each)
            cases.push_back(*std::move(each));
    std::ranges::stable_sort(cases, {}, &ReviewCase::on);
    return cases;
}

namespace {

std::string groupOf(const ReviewCase& of, ReviewBy by)
{
    switch (by) {
    case ReviewBy::All:
        return {};
    case ReviewBy::Source:
        return of.source;
    case ReviewBy::Reason:
        return of.reason;
    case ReviewBy::Category:
        return of.category;
    case ReviewBy::Verdict:
        return of.verdict;
    case ReviewBy::Checked:
        return of.checked ? fmt::format("{:2}", *of.checked) : std::string();
    case ReviewBy::Market:
        return of.market;
    case ReviewBy::Decision:
        return std::string(decisionName(of.decision));
    case ReviewBy::List:
        return of.list;
    case ReviewBy::End:
        return std::string(endName(of.end));
    }
    return {};
}

void sumUp(ReviewRow& row, std::span<const ReviewCase> cases)
{
    const auto median = [&](auto figure) {
        std::vector<double> figures;
        for (const std::size_t at : row.cases)
            figures.push_back(figure(cases[at]));
        return medianOf(std::move(figures));
    };
    std::set<Day> days;
    std::size_t gained = 0;
    for (const std::size_t at : row.cases) {
        days.insert(cases[at].on);
        gained += cases[at].gain > 0.0 ? 1 : 0;
    }
    row.days = days.size();
    row.gained = static_cast<double>(gained) / static_cast<double>(row.cases.size());
    row.gain = median([](const ReviewCase& of) { return of.gain; });
    for (std::size_t span = 0; span < reviewSpans.size(); ++span) {
        row.after[span] = median([span](const ReviewCase& of) { return of.after[span]; });
        row.afterOverAll[span] =
            median([span](const ReviewCase& of) { return of.afterOverAll[span]; });
    }
    row.best = median([](const ReviewCase& of) { return of.best; });
    row.worst = median([](const ReviewCase& of) { return of.worst; });
    row.overAll = median([](const ReviewCase& of) { return of.overAll; });
    row.overBenchmark = median([](const ReviewCase& of) { return of.overBenchmark; });
    row.byPlan = median([](const ReviewCase& of) { return of.byPlan; });
    row.byTrades = median([](const ReviewCase& of) { return of.byTrades; });
    if (row.cases.size() < enoughCases)
        row.warning = fmt::format("{} cases say little", row.cases.size());
    else if (row.days < enoughDays)
        row.warning = fmt::format("all came on {} days: they are no {} independent cases", row.days,
                                  row.cases.size());
}

} // namespace

std::vector<ReviewRow> rowsBy(std::span<const ReviewCase> cases, ReviewBy by)
{
    std::map<std::string, ReviewRow> groups;
    for (std::size_t i = 0; i < cases.size(); ++i)
        groups[groupOf(cases[i], by)].cases.push_back(i);
    std::vector<ReviewRow> rows;
    for (auto& [name, row] : groups) {
        row.name = name;
        sumUp(row, cases);
        rows.push_back(std::move(row));
    }
    std::ranges::stable_sort(rows, std::greater{},
                             [](const ReviewRow& row) { return row.cases.size(); });
    return rows;
}

} // namespace sieve::watchlists
