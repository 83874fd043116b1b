#include "core/watchlists/list_told.h"

#include "core/watchlists/verdict_index.h"

namespace sieve::watchlists {

namespace {

/// The day of the next announced report of every instrument.
engine::ColumnPtr nextReports(engine::Evaluator& evaluator, const language::Names& names, Day day)
{
    engine::Plan plan;
    const auto checked = language::check("next_report", names, plan);
    return checked ? evaluator.column(plan, checked->node, day) : nullptr;
}

Holdings sumOf(const ListTold& told, const market::Market& market)
{
    std::vector<HeldStock> held;
    for (const EntryTold& entry : told.entries)
        if (entry.position.isHeld() && entry.result.stock)
            held.push_back(
                {*entry.result.stock, entry.position, entry.lossAtStop, !isMissing(entry.stop())});
    return holdingsOf(held, market, told.day);
}

} // namespace

ListTold tell(const Watchlist& list, engine::Evaluator& evaluator, const language::Names& names,
              const ListQuestion& question, Day day, const Progress& progress)
{
    const market::Market& market = evaluator.market();
    ListTold told{day, list, {}, {}, {}, {}};
    if (list.isKeptByRule()) {
        const auto days = sessionsBefore(market, day);
        auto stays = days.empty() ? Result<Stays>(Stays{})
                                  : staysOf(list.head.screen, names, evaluator, days, progress);
        if (stays && !days.empty()) {
            told.list = filled(list, *stays, market);
            told.stays = *std::move(stays);
        } else {
            told.list.entries.clear();
            if (!stays)
                told.error = stays.error();
        }
    }
    const std::vector<Entry>& entries = told.list.entries;
    const auto results = resultsOf(entries, &market, day, progress);
    auto courses = coursesOf(entries, evaluator, names, question.terms, day, progress);
    const auto reports = nextReports(evaluator, names, day);
    const VerdictIndex verdicts(question.verdicts, market);
    for (std::size_t i = 0; i < entries.size(); ++i) {
        EntryTold entry{results[i], std::move(courses[i]), {}, 0.0, {}, {}};
        if (const auto stock = entry.result.stock) {
            entry.position = positionOf(entries[i].page.trades, market, *stock, day);
            entry.lossAtStop = lossAt(entry.position, entry.result.price, entry.stop());
            if (reports && !isMissing((*reports)[*stock]))
                entry.nextReport = Day::fromSerial(static_cast<int>((*reports)[*stock]));
            if (const Verdict* newest = verdicts.newest(*stock, day))
                entry.verdict = *newest;
        }
        told.entries.push_back(std::move(entry));
    }
    told.holdings = sumOf(told, market);
    return told;
}

std::map<PlanState, std::size_t> statesOf(const ListTold& told)
{
    std::map<PlanState, std::size_t> states;
    for (const EntryTold& entry : told.entries)
        ++states[entry.course.state()];
    return states;
}

} // namespace sieve::watchlists
