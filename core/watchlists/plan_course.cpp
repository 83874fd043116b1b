#include "core/watchlists/plan_course.h"

#include "core/base/parallel.h"
#include "core/base/require.h"
#include "core/market/as_of.h"
#include "core/watchlists/as_known.h"
#include "core/watchlists/position.h"
#include "core/watchlists/stocks.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <fmt/format.h>
#include <map>
#include <tuple>

namespace sieve::watchlists {

namespace {

using engine::NodeId;

constexpr double atEntry = 0.001; ///< of the entry: so close to it a price is at it

/// One plan on its way from bar to bar.
class PlanWalk {
public:
    PlanWalk(const TradePlan& plan, const PlanFigures& figures, std::span<const Trade> trades,
             const market::BarsView& bars, std::size_t first, const TradingTerms& terms)
        : plan_(plan), figures_(figures), trades_(trades), bars_(bars), first_(first),
          terms_(terms), entry_(plan.entry), stop_(plan.stop)
    {
    }

    /// The state at the close of a bar. Requires: called for each bar from the first on.
    StateChange step(std::size_t bar)
    {
        follow(entry_, figures_.isEntryCondition ? std::vector<double>() : figures_.entry, bar);
        follow(stop_, figures_.stop, bar);
        StateChange now{bars_.days[bar], PlanState::None, 0, bars_.close[bar], missing};
        const Holding holding = holdingAt(bar);
        if (holding.isHeld)
            hold(now, bar, holding.boughtOn);
        else if (holding.soldOn && *holding.soldOn >= plan_.on)
            now.state = PlanState::Sold;
        else
            now.state = notBought(bar);
        return now;
    }
    TradePlan planNow() const
    {
        TradePlan plan = plan_;
        plan.entry = entry_;
        plan.stop = stop_;
        return plan;
    }
    std::optional<Day> enteredOn() const { return enteredOn_; }
    double enteredAt() const { return enteredAt_; }

private:
    struct Holding {
        bool isHeld = false;
        Day boughtOn = Day::fromSerial(0); ///< the first purchase of what is held
        std::optional<Day> soldOn = {};
    };

    static void follow(double& level, const std::vector<double>& figures, std::size_t bar)
    {
        if (!figures.empty() && !isMissing(figures[bar]))
            level = figures[bar];
    }

    Holding holdingAt(std::size_t bar) const
    {
        Holding holding;
        double shares = 0.0;
        for (const Trade& trade : trades_) {
            if (trade.on > bars_.days[bar])
                break;
            if (shares <= noShares)
                holding.boughtOn = trade.on;
            shares += trade.shares;
            if (trade.shares < 0.0)
                holding.soldOn = trade.on;
        }
        holding.isHeld = shares > noShares;
        return holding;
    }

    void hold(StateChange& now, std::size_t bar, Day boughtOn)
    {
        const bool isLater = bars_.days[bar] > boughtOn && bar > first_;
        const double low = isLater ? bars_.low[bar] : bars_.close[bar];
        const double high = isLater ? bars_.high[bar] : bars_.close[bar];
        isStopped_ = isStopped_ || low <= stop_;
        while (reached_ < plan_.targets.size() && high >= plan_.targets[reached_])
            ++reached_;
        if (isStopped_) {
            now.state = PlanState::StopReached;
            now.level = stop_;
        } else if (!figures_.exit.empty() && figures_.exit[bar] == 1.0) {
            now.state = PlanState::ExitSaysLeave;
        } else if (reached_ > 0) {
            now.state = PlanState::TargetReached;
            now.target = reached_;
            now.level = plan_.targets[reached_ - 1];
        } else {
            now.state = PlanState::Held;
        }
    }

    PlanState notBought(std::size_t bar)
    {
        if (isMissing(plan_.entry))
            return PlanState::None;
        const double close = bars_.close[bar];
        isBroken_ = isBroken_ || close <= stop_;
        if (isBroken_)
            return PlanState::Broken;
        if (!enteredOn_)
            enter(bar);
        if (enteredOn_)
            return close > enteredAt_ * (1.0 + terms_.tooFar) ? PlanState::RunTooFar
                                                              : PlanState::Triggered;
        const bool hasGone =
            isFromAbove_ && !plan_.targets.empty() && close >= plan_.targets.front();
        if (hasGone)
            return PlanState::RunTooFar;
        const bool isNear =
            !figures_.isEntryCondition && std::abs(close / entry_ - 1.0) <= terms_.near;
        return isNear ? PlanState::Near : PlanState::Waiting;
    }

    /// Whether the bar reaches the entry, and at which price.
    void enter(std::size_t bar)
    {
        const double close = bars_.close[bar];
        if (figures_.isEntryCondition) {
            if (bar > first_ && figures_.entry[bar] == 1.0)
                setEntered(bar, close);
            return;
        }
        if (bar == first_) {
            isFromAbove_ = close > entry_;
            if (std::abs(close / entry_ - 1.0) <= atEntry)
                setEntered(bar, close);
        } else if (isFromAbove_ && bars_.low[bar] <= entry_) {
            setEntered(bar, std::min(bars_.open[bar], entry_));
        } else if (!isFromAbove_ && bars_.high[bar] >= entry_) {
            setEntered(bar, std::max(bars_.open[bar], entry_));
        }
    }
    void setEntered(std::size_t bar, double price)
    {
        enteredOn_ = bars_.days[bar];
        enteredAt_ = price;
    }

    const TradePlan& plan_;
    const PlanFigures& figures_;
    std::span<const Trade> trades_;
    const market::BarsView& bars_;
    std::size_t first_; ///< the bar at whose close the plan was made
    const TradingTerms& terms_;
    double entry_;
    double stop_;
    bool isFromAbove_ = false;
    bool isBroken_ = false;
    bool isStopped_ = false;
    std::size_t reached_ = 0; ///< targets
    std::optional<Day> enteredOn_;
    double enteredAt_ = missing;
};

/// The bar at whose close something of that day is known: the newest by it, else the first.
std::size_t barOfDay(std::span<const Day> days, Day day)
{
    const auto after = std::ranges::upper_bound(days, day);
    return after == days.begin() ? 0 : static_cast<std::size_t>(after - days.begin()) - 1;
}

/// The plans that were in force by a day, in its prices. What was bought before any is no plan
/// without prices.
std::vector<TradePlan> plansBy(const Entry& entry, const market::Market& market, std::size_t stock,
                               std::size_t bar, Day day)
{
    const std::size_t footing = market.footing(stock, bar);
    std::vector<TradePlan> plans;
    const auto add = [&](TradePlan plan) {
        if (plan.on <= day)
            plans.push_back(onFooting(std::move(plan), market, stock, footing));
    };
    if (entry.plan) {
        std::ranges::for_each(entry.page.formerPlans, add);
        add(*entry.plan);
    }
    const auto& trades = entry.page.trades;
    if (!trades.empty() && trades.front().on <= day &&
        (plans.empty() || trades.front().on < plans.front().on)) {
        TradePlan none;
        none.on = trades.front().on;
        plans.insert(plans.begin(), none);
    }
    return plans;
}

/// Rules of plans, checked into one plan of the engine, each text once.
class PlanRules {
public:
    PlanRules(std::span<const Entry> entries, const language::Names& names) : names_(names)
    {
        for (const Entry& entry : entries) {
            if (!entry.plan)
                continue;
            add(*entry.plan);
            for (const TradePlan& plan : entry.page.formerPlans)
                add(plan);
        }
    }

    struct Rule {
        std::optional<NodeId> node = {};
        bool isCondition = false;
        std::optional<LocatedError> error = {};
    };
    /// Null: there is no rule.
    const Rule* entry(const TradePlan& plan) const { return find(plan.entryRule, Use::Entry); }
    const Rule* stop(const TradePlan& plan) const { return find(plan.stopRule, Use::Stop); }
    const Rule* exit(const TradePlan& plan) const { return find(plan.exitRule, Use::Exit); }
    const engine::Plan& plan() const { return plan_; }

private:
    enum class Use { Entry, Stop, Exit };

    void add(const TradePlan& plan)
    {
        add(plan.entryRule, Use::Entry);
        add(plan.stopRule, Use::Stop);
        add(plan.exitRule, Use::Exit);
    }
    void add(const std::string& text, Use use)
    {
        if (text.empty() || rules_.contains({text, use}))
            return;
        Rule& rule = rules_[{text, use}];
        const auto checked = use == Use::Exit ? language::checkCondition(text, names_, plan_)
                                              : language::check(text, names_, plan_);
        if (!checked) {
            rule.error = checked.error();
            return;
        }
        rule.isCondition = checked->kind == Kind::YesNo;
        if (!(checked->kind == Kind::Number || (rule.isCondition && use != Use::Stop)))
            rule.error = LocatedError{{}, "'" + text + "' is no price", "write lowest(low, 20)"};
        else
            rule.node = checked->node;
    }
    const Rule* find(const std::string& text, Use use) const
    {
        return text.empty() ? nullptr : &rules_.at({text, use});
    }

    language::Names names_;
    engine::Plan plan_;
    std::map<std::pair<std::string, Use>, Rule> rules_;
};

/// A stock's bars from one to another, on the footing of the last.
market::Bars barsFrom(const market::Market& market, std::size_t stock, std::size_t from,
                      std::size_t last)
{
    market::Bars own;
    const std::size_t count = last + 1 - from;
    const market::BarsView& all = market.bars(stock);
    own.days.assign(all.days.begin() + static_cast<std::ptrdiff_t>(from),
                    all.days.begin() + static_cast<std::ptrdiff_t>(last + 1));
    const std::size_t footing = market.footing(stock, last);
    for (const auto& [field, column] : {std::pair{market::BarField::Open, &own.open},
                                        {market::BarField::High, &own.high},
                                        {market::BarField::Low, &own.low},
                                        {market::BarField::Close, &own.close},
                                        {market::BarField::Volume, &own.volume}}) {
        column->resize(count);
        market.adjusted(stock, field, footing, from, *column);
    }
    return own;
}

class Courses {
public:
    Courses(engine::Evaluator& evaluator, const PlanRules& rules, const TradingTerms& terms,
            Day day, const Progress& progress)
        : evaluator_(evaluator), market_(evaluator.market()), rules_(rules), terms_(terms),
          day_(day), progress_(progress)
    {
    }

    PlanCourse of(const Entry& entry) const
    {
        const auto stock = stockOf(entry, market_);
        const auto last = stock ? market::lastBarBy(market_, *stock, day_) : std::nullopt;
        if (!last)
            return {};
        const std::vector<TradePlan> plans = plansBy(entry, market_, *stock, *last, day_);
        if (plans.empty())
            return {};
        const auto& days = market_.bars(*stock).days;
        const std::size_t from = barOfDay(days.first(*last + 1), plans.front().on);
        const market::Bars own = barsFrom(market_, *stock, from, *last);
        std::vector<LocatedError> errors;
        const std::vector<PlanFigures> figures = figuresOf(plans, *stock, from, errors);
        PlanCourse course =
            courseOf(plans, figures, tradesOnFooting(entry.page.trades, market_, *stock, *last),
                     own.view(), terms_);
        course.errors = std::move(errors);
        return course;
    }

private:
    std::vector<PlanFigures> figuresOf(std::span<const TradePlan> plans, std::size_t stock,
                                       std::size_t from, std::vector<LocatedError>& errors) const
    {
        std::vector<PlanFigures> figures(plans.size());
        std::vector<NodeId> nodes;
        std::vector<std::vector<double>*> wanted;
        const auto want = [&](const PlanRules::Rule* rule, std::vector<double>& column) {
            if (rule && rule->error)
                errors.push_back(*rule->error);
            if (!rule || !rule->node)
                return;
            nodes.push_back(*rule->node);
            wanted.push_back(&column);
        };
        for (std::size_t i = 0; i < plans.size(); ++i) {
            want(rules_.entry(plans[i]), figures[i].entry);
            want(rules_.stop(plans[i]), figures[i].stop);
            want(rules_.exit(plans[i]), figures[i].exit);
        }
        if (nodes.empty())
            return figures;
        auto values =
            historiesAsKnown(evaluator_, rules_.plan(), nodes, stock, day_, from, progress_);
        for (std::size_t i = 0; i < values.size(); ++i)
            *wanted[i] = std::move(values[i]);
        for (std::size_t i = 0; i < plans.size(); ++i) {
            figures[i].isEntryCondition =
                !figures[i].entry.empty() && rules_.entry(plans[i])->isCondition;
            if (!figures[i].isEntryCondition)
                bringToLastFooting(figures[i].entry, stock, from);
            bringToLastFooting(figures[i].stop, stock, from);
        }
        return figures;
    }

    /// Prices of each bar's own footing, among those of the last one.
    void bringToLastFooting(std::vector<double>& prices, std::size_t stock, std::size_t from) const
    {
        if (prices.empty())
            return;
        const std::size_t footing = market_.footing(stock, from + prices.size() - 1);
        for (std::size_t i = 0; i < prices.size(); ++i)
            prices[i] *= market_.priceFactor(stock, market_.bars(stock).days[from + i], footing);
    }

    engine::Evaluator& evaluator_;
    const market::Market& market_;
    const PlanRules& rules_;
    const TradingTerms& terms_;
    Day day_;
    const Progress& progress_;
};

} // namespace

std::string_view stateName(PlanState state)
{
    constexpr std::array<std::string_view, 11> names{
        "no plan", "waiting",        "near",         "triggered",     "run too far", "broken",
        "held",    "target reached", "stop reached", "time to leave", "sold"};
    return names.at(static_cast<std::size_t>(state));
}

std::string priceText(double price)
{
    return fmt::format("{:.{}f}", price, price < 1.0 ? 4 : 2);
}

std::string sentenceOf(const StateChange& change)
{
    return change.state == PlanState::TargetReached
               ? fmt::format("target {} reached", change.target)
               : std::string(stateName(change.state));
}

bool operator==(const StateChange& a, const StateChange& b)
{
    return std::tie(a.on, a.state, a.target) == std::tie(b.on, b.state, b.target) &&
           isSameFigure(a.price, b.price) && isSameFigure(a.level, b.level);
}

PlanCourse courseOf(std::span<const TradePlan> plans, std::span<const PlanFigures> figures,
                    std::span<const Trade> trades, const market::BarsView& bars,
                    const TradingTerms& terms)
{
    require(plans.size() == figures.size(), "figures for each plan");
    PlanCourse course;
    for (std::size_t i = 0; i < plans.size() && bars.size() > 0; ++i) {
        const std::size_t first = barOfDay(bars.days, plans[i].on);
        const std::size_t end =
            i + 1 < plans.size() ? barOfDay(bars.days, plans[i + 1].on) : bars.size();
        PlanWalk walk(plans[i], figures[i], trades, bars, first, terms);
        for (std::size_t bar = first; bar < end; ++bar) {
            const StateChange now = walk.step(bar);
            const bool isSame = !course.changes.empty() &&
                                course.changes.back().state == now.state &&
                                course.changes.back().target == now.target;
            if (!isSame)
                course.changes.push_back(now);
        }
        if (first == end || isMissing(plans[i].entry))
            continue;
        course.plan = walk.planNow();
        course.enteredOn = walk.enteredOn();
        course.enteredAt = walk.enteredAt();
    }
    return course;
}

std::vector<PlanCourse> coursesOf(std::span<const Entry> entries, engine::Evaluator& evaluator,
                                  const language::Names& names, const TradingTerms& terms, Day day,
                                  const Progress& progress)
{
    const PlanRules rules(entries, names);
    const Courses courses(evaluator, rules, terms, day, progress);
    std::vector<PlanCourse> all(entries.size());
    inParallel(entries.size(), [&](std::size_t i) {
        if (progress.stopRequested())
            throw Stopped{};
        all[i] = courses.of(entries[i]);
    });
    return all;
}

} // namespace sieve::watchlists
