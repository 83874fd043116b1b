#include "core/engine/leaves.h"

#include "core/base/lower_case.h"
#include "core/indicators/regression.h"
#include "core/market/as_of.h"

#include <algorithm>
#include <limits>
#include <map>

namespace sieve::engine {

namespace {

/// One leaf along one instrument's bars.
class Leaf {
public:
    Leaf(const Node& node, const BarFrame& frame, std::size_t from, std::span<double> out)
        : node_(node), frame_(frame), market_(*frame.market), instrument_(frame.instrument),
          from_(from), out_(out)
    {
    }

    void fill()
    {
        const market::Instrument& instrument = market_.instrument(instrument_);
        switch (node_.op) {
        case Op::TextField: {
            const std::uint32_t number = market_.text(instrument_, node_.textField);
            return all(number == 0 ? missing : static_cast<double>(number));
        }
        case Op::TotalReturn:
            return totalReturn();
        case Op::ListedOn:
            return all(instrument.listedOn ? instrument.listedOn->serial() : missing);
        case Op::OfferPrice:
            return all(instrument.offerPrice *
                       factorOf(instrument.listedOn.value_or(frame_.days.front())));
        case Op::Optionable:
            return all(instrument.optionable ? 1.0 : 0.0);
        case Op::Shortable:
            return all(instrument.shortable ? 1.0 : 0.0);
        case Op::Quarter:
            return figure(market::Period::Quarter);
        case Op::Year:
            return figure(market::Period::Year);
        case Op::TrailingTwelveMonths:
            return trailing();
        case Op::Stability:
            return stability();
        case Op::ReportDay:
            return whileKnown([this](Day day) { return reportDay(day); });
        case Op::SharesOutstanding:
        case Op::FreeFloat:
        case Op::ShortInterest:
            return whileKnown([this](Day day) { return shareCount(day); });
        case Op::Estimate:
            return whileKnown([this](Day day) { return estimate(day, node_.count); });
        case Op::Revision:
            return whileKnown([this](Day day) { return revision(day); });
        case Op::Surprise:
            return whileKnown([this](Day day) { return surprise(day); });
        case Op::Held:
        case Op::Holders:
            return whileKnown([this](Day day) { return owners(day); });
        case Op::NextReport:
            return eachDay([this](Day day) { return nextReport(day); });
        case Op::NewsWithin:
            return news();
        case Op::PriceTarget:
            return priceTarget();
        case Op::DividendsPaid:
            return eachDay([this](Day day) { return dividends(day); });
        case Op::InIndex:
            return eachDay(
                [&](Day day) { return market::isMember(instrument, node_.text, day) ? 1.0 : 0.0; });
        case Op::OnList:
            return onList();
        default: // what lives only while a session runs
            return all(missing);
        }
    }

private:
    void all(double value) { std::ranges::fill(out_, value); }

    template <class Of> void eachDay(Of of)
    {
        for (std::size_t i = 0; i < out_.size(); ++i) {
            const bool isSame = i > 0 && frame_.days[from_ + i] == frame_.days[from_ + i - 1];
            out_[i] = isSame ? out_[i - 1] : of(frame_.days[from_ + i]);
        }
    }

    /// Asks anew only on days on which something became known.
    template <class Of> void whileKnown(Of of)
    {
        for (std::size_t i = 0; i < out_.size();) {
            const Day day = frame_.days[from_ + i];
            const auto left = frame_.days.subspan(from_ + i, out_.size() - i);
            const std::size_t count = left.size() == 1 ? 1 : daysBefore(left, nextChange(day));
            std::ranges::fill(out_.subspan(i, count), of(day));
            i += count;
        }
    }

    /// How many of the days lie before `change`, which is after the first of them. Five of seven
    /// are sessions, but for holidays: from there it is mostly a few steps.
    static std::size_t daysBefore(std::span<const Day> days, Day change)
    {
        constexpr std::size_t few = 8;
        if (days.back() < change)
            return days.size();
        const auto apart = static_cast<std::size_t>(change.serial() - days.front().serial());
        std::size_t end = std::min(apart * 5 / 7 + 1, days.size() - 1);
        if (days[end] < change)
            return static_cast<std::size_t>(std::ranges::lower_bound(days, change) - days.begin());
        for (std::size_t step = 0; step < few && days[end - 1] >= change; ++step)
            --end;
        const auto next = days[end - 1] < change ? days.begin() + static_cast<std::ptrdiff_t>(end)
                                                 : std::ranges::lower_bound(days, change);
        return static_cast<std::size_t>(next - days.begin());
    }

    /// The first day after `day` on which the leaf may be worth something else.
    Day nextChange(Day day)
    {
        Day next = Day::fromSerial(std::numeric_limits<std::int32_t>::max());
        const auto consider = [&](Day change) {
            if (change > day)
                next = std::min(next, change);
        };
        const auto reports = market_.statements(instrument_).reports();
        if (reported_ == 0)
            reported_ = static_cast<std::size_t>(
                std::ranges::upper_bound(reports, day, {}, &market::Report::knownOn) -
                reports.begin());
        while (reported_ < reports.size() && reports[reported_].knownOn <= day)
            ++reported_; // days are asked for in order
        if (reported_ < reports.size())
            consider(reports[reported_].knownOn);
        switch (node_.op) {
        case Op::SharesOutstanding:
        case Op::FreeFloat:
        case Op::ShortInterest:
            for (const market::ShareCount& row : market_.shares(instrument_)) {
                consider(row.date);
                consider(row.knownOn);
            }
            break;
        case Op::Held:
        case Op::Holders:
            for (const market::OwnerRow& row : market_.owners(instrument_))
                consider(row.knownOn);
            break;
        case Op::Estimate:
        case Op::Revision:
        case Op::Surprise:
            for (const market::EstimateRow& row : market_.estimates(instrument_)) {
                consider(row.knownOn);
                consider(row.knownOn.plusDays(node_.count)); // a revision looks so far back
            }
            break;
        default:
            break;
        }
        return next;
    }

    double factorOf(Day day) const { return market_.priceFactor(instrument_, day, frame_.footing); }

    void totalReturn()
    {
        if (frame_.dailyBars.empty())
            return market_.totalReturn(instrument_, frame_.footing, from_, out_);
        std::vector<double> daily(frame_.dailyBar(from_ + out_.size() - 1) + 1);
        market_.totalReturn(instrument_, frame_.footing, 0, daily);
        for (std::size_t i = 0; i < out_.size(); ++i)
            out_[i] = daily[frame_.dailyBar(from_ + i)];
    }

    // Statements

    void figure(market::Period period)
    {
        market::ItemFigures figures(market_.statements(instrument_), node_.item, period);
        whileKnown([&](Day day) {
            const auto figure = figures.figure(node_.count, day);
            return figure ? figure->value * perShareFactor(figure->knownOn) : missing;
        });
    }

    bool isMovedBySplits() const
    {
        return market::statementItems()[node_.item].isPerShare &&
               !market_.splits(instrument_).empty();
    }

    double perShareFactor(Day known) const { return isMovedBySplits() ? factorOf(known) : 1.0; }

    /// A trailing sum of the item: of(back, day).
    auto trailingSums() const
    {
        return [figures = market::ItemFigures(market_.statements(instrument_), node_.item,
                                              market::Period::Quarter),
                factor = isMovedBySplits()
                             ? std::function([this](Day known) { return factorOf(known); })
                             : std::function<double(Day)>()](int back, Day day) mutable {
            const auto sum = figures.trailingTwelveMonths(back, day, factor);
            return sum ? sum->value : missing;
        };
    }

    void trailing()
    {
        auto sumOf = trailingSums();
        whileKnown([&](Day day) { return sumOf(node_.count, day); });
    }

    void stability()
    {
        auto sumOf = trailingSums();
        std::vector<double> sums;
        whileKnown([&](Day day) {
            sums.clear();
            for (int back = 4 * node_.count; back-- > 0;)
                sums.push_back(sumOf(back, day));
            double fit = missing;
            indicators::regressionFit(sums, static_cast<int>(sums.size()), {0, sums.size() - 1},
                                      std::span(&fit, 1));
            return fit;
        });
    }

    double reportDay(Day day) const
    {
        const market::Report* report = market_.statements(instrument_).reportBy(day);
        return report ? report->knownOn.serial() : missing;
    }

    // Facts

    double shareCount(Day day) const
    {
        const auto count = market::sharesOn(market_, instrument_, day);
        if (!count)
            return missing;
        const double shares = node_.op == Op::SharesOutstanding ? count->outstanding
                              : node_.op == Op::FreeFloat       ? count->freeFloat
                                                                : count->shortInterest;
        return shares / factorOf(count->date);
    }

    market::EstimateMeasure measure() const
    {
        return static_cast<market::EstimateMeasure>(node_.item);
    }

    double measureFactor(Day known) const
    {
        return measure() == market::EstimateMeasure::Revenue ? 1.0 : factorOf(known);
    }

    double estimate(Day day, int ahead) const
    {
        const auto row =
            market::estimateOn(market_, instrument_, measure(), node_.period, ahead, day);
        return row ? row->mean * measureFactor(row->knownOn) : missing;
    }

    /// The estimate for one period as it was known on a day.
    double estimateFor(market::Period period, Day end, Day day) const
    {
        double mean = missing;
        for (const market::EstimateRow& row : market_.estimates(instrument_))
            if (row.measure == measure() && row.period == period && row.periodEnd == end &&
                row.knownOn <= day)
                mean = row.mean * measureFactor(row.knownOn); // rows run by day known
        return mean;
    }

    double revision(Day day) const
    {
        const auto now =
            market::estimateOn(market_, instrument_, measure(), market::Period::Year, 0, day);
        if (!now)
            return missing;
        const double before =
            estimateFor(market::Period::Year, now->periodEnd, day.plusDays(-node_.count));
        const double change = now->mean * measureFactor(now->knownOn) - before;
        return before == 0.0 ? missing : change / std::fabs(before);
    }

    /// The figure reported less what was expected the day before, as a share of the latter.
    double surprise(Day day) const
    {
        const auto item = market::statementItemNamed(market::estimateMeasureName(measure()));
        if (!item)
            return missing;
        const auto told = market_.statements(instrument_)
                              .figure(*item, market::Period::Quarter, node_.count, day);
        if (!told)
            return missing;
        const double expected =
            estimateFor(market::Period::Quarter, told->periodEnd, told->knownOn.plusDays(-1));
        const double actual = told->value * measureFactor(told->knownOn);
        return expected == 0.0 ? missing : (actual - expected) / std::fabs(expected);
    }

    double owners(Day day) const
    {
        const auto row = market::ownersOn(
            market_, instrument_, static_cast<market::OwnerKind>(node_.item), node_.count, day);
        if (!row || (node_.op == Op::Holders && row->holders < 0))
            return missing;
        return node_.op == Op::Held ? row->share : row->holders;
    }

    double nextReport(Day day) const
    {
        for (const market::CalendarEntry& entry : market_.calendar(instrument_)) { // by date
            const bool isAhead =
                entry.date > day ||
                (entry.date == day && entry.when == market::CalendarTime::AfterClose);
            if (entry.kind == market::CalendarKind::Report && isAhead)
                return entry.date <= day.plusDays(announcedDays) ? entry.date.serial() : missing;
        }
        return missing;
    }

    double dividends(Day day) const
    {
        double paid = 0.0;
        for (const market::Action& action : market_.actions(instrument_))
            if (action.kind == market::ActionKind::Dividend && action.exDate <= day &&
                action.exDate > day.plusDays(-node_.count))
                paid += action.value * factorOf(action.exDate);
        return paid;
    }

    // Notices

    void news()
    {
        const market::Exchange* exchange =
            market_.exchange(market_.instrument(instrument_).exchange);
        const std::string word = lowerCase(node_.text);
        std::vector<Day> named;
        for (const market::NewsItem& item : market_.notices(instrument_).news)
            if (lowerCase(item.title).find(word) != std::string::npos ||
                lowerCase(item.summary).find(word) != std::string::npos)
                named.push_back(exchange ? market::localDay(*exchange, item.time)
                                         : item.time.day());
        std::ranges::sort(named);
        eachDay([&](Day day) {
            const auto next = std::ranges::upper_bound(named, day);
            return next != named.begin() && *(next - 1) > day.plusDays(-node_.count) ? 1.0 : 0.0;
        });
    }

    void priceTarget()
    {
        const std::vector<market::Rating> ratings = market_.notices(instrument_).ratings;
        eachDay([&](Day day) {
            std::map<std::string_view, double> targets; // the newest of each house
            for (const market::Rating& rating : ratings)
                if (rating.date <= day && rating.date > day.plusDays(-node_.count))
                    targets[rating.house] = rating.action == market::RatingAction::Ends
                                                ? missing
                                                : rating.target * factorOf(rating.date);
            double sum = 0.0;
            double count = 0.0;
            for (const auto& [house, target] : targets)
                if (!isMissing(target)) {
                    sum += target;
                    count += 1.0;
                }
            return count > 0.0 ? sum / count : missing;
        });
    }

    // Lists

    void onList()
    {
        std::vector<const ListMembers::Stay*> own;
        for (const ListMembers::Stay& stay : node_.list->stays)
            if (bearsSymbol(stay.symbol))
                own.push_back(&stay);
        eachDay([&](Day day) {
            const bool isOn = std::ranges::any_of(own, [day](const ListMembers::Stay* stay) {
                return stay->from <= day && (!stay->until || day < *stay->until);
            });
            return isOn ? 1.0 : 0.0;
        });
    }

    bool bearsSymbol(const std::string& symbol) const
    {
        const market::Instrument& instrument = market_.instrument(instrument_);
        return instrument.symbol == symbol ||
               std::ranges::find(instrument.formerSymbols, symbol, &market::FormerSymbol::symbol) !=
                   instrument.formerSymbols.end();
    }

    const Node& node_;
    const BarFrame& frame_;
    const market::Market& market_;
    std::size_t instrument_;
    std::size_t from_;
    std::span<double> out_;
    std::size_t reported_ = 0; ///< reports by the day last asked about
};

} // namespace

void fillLeaf(const Node& leaf, const BarFrame& frame, std::size_t from, std::span<double> out)
{
    if (!out.empty())
        Leaf(leaf, frame, from, out).fill();
}

} // namespace sieve::engine
