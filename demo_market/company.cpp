#include "demo_market/company.h"

#include "demo_market/chronicle.h"
#include "demo_market/price_step.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <map>
#include <utility>

namespace sieve::demo_market {

namespace {

/// What a character means for the figures: growth of revenue a quarter, operating margin, how both
/// waver, debt as a share of assets, what buyers pay for sales, and the share of earnings paid out.
struct Traits {
    double growth;
    double margin;
    double waver;
    double debt;
    double salesMultiple;
    double payout;
};

constexpr std::array traits{
    Traits{0.048, 0.19, 0.030, 0.10, 4.2, 0.00},  // Grower
    Traits{0.012, 0.15, 0.012, 0.22, 2.0, 0.45},  // Steady
    Traits{0.010, 0.12, 0.060, 0.30, 1.1, 0.25},  // Cyclical
    Traits{0.016, 0.02, 0.030, 0.40, 0.9, 0.00},  // Turnaround
    Traits{0.006, 0.09, 0.030, 0.62, 0.8, 0.10},  // Indebted
    Traits{0.075, -0.35, 0.070, 0.15, 5.0, 0.00}, // Unprofitable
    Traits{-0.022, 0.07, 0.025, 0.35, 0.7, 0.50}, // Declining
};

/// One quarter's results in whole thousands, as a company states them.
struct Quarter {
    Day end = Day::fromSerial(0);
    double revenue = 0.0;
    double operatingIncome = 0.0;
    double netIncome = 0.0;
    double surprise = 0.0; ///< of the margin, against what its character leads to expect
};

class Life {
public:
    Life(market::InstrumentRecord& record, const Birth& birth, const std::vector<Day>& sessions,
         const std::vector<Weather>& weather, Dice dice)
        : record_(record), birth_(birth), sessions_(sessions), weather_(weather), dice_(dice),
          traits_(traits.at(static_cast<std::size_t>(birth.character))),
          sector_(sectorNumber(record.instrument.sector)), equity_(birth.size * 3.0),
          shares_(std::floor(birth.size * dice_.between(0.8, 2.2)) * 1e6 + 4e6),
          chronicle_(record, birth.size > 25.0, driftOf(birth), dice_.fork(77))
    {
        chronicle_.newsFrom(birth.newsFrom);
    }

    void run()
    {
        makeQuarters();
        begin();
        const std::size_t end = birth_.lastSession.value_or(sessions_.size() - 1);
        for (std::size_t session = birth_.firstSession; session <= end; ++session)
            live(session);
        if (birth_.lastSession)
            retire(end);
        else if (reportDay_)
            chronicle_.due(*reportDay_, market::CalendarKind::Report, reportTime_);
    }
    std::vector<std::pair<std::string, Day>> takeNotes() { return std::move(notes_); }

private:
    /// Who sells to whom over the years: to the public what is going to fall, from it what will
    /// rise.
    static double driftOf(const Birth& birth)
    {
        if (birth.ending == Ending::Failed || birth.character == Character::Declining)
            return 1.0;
        if (birth.character == Character::Grower || birth.character == Character::Turnaround)
            return -0.7;
        return 0.05;
    }

    /// All quarters from three years before the first session, with the days they become known.
    void makeQuarters()
    {
        const auto month = static_cast<unsigned>(1 + dice_.below(3)); // fiscal quarters differ
        Day end = *Day::of(std::chrono::year(sessions_[birth_.firstSession].date().year()) /
                           std::chrono::month(month) / std::chrono::last);
        end = lastOfMonth(end.plusMonths(-36));
        Quarter quarter;
        quarter.revenue = birth_.size * 1e6;
        double margin = traits_.margin + 0.03 * dice_.bell();
        double cycle = dice_.between(0.0, 16.0);
        for (int number = 0; end < sessions_.back();
             ++number, end = lastOfMonth(end.plusMonths(3))) {
            cycle += 1.0;
            // A triangle wave stands in for the cycle: -1 to 1 over sixteen quarters.
            const double phase = cycle - 16.0 * std::floor(cycle / 16.0);
            const double wave = phase < 8.0 ? phase / 4.0 - 1.0 : 3.0 - phase / 4.0;
            const bool isCyclical = birth_.character == Character::Cyclical;
            const double aged =
                birth_.character == Character::Grower ? 1.0 / (1.0 + number * 0.02) : 1.0;
            quarter.surprise = traits_.waver * 0.6 * dice_.bell();
            quarter.revenue *= 1.0 + traits_.growth * aged + (isCyclical ? 0.05 * wave : 0.0) +
                               traits_.waver * 0.5 * dice_.bell();
            if (birth_.character == Character::Turnaround && number > 10)
                margin += 0.008;
            if (birth_.character == Character::Unprofitable)
                margin += 0.012;
            quarter.end = end;
            const double achieved = margin + quarter.surprise + (isCyclical ? 0.07 * wave : 0.0);
            quarter.operatingIncome = std::floor(quarter.revenue * achieved / 1000.0) * 1000.0;
            quarter.revenue = std::floor(quarter.revenue / 1000.0) * 1000.0;
            const double interest = traits_.debt * equity_ * 1e6 * 0.012;
            const double before = quarter.operatingIncome - interest;
            quarter.netIncome =
                std::floor((before > 0.0 ? before * 0.77 : before) / 1000.0) * 1000.0;
            quarters_.push_back(quarter);
        }
    }

    static Day lastOfMonth(Day day)
    {
        return *Day::of(day.date().year() / day.date().month() / std::chrono::last);
    }

    double trailing(std::size_t quarter, double Quarter::*item) const
    {
        double sum = 0.0;
        for (std::size_t i = quarter >= 3 ? quarter - 3 : 0; i <= quarter; ++i)
            sum += quarters_[i].*item;
        return sum;
    }

    /// What the company is worth by its newest known quarter, a share.
    double fairPrice() const
    {
        if (!known_)
            return price_;
        const double earnings = trailing(*known_, &Quarter::netIncome);
        const double sales = trailing(*known_, &Quarter::revenue);
        const double multiple = 9.0 + 260.0 * std::max(traits_.growth, 0.005);
        const double bySales = sales * traits_.salesMultiple * 0.5;
        const double byEarnings = std::max(earnings, 0.0) * multiple;
        return std::max(0.35 * bySales + 0.65 * byEarnings, 0.15 * sales) / shares_ * premium_;
    }

    void begin()
    {
        // File the past first, so that the first session already knows it.
        const Day first = sessions_[birth_.firstSession];
        while (next_ < quarters_.size() && quarters_[next_].end.plusDays(45) < first)
            file(quarters_[next_].end.plusDays(30 + static_cast<int>(dice_.below(14))));
        premium_ = dice_.between(0.75, 1.35);
        price_ = fairPrice();
        while (birth_.startPrice > 0.0 && price_ < birth_.startPrice && shares_ > 1e4) {
            shares_ = std::floor(shares_ / 2.0);
            price_ *= 2.0;
        }
        while (price_ < 9.0 && shares_ > 2e6) { // a price that people like to begin with
            shares_ = std::floor(shares_ / 2.0);
            price_ *= 2.0;
        }
        if (birth_.firstSession > 0 && birth_.isListing) {
            chronicle_.due(first.plusDays(180), market::CalendarKind::LockUpEnd,
                           market::CalendarTime::NotKnown);
            chronicle_.tell(first, 6 * 60 + 30, record_.instrument.name + " is listed today", {});
            record_.instrument.offerPrice = onStep(price_ * dice_.between(0.8, 1.02));
            record_.instrument.listedOn = first;
        } else if (birth_.firstSession > 0) {
            record_.instrument.listedOn = first;
        } else {
            record_.instrument.listedOn =
                first.plusDays(-400 - static_cast<int>(dice_.below(6000)));
        }
        refile();
        schedule(first);
        count(first);
    }

    /// The past was filed before the share count settled: state its per-share figures anew.
    void refile()
    {
        for (market::StatementRow& row : record_.statements)
            if (market::statementItems()[row.item].isPerShare)
                row.value = std::floor(row.value * firstShares_ / shares_ * 1e4 + 0.5) / 1e4;
    }

    void schedule(Day today)
    {
        reportDay_ = next_ < quarters_.size() ? std::optional(quarters_[next_].end.plusDays(
                                                    24 + static_cast<int>(dice_.below(28))))
                                              : std::nullopt;
        if (!reportDay_)
            return;
        reportDay_ = std::max(*reportDay_, today.plusDays(1));
        reportTime_ =
            dice_.chance(0.7) ? market::CalendarTime::BeforeOpen : market::CalendarTime::AfterClose;
        if (const auto written = writtenReport(); written && isToReportOn(*written, today)) {
            reportDay_ = *written;
            reportTime_ = market::CalendarTime::BeforeOpen;
            const double gap = birth_.script->gaps.at(birth_.script->marked);
            quarters_[next_].surprise = (gap > 0.0 ? 1.6 : -1.6) * std::max(traits_.waver, 0.01);
        }
        while (!std::ranges::binary_search(sessions_, *reportDay_) &&
               *reportDay_ < sessions_.back())
            reportDay_ = reportDay_->plusDays(1);
        while (reportDay_->isWeekend())
            reportDay_ = reportDay_->plusDays(1);
        // Analysts begin from far off and come nearer: their revision runs before the price does.
        firstError_ = 0.10 * dice_.bell() - 0.06 * quarters_[next_].surprise;
        const Day planned = reportDay_->plusDays(-30 - static_cast<int>(dice_.below(15)));
        revisionDay_ = std::max(planned, today.plusDays(1));
        chronicle_.expect(today, prospect(), firstError_);
    }

    /// The session at which the stock's script begins.
    std::optional<std::size_t> scriptBegin() const
    {
        if (!birth_.script)
            return std::nullopt;
        const auto length = static_cast<std::size_t>(birth_.script->sessions());
        const std::size_t end = birth_.isListing && birth_.firstSession > 0
                                    ? birth_.firstSession + length
                                    : sessions_.size();
        return end - std::min(end, length);
    }

    /// The day of the report that the script tells of.
    std::optional<Day> writtenReport() const
    {
        const auto begin = scriptBegin();
        if (!begin || !birth_.script->isReport)
            return std::nullopt;
        return sessions_[*begin + static_cast<std::size_t>(birth_.script->marked)];
    }

    /// Whether the next quarter is the one to be reported on a day.
    bool isToReportOn(Day day, Day today) const
    {
        constexpr int soonest = 18; // days after the quarter's end
        const bool isNextToo =
            next_ + 1 < quarters_.size() && quarters_[next_ + 1].end.plusDays(soonest) <= day;
        return day > today && quarters_[next_].end.plusDays(soonest) <= day && !isNextToo;
    }

    /// What the next report will tell.
    Prospect prospect() const
    {
        const Quarter& next = quarters_[next_];
        double year = 0.0;
        const std::size_t yearEnd = next_ + (3 - next_ % 4); // every fourth quarter files the year
        for (std::size_t i = yearEnd - 3; i <= yearEnd; ++i)
            year += quarters_[std::min(i, quarters_.size() - 1)].netIncome;
        return {next.end,
                next.netIncome / shares_,
                next.revenue,
                year / shares_,
                lastOfMonth(next.end.plusMonths(static_cast<int>(3 * (yearEnd - next_)))),
                next.surprise / std::max(traits_.waver, 0.01),
                traits_.payout};
    }

    void revise(Day day)
    {
        if (!revisionDay_ || day < *revisionDay_ || day >= *reportDay_)
            return;
        revisionDay_.reset();
        chronicle_.expect(day, prospect(), 0.25 * firstError_);
        expectation_ = 0.0009 * prospect().surprise;
    }

    void live(std::size_t session)
    {
        if (!scripted(session))
            trade(session);
        // What is told after the close moves the price of the session after.
        if (isDue(sessions_[session], market::CalendarTime::AfterClose))
            surprise_ = report(sessions_[session]);
    }

    bool isDue(Day day, market::CalendarTime when) const
    {
        return reportDay_ && day >= *reportDay_ && reportTime_ == when;
    }

    void trade(std::size_t session)
    {
        const Day day = sessions_[session];
        double gap = 0.004 * dice_.bell() * volatility_;
        double volume = 1.0;
        revise(day);
        if (isDue(day, market::CalendarTime::BeforeOpen))
            surprise_ = report(day);
        const bool isReaction = surprise_.has_value();
        if (isReaction) {
            gap += 0.028 * *surprise_ + 0.01 * dice_.bell();
            volume = 2.5 + 2.0 * dice_.share();
            surprise_.reset();
        } else if (dice_.chance(0.0016)) { // something happens that no report tells
            const double size = dice_.between(0.06, 0.16);
            gap += dice_.chance(0.5) ? size : -size;
            volume = 3.5;
        }
        changeEpisode(session);
        const Weather& weather = weather_[session];
        const double pull = std::clamp(fairPrice() / price_ - 1.0, -0.6, 0.9);
        double change = birth_.beta * weather.market + weather.sectors.at(sector_) +
                        (birth_.size < 90.0 ? weather.small : -0.2 * weather.small) +
                        0.0018 * pull + episode_ + expectation_ +
                        0.0115 * volatility_ * dice_.bell();
        if (birth_.ending == Ending::Failed && *birth_.lastSession < session + 160)
            change -= 0.014;
        if (birth_.ending == Ending::Bought && *birth_.lastSession == session + 30) {
            gap = 0.31;
            volume = 9.0;
            chronicle_.tell(day, 7 * 60, record_.instrument.name + " is to be bought", {});
        }
        if (birth_.ending == Ending::Bought && *birth_.lastSession < session + 30)
            change = gap = 0.001 * dice_.bell();
        split(session);
        paySpecial(session);
        if (std::fabs(gap + change) > 0.075 && !isReaction)
            chronicle_.moved(day, gap + change);
        else if (dice_.chance(0.002))
            chronicle_.tell(day, 12 * 60, record_.instrument.name + " shows its works to visitors",
                            "Nothing of note was said.");
        if (dice_.chance(birth_.size < 12.0 ? 0.012 : 0.0003) && !isReaction)
            return; // no trade on this session
        addBar(day, gap, std::clamp(change, -0.3, 0.35), volume);
        if (session % 63 == 31)
            count(day);
    }

    /// Files the next quarter; how far it surprised, in deviations.
    double report(Day day)
    {
        chronicle_.due(day, market::CalendarKind::Report, reportTime_);
        file(day);
        const double surprise = quarters_[*known_].surprise / std::max(traits_.waver, 0.01);
        chronicle_.reported(day, reportTime_, quarters_[*known_].end, surprise, price_);
        expectation_ = 0.0;
        schedule(day);
        return surprise;
    }

    /// The part of its life that is written out; false when this session is none of it.
    bool scripted(std::size_t session)
    {
        if (!birth_.script)
            return false;
        const Script& script = *birth_.script;
        const std::size_t begin = *scriptBegin();
        if (session < begin || session >= begin + static_cast<std::size_t>(script.sessions()))
            return false;
        const auto at = static_cast<int>(session - begin);
        const Day day = sessions_[session];
        if (at == 0)
            scriptStart_ = price_;
        if (at == script.marked)
            notes_.emplace_back(script.what, day);
        if (isDue(day, market::CalendarTime::BeforeOpen))
            report(day);
        surprise_.reset(); // the script is what the price does
        if (std::ranges::count(script.halts, at) > 0)
            return true;
        const auto jump = script.gaps.find(at);
        const double gap =
            jump == script.gaps.end() ? 0.1 * script.noise * dice_.bell() : jump->second;
        if (jump != script.gaps.end() && !script.isReport)
            chronicle_.moved(day, gap);
        const double target =
            scriptStart_ * script.levelAt(at) * (1.0 + script.noise * dice_.bell());
        const double volatility = std::exchange(volatility_, 0.25 + 40.0 * script.noise);
        scriptVolume_ = script.volumeAt(at);
        addBar(day, gap, target / price_ - 1.0 - gap, 1.0);
        scriptVolume_ = 0.0;
        volatility_ = volatility;
        return true;
    }

    void paySpecial(std::size_t session)
    {
        if (birth_.specialDividend == 0.0 || session + 500 != sessions_.size())
            return;
        const double paid = onStep(price_ * birth_.specialDividend);
        record_.actions.push_back({sessions_[session], market::ActionKind::Dividend, paid});
        chronicle_.tell(sessions_[session].plusDays(-14), 7 * 60,
                        record_.instrument.name + " pays a special dividend", {});
        notes_.emplace_back("a special dividend of a tenth of the price", sessions_[session]);
        price_ -= paid;
    }

    /// Runs and rests: weeks in which a stock leads or lags for reasons of its own.
    void changeEpisode(std::size_t session)
    {
        if (session < episodeEnd_)
            return;
        const double luck = dice_.share();
        const double bias = birth_.character == Character::Grower ? 0.10 : 0.0;
        if (luck < 0.26 + bias)
            episode_ = dice_.between(0.0014, 0.0042);
        else if (luck > 0.80)
            episode_ = -dice_.between(0.0010, 0.0032);
        else
            episode_ = 0.0;
        episodeEnd_ = session + 15 + dice_.below(episode_ > 0.0 ? 60 : 45);
        volatility_ = episode_ == 0.0 ? dice_.between(0.6, 1.1) : dice_.between(0.9, 1.5);
    }

    void addBar(Day day, double gap, double change, double volume)
    {
        const double open = onStep(price_ * (1.0 + gap));
        const double close = onStep(price_ * (1.0 + gap + change));
        const double reach = price_ * 0.006 * volatility_;
        const double high = onStep(std::max(open, close) + reach * std::fabs(dice_.bell()));
        const double low =
            onStep(std::max(std::min(open, close) - reach * std::fabs(dice_.bell()), 0.0001));
        const double moved = std::fabs(gap + change) * 22.0;
        const double trend = 1.0 + 60.0 * std::max(episode_, 0.0);
        const double usual = volume * trend * (0.55 + moved) * dice_.between(0.6, 1.4);
        const double written = scriptVolume_ * dice_.between(0.92, 1.08);
        const double traded = shares_ * 0.0022 * (scriptVolume_ > 0.0 ? written : usual);
        record_.bars.add({day, open, std::max({high, open, close}), std::min({low, open, close}),
                          close, std::floor(traded / 10.0 + 1.0) * 10.0});
        price_ = close;
    }

    void split(std::size_t session)
    {
        const Day day = sessions_[session];
        double ratio = 0.0;
        if (birth_.neverSplits)
            return;
        if (birth_.reverseSplitAt > 0 && session == birth_.reverseSplitAt)
            ratio = 0.1;
        else if (birth_.reverseSplitAt > 0)
            return;
        else if (price_ > 95.0)
            ratio = price_ > 300.0 ? 5.0 : dice_.chance(0.5) ? 3.0 : 2.0;
        else if (price_ < 0.45 && birth_.ending != Ending::Failed && dice_.chance(0.1))
            ratio = 0.1;
        if (ratio == 0.0)
            return;
        record_.actions.push_back({day, market::ActionKind::Split, ratio});
        if (ratio < 1.0)
            notes_.emplace_back("a reverse split of ten into one", day);
        chronicle_.tell(day.plusDays(-10), 7 * 60, record_.instrument.name + " splits its shares",
                        {});
        price_ /= ratio;
        shares_ = std::floor(shares_ * ratio);
        count(day);
    }

    void count(Day day)
    {
        const double floatShare = 0.45 + 0.4 * dice_.share();
        if (!record_.shares.empty() && record_.shares.back().date == day)
            record_.shares.pop_back(); // a split on the day of a count
        record_.shares.push_back({day, day, shares_, std::floor(shares_ * floatShare),
                                  std::floor(shares_ * floatShare * dice_.between(0.002, 0.06))});
    }

    /// A year is what its four quarters come to.
    double yearOrQuarter(std::uint32_t item, market::Period period, double value)
    {
        std::vector<double>& quarters = quartersOfYear_[item];
        if (period == market::Period::Quarter) {
            quarters.push_back(value);
            return value;
        }
        double sum = 0.0;
        for (std::size_t i = quarters.size() - std::min<std::size_t>(4, quarters.size());
             i < quarters.size(); ++i)
            sum += quarters[i];
        return sum;
    }

    /// Files the next quarter on a day, and with every fourth the year.
    void file(Day day)
    {
        if (firstShares_ == 0.0)
            firstShares_ = shares_;
        const Quarter& quarter = quarters_[next_];
        known_ = next_++;
        const auto add = [&](std::string_view key, double value, market::Period period) {
            const std::uint32_t item = *market::statementItemNamed(key);
            if (!market::statementItems()[item].isPerShare)
                value = yearOrQuarter(item, period, std::floor(value / 1000.0) * 1000.0);
            if (!dice_.chance(0.004)) // now and then a figure is not stated
                record_.statements.push_back({item, period, quarter.end, day, value});
        };
        const auto results = [&](market::Period period, double revenue, double operating,
                                 double net) {
            const double perShare = std::floor(net / shares_ * 1e4 + 0.5) / 1e4;
            const double paid = std::max(std::floor(perShare * traits_.payout * 1e2) / 1e2, 0.0);
            add("revenue", revenue, period);
            add("cost_of_sales", revenue * 0.76 - operating, period); // the rest is overheads
            add("gross_profit", revenue * 0.24 + operating, period);
            add("operating_income", operating, period);
            add("interest_expense", traits_.debt * equity_ * 1e6 * 0.012, period);
            add("net_income", net, period);
            add("eps", perShare, period);
            add("dividends_per_share", paid, period);
            add("depreciation", revenue * 0.05, period);
            add("operating_cash_flow", net + revenue * (0.05 + 0.02 * dice_.bell()), period);
            add("capital_expenditure", revenue * dice_.between(0.02, 0.07), period);
            if (period == market::Period::Quarter && paid > 0.0 && day > sessions_.front()) {
                chronicle_.due(day.plusDays(7), market::CalendarKind::Dividend,
                               market::CalendarTime::NotKnown);
                record_.actions.push_back({day.plusDays(7), market::ActionKind::Dividend, paid});
            }
        };
        equity_ += (quarter.netIncome * (1.0 - traits_.payout)) / 1e6;
        if (equity_ < birth_.size * 0.4) // new shares are issued before it runs dry
            equity_ += birth_.size;
        results(market::Period::Quarter, quarter.revenue, quarter.operatingIncome,
                quarter.netIncome);
        const double debt = traits_.debt * equity_ * 1.6;
        const double assets = (equity_ + debt) * 1.35;
        const std::array<std::pair<std::string_view, double>, 8> balance{
            {{"total_assets", assets},
             {"current_assets", assets * dice_.between(0.32, 0.40)},
             {"inventory", assets * 0.09},
             {"cash", assets * dice_.between(0.05, 0.15)},
             {"total_liabilities", assets - equity_},
             {"current_liabilities", assets * (0.14 + 0.2 * traits_.debt)},
             {"debt", debt},
             {"equity", equity_}}};
        for (const auto& [key, value] : balance)
            add(key, value * 1e6, market::Period::Quarter);
        if (*known_ % 4 == 3)
            results(market::Period::Year, trailing(*known_, &Quarter::revenue),
                    trailing(*known_, &Quarter::operatingIncome),
                    trailing(*known_, &Quarter::netIncome));
        if (dice_.chance(0.02)) { // a restatement, known two months later
            const std::uint32_t item = *market::statementItemNamed("revenue");
            record_.statements.push_back({item, market::Period::Quarter, quarter.end,
                                          day.plusDays(60), quarter.revenue * 0.97});
        }
    }

    void retire(std::size_t session)
    {
        const std::array<std::string_view, 5> why{"", "failed", "bought", "moved to another market",
                                                  "merged"};
        record_.instrument.delistedOn = sessions_[session].plusDays(1);
        record_.instrument.delistedWhy = why.at(static_cast<std::size_t>(birth_.ending));
        if (!birth_.whyDelisted.empty())
            record_.instrument.delistedWhy = birth_.whyDelisted;
        const Day gone = *record_.instrument.delistedOn;
        std::erase_if(record_.calendar, [gone](const auto& entry) { return entry.date >= gone; });
        std::erase_if(record_.owners, [gone](const auto& row) { return row.knownOn >= gone; });
        std::erase_if(record_.actions, [gone](const auto& row) { return row.exDate >= gone; });
        std::erase_if(record_.statements,
                      [gone](const market::StatementRow& row) { return row.knownOn >= gone; });
    }

    market::InstrumentRecord& record_;
    const Birth& birth_;
    const std::vector<Day>& sessions_;
    const std::vector<Weather>& weather_;
    Dice dice_;
    Traits traits_;
    std::size_t sector_;
    std::vector<Quarter> quarters_;
    std::size_t next_ = 0;             ///< the quarter to be filed next
    std::optional<std::size_t> known_; ///< the quarter filed last
    std::optional<Day> reportDay_;
    std::optional<double> surprise_; ///< of a report to which the price has not moved yet
    double equity_;                  ///< millions
    double shares_;
    double firstShares_ = 0.0;
    double price_ = 10.0;
    double premium_ = 1.0;
    double episode_ = 0.0;
    std::size_t episodeEnd_ = 0;
    double volatility_ = 1.0;
    Chronicle chronicle_;
    market::CalendarTime reportTime_ = market::CalendarTime::BeforeOpen;
    std::optional<Day> revisionDay_;
    double firstError_ = 0.0;
    double expectation_ = 0.0; ///< drift of the price after a revision, until the report
    double scriptStart_ = 0.0;
    double scriptVolume_ = 0.0;
    std::vector<std::pair<std::string, Day>> notes_;
    std::map<std::uint32_t, std::vector<double>> quartersOfYear_; ///< filed so far, by item
};

} // namespace

std::vector<std::pair<std::string, Day>> live(market::InstrumentRecord& record, const Birth& birth,
                                              const std::vector<Day>& sessions,
                                              const std::vector<Weather>& weather, Dice dice)
{
    Life life(record, birth, sessions, weather, dice);
    life.run();
    return life.takeNotes();
}

} // namespace sieve::demo_market
