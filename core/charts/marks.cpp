#include "core/charts/marks.h"

#include "core/market/as_of.h"

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

class Finding {
public:
    Finding(engine::Evaluator& evaluator, const language::Names& names, std::size_t instrument,
            Day day, std::span<const Day> days)
        : evaluator_(evaluator), names_(names), market_(evaluator.market()),
          instrument_(instrument), day_(day), days_(days)
    {
    }

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
            if (!isMissing(values[2][bar]))
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

    std::vector<Mark> take()
    {
        std::ranges::stable_sort(marks_, {},
                                 [](const Mark& mark) { return std::pair(mark.bar, mark.kind); });
        return std::move(marks_);
    }

private:
    void add(MarkKind kind, Day known, std::string text)
    {
        const auto bar = std::ranges::lower_bound(days_, known) - days_.begin();
        const Day first = market_.bars(instrument_).days.front();
        if (known <= day_ && known >= first && bar < std::ssize(days_))
            marks_.push_back({kind, static_cast<std::size_t>(bar), known, std::move(text)});
    }

    engine::Evaluator& evaluator_;
    const language::Names& names_;
    const market::Market& market_;
    std::size_t instrument_;
    Day day_;
    std::span<const Day> days_;
    std::vector<Mark> marks_;
};

} // namespace

std::vector<Mark> marksOf(engine::Evaluator& evaluator, const language::Names& names,
                          std::span<const MarkKind> kinds, std::size_t instrument, Day day,
                          std::span<const Day> days, const Progress& progress)
{
    Finding finding(evaluator, names, instrument, day, days);
    if (days.empty())
        return {};
    for (const MarkKind kind : kinds)
        switch (kind) {
        case MarkKind::Report:
            finding.addReports(progress);
            break;
        case MarkKind::Dividend:
        case MarkKind::Split:
            finding.addActions(kind == MarkKind::Split);
            break;
        case MarkKind::News:
            finding.addNews();
            break;
        case MarkKind::Rating:
            finding.addRatings();
            break;
        }
    return finding.take();
}

} // namespace sieve::charts
