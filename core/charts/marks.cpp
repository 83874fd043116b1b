#include "core/charts/marks.h"

#include "core/market/as_of.h"
#include "core/patterns/bar_marks.h"
#include "core/patterns/swings.h"
#include "core/watchlists/stocks.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace sieve::charts {

namespace {

using market::ActionKind;

std::string ratioText(double ratio)
{
    return ratio >= 1.0 ? fmt::format("{:g} new shares for one", ratio)
                        : fmt::format("one new share for {:g}", 1.0 / ratio);
}

MarkKind kindOf(patterns::Mark shape)
{
    using Shape = patterns::Mark;
    switch (shape) {
    case Shape::GapUp:
    case Shape::GapDown:
        return MarkKind::Gap;
    case Shape::IslandTop:
    case Shape::IslandBottom:
        return MarkKind::Island;
    case Shape::InsideDay:
        return MarkKind::Inside;
    case Shape::OutsideDay:
        break;
    }
    return MarkKind::Outside;
}

class Finding {
public:
    explicit Finding(const MarkSources& sources)
        : evaluator_(sources.evaluator), names_(sources.names), market_(sources.evaluator.market()),
          instrument_(sources.instrument), day_(sources.day), since_(sources.since),
          bars_(sources.bars), days_(sources.bars.days), lists_(sources.lists),
          areMovesTold_(sources.areMovesTold)
    {
    }

    void addKind(MarkKind kind, const Progress& progress)
    {
        switch (kind) {
        case MarkKind::Report:
            return addReports(progress);
        case MarkKind::Dividend:
        case MarkKind::Split:
            return addActions(kind == MarkKind::Split);
        case MarkKind::News:
            return addNews();
        case MarkKind::Rating:
            return addRatings();
        case MarkKind::Entry:
            return addEntries();
        case MarkKind::Gap:
        case MarkKind::Island:
        case MarkKind::Inside:
        case MarkKind::Outside:
        case MarkKind::Swing:
            return addAll(marksOfBars(bars_, std::span(&kind, 1)));
        case MarkKind::Divergence: // made of finished panes: addDivergences
        case MarkKind::Trade:
        case MarkKind::Match:
            break;
        }
    }

    std::vector<Mark> take()
    {
        std::ranges::stable_sort(marks_, {},
                                 [](const Mark& mark) { return std::pair(mark.bar, mark.kind); });
        return std::move(marks_);
    }

private:
    void addReports(const Progress& progress)
    {
        const auto reports = market_.statements(instrument_).reports();
        const bool isAny = !reports.empty() && reports.front().knownOn <= day_;
        if (!isAny || days_.empty())
            return;
        engine::Plan plan;
        std::vector<engine::NodeId> targets;
        for (const char* text : {"quarter(eps)", "surprise(eps)", "change(close, 1)"})
            targets.push_back(check(text, names_, plan)->node);
        const auto values = evaluator_.histories(plan, targets, instrument_, day_, progress);
        const std::span<const Day> daily = market_.bars(instrument_).days;
        Day quarter = market::Report::none;
        Day year = market::Report::none;
        for (const market::Report& report : reports) {
            const bool isNew = report.newestQuarter != quarter || report.newestYear != year;
            const bool isQuarter = report.newestQuarter != quarter;
            quarter = report.newestQuarter;
            year = report.newestYear;
            const auto bar = static_cast<std::size_t>(
                std::ranges::lower_bound(daily, report.knownOn) - daily.begin());
            if (!isNew || report.knownOn > day_ || bar >= values[0].size())
                continue;
            std::string text = isQuarter
                                   ? fmt::format("Report of the quarter to {}.", quarter.iso())
                                   : fmt::format("Report of the year to {}.", year.iso());
            if (!isMissing(values[0][bar]))
                text += fmt::format(" Earnings a share {:.2f}", values[0][bar]);
            if (const double surprise = values[1][bar]; !isMissing(surprise))
                text += fmt::format(", {:.1f} % {} what was expected", std::fabs(100.0 * surprise),
                                    surprise < 0.0 ? "below" : "above");
            text += text.ends_with('.') ? "" : ".";
            if (areMovesTold_ && !isMissing(values[2][bar]))
                text += fmt::format(" The price went {:+.1f} % that day.", 100.0 * values[2][bar]);
            add(MarkKind::Report, report.knownOn, std::move(text));
        }
    }

    void addActions(bool areSplits)
    {
        for (const market::Action& action : market_.actions(instrument_)) {
            if ((action.kind == ActionKind::Split) != areSplits)
                continue;
            if (areSplits)
                add(MarkKind::Split, action.exDate,
                    fmt::format("Split: {}.", ratioText(action.value)));
            else
                add(MarkKind::Dividend, action.exDate,
                    fmt::format("{} of {:g} a share.",
                                action.kind == ActionKind::Dividend ? "Dividend" : "Spin-off",
                                action.value));
        }
    }

    void addNews()
    {
        const market::Exchange* exchange =
            market_.exchange(market_.instrument(instrument_).exchange);
        for (const market::NewsItem& item : market_.notices(instrument_).news)
            add(MarkKind::News,
                exchange ? market::dayOfKnowing(*exchange, item.time) : item.time.day(),
                item.title);
    }

    void addRatings()
    {
        for (const market::Rating& rating : market_.notices(instrument_).ratings) {
            std::string text =
                fmt::format("{} {}", rating.house, market::ratingActionName(rating.action));
            if (!isMissing(rating.target))
                text += fmt::format(", target {:.2f}", rating.target);
            add(MarkKind::Rating, rating.date, text + ".");
        }
    }

    void addEntries()
    {
        const auto reasoned = [](std::string text, const std::string& reason) {
            return reason.empty() ? text + "." : text + ": " + reason;
        };
        const auto came = [&](const watchlists::Entry& entry, const std::string& list) {
            std::string text = fmt::format("Put on “{}”", list);
            if (!isMissing(entry.priceThen))
                text += fmt::format(" at {:.2f}", entry.priceThen);
            add(MarkKind::Entry, entry.addedOn, reasoned(std::move(text), entry.reason));
        };
        const auto isOwn = [&](const watchlists::Entry& entry) {
            return watchlists::stockOf(entry, market_) == instrument_;
        };
        for (const auto& list : lists_) {
            for (const watchlists::Entry& entry : list->entries)
                if (isOwn(entry))
                    came(entry, list->name);
            for (const watchlists::FormerEntry& former : list->former) {
                if (!isOwn(former.entry))
                    continue;
                came(former.entry, list->name);
                add(MarkKind::Entry, former.leftOn,
                    reasoned(fmt::format("Taken off “{}”", list->name), former.reasonLeft));
            }
        }
    }

    void addAll(const std::vector<Mark>& marks)
    {
        marks_.insert(marks_.end(), marks.begin(), marks.end());
    }

    void add(MarkKind kind, Day known, std::string text)
    {
        // Several of minutes.
        const auto [first, behind] = std::equal_range(days_.begin(), days_.end(), known);
        const bool isAtOpen = kind == MarkKind::Dividend || kind == MarkKind::Split;
        const auto bar = isAtOpen || first == behind ? first : std::prev(behind);
        if (known <= day_ && known >= since_ && bar != days_.end())
            marks_.push_back(
                {kind, static_cast<std::size_t>(bar - days_.begin()), known, std::move(text)});
    }

    engine::Evaluator& evaluator_;
    const language::Names& names_;
    const market::Market& market_;
    std::size_t instrument_;
    Day day_;
    Day since_;
    const market::Bars& bars_;
    std::span<const Day> days_;
    std::span<const Shared<watchlists::Watchlist>> lists_;
    bool areMovesTold_;
    std::vector<Mark> marks_;
};

} // namespace

std::vector<Mark> marksOf(const MarkSources& sources, std::span<const MarkKind> kinds,
                          const Progress& progress)
{
    if (sources.bars.size() == 0)
        return {};
    Finding finding(sources);
    for (const MarkKind kind : kinds)
        finding.addKind(kind, progress);
    return finding.take();
}

Mark markOf(const patterns::MarkedBar& marked, const market::Bars& bars)
{
    std::string text(markName(marked.mark));
    text[0] = static_cast<char>(text[0] - 'a' + 'A');
    const MarkKind kind = kindOf(marked.mark);
    if (kind == MarkKind::Gap) {
        const bool isUp = marked.mark == patterns::Mark::GapUp;
        const std::size_t before = marked.bar - 1;
        text += fmt::format(" from {:.2f} to {:.2f}", isUp ? bars.high[before] : bars.low[before],
                            isUp ? bars.low[marked.bar] : bars.high[marked.bar]);
    } else if (kind == MarkKind::Island) {
        text += fmt::format(" since {}", bars.days[marked.first].iso());
    }
    return {kind, marked.bar, bars.days[marked.bar], text + "."};
}

std::vector<Mark> marksOfBars(const market::Bars& bars, std::span<const MarkKind> kinds)
{
    constexpr double reversal = 0.08;
    const auto isAsked = [&](MarkKind kind) {
        return std::ranges::find(kinds, kind) != kinds.end();
    };
    std::vector<Mark> marks;
    for (const patterns::MarkedBar& marked : patterns::markedBars(bars.view()))
        if (isAsked(kindOf(marked.mark)))
            marks.push_back(markOf(marked, bars));
    if (isAsked(MarkKind::Swing))
        for (const patterns::Swing& swing :
             patterns::swingsByReversal(bars.high, bars.low, reversal))
            marks.push_back({MarkKind::Swing, swing.bar, bars.days[swing.bar],
                             fmt::format("Swing {} at {:.2f}, known since {}.",
                                         swing.turn == patterns::Turn::High ? "high" : "low",
                                         swing.price, bars.days[swing.knownOn].iso())});
    return marks;
}

std::vector<Mark> marksOfCondition(std::span<const double> condition, std::span<const Day> days,
                                   const std::string& title)
{
    std::vector<Mark> marks;
    for (std::size_t bar = 0; bar < condition.size(); ++bar) {
        if (condition[bar] != 1.0 || (bar > 0 && condition[bar - 1] == 1.0))
            continue;
        std::size_t end = bar;
        while (end < condition.size() && condition[end] == 1.0)
            ++end;
        const char* still = end == condition.size() ? ", and still" : "";
        marks.push_back({MarkKind::Match, bar, days[bar],
                         fmt::format("{} ({} {}{})", title, end - bar,
                                     end - bar == 1 ? "bar" : "bars", still)});
    }
    return marks;
}

} // namespace sieve::charts
