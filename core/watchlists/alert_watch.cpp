#include "core/watchlists/alert_watch.h"

#include "core/base/parallel.h"
#include "core/market/as_of.h"
#include "core/screens/limits.h"
#include "core/watchlists/as_known.h"

#include <algorithm>
#include <fmt/format.h>
#include <map>

namespace sieve::watchlists {

namespace {

using engine::NodeId;
using What = Alert::What;

/// Something of which an alert may tell: of a stock, or of none.
struct Happening {
    Day on = Day::fromSerial(0);
    std::optional<std::size_t> stock = {};
    double value = missing;
    std::string words = {};
};

/// A condition as it is put to stocks.
struct AlertRule {
    engine::Plan plan;
    NodeId node = 0;
};

/// A stock that an alert is about, on which days; none: on all.
struct Subject {
    std::size_t stock = 0;
    std::optional<std::vector<std::pair<Day, std::optional<Day>>>> stays = {};

    bool isMeantOn(Day day) const
    {
        return !stays || std::ranges::any_of(*stays, [day](const auto& stay) {
            return stay.first <= day && (!stay.second || day < *stay.second);
        });
    }
};

bool isWorthTelling(PlanState state)
{
    return state == PlanState::Near || state == PlanState::Triggered ||
           state == PlanState::RunTooFar || state == PlanState::Broken ||
           state == PlanState::TargetReached || state == PlanState::StopReached ||
           state == PlanState::ExitSaysLeave;
}

const Watchlist* listOf(std::span<const Shared<Watchlist>> lists, std::int64_t id)
{
    const auto found =
        std::ranges::find_if(lists, [id](const auto& list) { return list->id == id; });
    return found == lists.end() ? nullptr : &**found;
}

/// One watch: all alerts over the sessions up to a day.
class Watch {
public:
    Watch(const AlertQuestion& question, engine::Evaluator& evaluator, const language::Names& names,
          Day to, const Progress& progress)
        : question_(question), evaluator_(evaluator), market_(evaluator.market()), names_(names),
          to_(to), progress_(progress)
    {
    }

    std::vector<Happening> of(const Alert& alert) const
    {
        switch (alert.what) {
        case What::Level:
        case What::Rule:
        case What::Report:
            return ofStocks(alert);
        case What::State:
            return ofStates(alert);
        case What::Change:
            return ofChanges(alert);
        case What::Review:
            return ofReviews(alert);
        case What::Market:
            return ofMarket(alert);
        }
        return {};
    }

private:
    // Conditions, bar by bar

    std::vector<Happening> ofStocks(const Alert& alert) const
    {
        const std::optional<AlertRule> rule =
            alert.what == What::Rule ? std::optional(ruleOf(alert.rule)) : std::nullopt;
        std::vector<Happening> all;
        for (const Subject& subject : subjectsOf(alert))
            std::ranges::move(ofStock(alert, rule ? &*rule : nullptr, subject),
                              std::back_inserter(all));
        return all;
    }

    std::vector<Happening> ofStock(const Alert& alert, const AlertRule* rule,
                                   const Subject& subject) const
    {
        const std::size_t stock = subject.stock;
        const auto last = market::lastBarBy(market_, stock, to_);
        if (!last)
            return {};
        const auto days = market_.bars(stock).days.first(*last + 1);
        const auto after = std::ranges::upper_bound(days, alert.since);
        const std::size_t from =
            after == days.begin() ? 0 : static_cast<std::size_t>(after - days.begin()) - 1;
        const std::vector<bool> holds =
            alert.what == What::Level    ? levelHolds(alert, stock, from, *last)
            : alert.what == What::Report ? reportHolds(alert, stock, from)
                                         : ruleHolds(*rule, stock, from);
        std::vector<Happening> happenings;
        for (std::size_t i = 0; i < holds.size(); ++i) {
            const std::size_t bar = from + i;
            if (!holds[i] || days[bar] <= alert.since || !subject.isMeantOn(days[bar]))
                continue;
            const bool isCrossing = i == 0 || !holds[i - 1] || !subject.isMeantOn(days[bar - 1]);
            if (isCrossing || alert.repeat == Alert::Repeat::OnceADay)
                happenings.push_back({days[bar], stock, missing, {}});
        }
        return happenings;
    }

    /// From the side on which the price stood when it was set; prices stand on each bar's footing.
    std::vector<bool> levelHolds(const Alert& alert, std::size_t stock, std::size_t from,
                                 std::size_t last) const
    {
        const market::BarsView& bars = market_.bars(stock);
        std::vector<bool> holds;
        std::optional<bool> isFromBelow;
        for (std::size_t bar = from; bar <= last; ++bar) {
            const double level =
                alert.level * market_.priceFactor(stock, alert.since, market_.footing(stock, bar));
            if (!isFromBelow)
                isFromBelow = bars.close[bar] < level;
            holds.push_back(*isFromBelow ? bars.high[bar] >= level : bars.low[bar] <= level);
        }
        return holds;
    }

    /// By next_report of the language, so that it agrees with the columns.
    std::vector<bool> reportHolds(const Alert& alert, std::size_t stock, std::size_t from) const
    {
        engine::Plan plan;
        const auto checked = language::check("next_report", names_, plan);
        if (!checked)
            throw checked.error();
        const auto values = historiesAsKnown(evaluator_, plan, std::span(&checked->node, 1), stock,
                                             to_, from, progress_);
        std::vector<bool> holds;
        for (std::size_t i = 0; i < values[0].size(); ++i)
            holds.push_back(!isMissing(values[0][i]) &&
                            market_.bars(stock).days[from + i].weekdaysTo(Day::fromSerial(
                                static_cast<std::int32_t>(values[0][i]))) <= alert.days);
        return holds;
    }

    std::vector<bool> ruleHolds(const AlertRule& rule, std::size_t stock, std::size_t from) const
    {
        const auto values = historiesAsKnown(evaluator_, rule.plan, std::span(&rule.node, 1), stock,
                                             to_, from, progress_);
        std::vector<bool> holds;
        for (const double value : values[0])
            holds.push_back(value == 1.0);
        return holds;
    }

    // Events

    std::vector<Happening> ofStates(const Alert& alert) const
    {
        std::vector<Happening> happenings;
        for (const Watchlist* list : listsOf(alert)) {
            const auto courses =
                coursesOf(list->entries, evaluator_, names_, question_.terms, to_, progress_);
            for (std::size_t i = 0; i < courses.size(); ++i) {
                const auto stock = stockOf(list->entries[i], market_);
                for (const StateChange& change : courses[i].changes)
                    if (isWorthTelling(change.state) && change.on > alert.since && stock)
                        happenings.push_back(
                            {change.on, stock, missing,
                             fmt::format("{}: {}", list->name, sentenceOf(change))});
            }
        }
        return happenings;
    }

    std::vector<Happening> ofChanges(const Alert& alert) const
    {
        const Watchlist* list = listOf(question_.lists, alert.about.list);
        const auto days = sessionsSince(alert.since);
        if (!list || days.size() < 2)
            return {};
        const Stays stays = staysOfList(*list, days);
        const auto moved = dayByDay(stays);
        std::vector<Happening> happenings;
        for (std::size_t day = 1; day < days.size(); ++day) {
            std::vector<std::string> told;
            if (!moved[day].came.empty())
                told.push_back("came: " + symbolsOf(moved[day].came, days[day]));
            if (!moved[day].went.empty())
                told.push_back("went: " + symbolsOf(moved[day].went, days[day]));
            if (!told.empty())
                happenings.push_back(
                    {days[day], std::nullopt,
                     static_cast<double>(moved[day].came.size() + moved[day].went.size()),
                     fmt::format("{}: {}", list->name, fmt::join(told, "; "))});
        }
        return happenings;
    }

    std::vector<Happening> ofReviews(const Alert& alert) const
    {
        std::vector<Happening> happenings;
        const auto sessions = market_.sessions();
        for (const Watchlist* list : listsOf(alert))
            for (const Entry& entry : list->entries) {
                if (!entry.page.reviewOn || *entry.page.reviewOn <= alert.since)
                    continue;
                const auto session = std::ranges::lower_bound(sessions, *entry.page.reviewOn);
                if (session != sessions.end() && *session <= to_)
                    happenings.push_back(
                        {*session, stockOf(entry, market_), missing,
                         fmt::format("{}: day of review{}", list->name,
                                     entry.reason.empty() ? std::string()
                                                          : ", “" + entry.reason + "”")});
            }
        return happenings;
    }

    std::vector<Happening> ofMarket(const Alert& alert) const
    {
        if (!question_.reading)
            return {};
        const conditions::Reading& reading = *question_.reading;
        const auto& days = reading.market().bars().days;
        std::vector<Happening> happenings;
        for (std::size_t rule = 0; rule < reading.book.rules.size(); ++rule) {
            const std::string& title = reading.book.rules[rule].title;
            const auto& on = reading.rules[rule].on;
            if (!alert.rule.empty() && alert.rule != title)
                continue;
            for (std::size_t bar = 1; bar < on.size() && bar < days.size(); ++bar)
                if (on[bar] && on[bar - 1] && *on[bar] != *on[bar - 1] && days[bar] > alert.since &&
                    days[bar] <= to_)
                    happenings.push_back(
                        {days[bar], std::nullopt, missing,
                         fmt::format("“{}” is {}", title, *on[bar] ? "on" : "off")});
        }
        std::ranges::stable_sort(happenings, {}, &Happening::on);
        return happenings;
    }

    // Whom it is about

    std::vector<const Watchlist*> listsOf(const Alert& alert) const
    {
        std::vector<const Watchlist*> lists;
        for (const auto& list : question_.lists)
            if (alert.about.list == list->id ||
                (alert.about.list == 0 && !list->isKeptByRule() && !list->head.isArchived))
                lists.push_back(&*list);
        return lists;
    }

    std::vector<Subject> subjectsOf(const Alert& alert) const
    {
        if (!alert.about.symbol.empty()) {
            const auto stock = market_.find(alert.about.symbol, alert.since);
            return stock ? std::vector{Subject{*stock}} : std::vector<Subject>();
        }
        const auto days = sessionsSince(alert.since);
        std::map<std::size_t, Subject> subjects;
        for (const Watchlist* list : listsOf(alert)) {
            const Stays stays = staysOfList(*list, days);
            for (const Stay& stay : stays.stays) {
                Subject& subject = subjects[stay.stock];
                subject.stock = stay.stock;
                if (!subject.stays)
                    subject.stays.emplace();
                subject.stays->emplace_back(days[stay.from], stay.until < days.size()
                                                                 ? std::optional(days[stay.until])
                                                                 : std::nullopt);
            }
        }
        std::vector<Subject> all;
        for (auto& [stock, subject] : subjects)
            all.push_back(std::move(subject));
        return all;
    }

    /// From the newest session by a day on, or from the first.
    std::vector<Day> sessionsSince(Day day) const
    {
        const auto sessions = market_.sessions();
        auto first = std::ranges::upper_bound(sessions, day);
        if (first != sessions.begin())
            --first;
        const auto end = std::ranges::upper_bound(sessions, to_);
        return first < end ? std::vector<Day>(first, end) : std::vector<Day>();
    }

    Stays staysOfList(const Watchlist& list, std::span<const Day> days) const
    {
        if (!list.isKeptByRule())
            return staysByHand(list, market_, days);
        auto stays = staysOf(list.head.screen, names_, evaluator_, days, progress_);
        if (!stays)
            throw stays.error();
        return *std::move(stays);
    }

    AlertRule ruleOf(const std::string& text) const
    {
        AlertRule rule;
        const auto checked = language::checkCondition(text, names_, rule.plan);
        if (!checked)
            throw checked.error();
        rule.node = checked->node;
        return rule;
    }

    std::string symbolsOf(std::span<const std::size_t> stocks, Day day) const
    {
        std::vector<std::string> symbols;
        for (const std::size_t stock : stocks)
            symbols.push_back(market::symbolOn(market_.instrument(stock), day));
        return fmt::format("{}", fmt::join(symbols, ", "));
    }

    const AlertQuestion& question_;
    engine::Evaluator& evaluator_;
    const market::Market& market_;
    const language::Names& names_;
    Day to_;
    const Progress& progress_;
};

/// Those that are told: repeats, hold-off and quiet days taken into account.
std::vector<Happening> toldOf(const Alert& alert, std::vector<Happening> happenings,
                              std::span<const Day> sessions)
{
    std::map<std::optional<std::size_t>, std::ptrdiff_t> last; // session, of each stock
    std::vector<Happening> told;
    std::ranges::stable_sort(happenings, {}, &Happening::on);
    for (Happening& each : happenings) {
        if (alert.quietTo && each.on <= *alert.quietTo)
            continue;
        const auto session = std::ranges::lower_bound(sessions, each.on) - sessions.begin();
        const auto known = last.find(each.stock);
        const bool isTooSoon = known != last.end() &&
                               (alert.repeat == Alert::Repeat::Once ||
                                (alert.holdOff > 0 && session - known->second <= alert.holdOff));
        if (isTooSoon)
            continue;
        last[each.stock] = session;
        told.push_back(std::move(each));
    }
    return told;
}

/// What set it off, as known on its day.
void addValue(Happening& happening, const Alert& alert, engine::Evaluator& evaluator,
              const language::Names& names, const Progress& progress)
{
    const market::Market& market = evaluator.market();
    if (!happening.stock)
        return;
    const auto bar = market::lastBarBy(market, *happening.stock, happening.on);
    if (!bar)
        return;
    const double close = market.bars(*happening.stock).close[*bar];
    if (alert.what == What::Rule) {
        engine::Plan plan;
        const auto limits = screens::limitsOf(alert.rule, names, plan);
        const auto values =
            limits.empty() ? std::vector<double>()
                           : evaluator.histories(plan, std::span(&limits.front().fieldNode, 1),
                                                 *happening.stock, happening.on, progress, *bar)[0];
        happening.value = values.empty() ? close : values.back();
        happening.words = alert.rule;
        return;
    }
    happening.value = close;
    if (alert.what == What::Level)
        happening.words = fmt::format("reached {}", priceText(alert.level));
    if (alert.what == What::Report)
        happening.words = "a report is near";
}

} // namespace

Watched watch(const AlertQuestion& question, engine::Evaluator& evaluator,
              const language::Names& names, Day after, Day to, const Progress& progress)
{
    const market::Market& market = evaluator.market();
    const Watch watch(question, evaluator, names, to, progress);
    std::vector<std::vector<Raised>> raised(question.alerts.size());
    std::vector<std::optional<LocatedError>> errors(question.alerts.size());
    if (market.sessions().empty())
        return {};
    inParallel(question.alerts.size(), [&](std::size_t i) {
        if (progress.stopRequested())
            throw Stopped{};
        const Alert& alert = *question.alerts[i];
        if (!alert.isOn || alert.since >= to)
            return;
        try {
            for (Happening& each : toldOf(alert, watch.of(alert), market.sessions())) {
                if (each.on <= after)
                    continue;
                addValue(each, alert, evaluator, names, progress);
                raised[i].push_back({0, alert.id, each.on,
                                     each.stock
                                         ? market::symbolOn(market.instrument(*each.stock), each.on)
                                         : std::string(),
                                     each.words, each.value});
            }
        } catch (const LocatedError& error) {
            errors[i] = error;
        }
    });
    Watched watched;
    for (std::size_t i = 0; i < raised.size(); ++i) {
        std::ranges::move(raised[i], std::back_inserter(watched.raised));
        if (errors[i])
            watched.errors.emplace_back(question.alerts[i]->id, *errors[i]);
    }
    std::ranges::stable_sort(watched.raised, {}, &Raised::on);
    return watched;
}

std::string sentenceOf(const Alert& alert, std::span<const Shared<Watchlist>> lists)
{
    const Watchlist* list = listOf(lists, alert.about.list);
    const std::string whom = !alert.about.symbol.empty() ? alert.about.symbol
                             : list                      ? "“" + list->name + "”"
                             : alert.about.list != 0     ? "a list that is gone"
                                                         : "all lists";
    switch (alert.what) {
    case What::Level:
        return fmt::format("{} at {}", whom, priceText(alert.level));
    case What::Rule:
        return fmt::format("{}: {}", whom, alert.rule);
    case What::State:
        return fmt::format("{}: a plan comes into another state", whom);
    case What::Change:
        return fmt::format("{}: somebody comes or goes", whom);
    case What::Report:
        return fmt::format("{}: a report within {} weekdays", whom, alert.days);
    case What::Review:
        return fmt::format("{}: a day of review", whom);
    case What::Market:
        return alert.rule.empty() ? std::string("any rule of the market turns")
                                  : fmt::format("the market: “{}” turns", alert.rule);
    }
    return {};
}

} // namespace sieve::watchlists
