#include "core/briefing/brief.h"

#include "core/base/require.h"
#include "core/charts/marks.h"
#include "core/market/as_of.h"
#include "core/screens/run.h"
#include "core/watchlists/agenda.h"
#include "core/watchlists/market_call.h"
#include "core/watchlists/plan_course.h"
#include "core/watchlists/stays.h"
#include "core/watchlists/stocks.h"

#include <algorithm>
#include <fmt/format.h>
#include <map>
#include <set>

namespace sieve::briefing {

namespace {

using watchlists::PlanState;

constexpr std::size_t groupSpan = 21;   ///< sessions of the change by which groups are ranked
constexpr std::size_t fewestPlaces = 2; ///< that a group must rise

std::string percent(double share)
{
    return fmt::format("{:+.1f} %", 100.0 * share);
}

std::string shareOfMoney(double share)
{
    return isMissing(share) ? "unknown" : fmt::format("{:.0f} %", 100.0 * share);
}

/// Names, the first few of them.
std::string namesIn(const std::vector<std::string>& names)
{
    constexpr std::size_t most = 10;
    const std::size_t shown = std::min(names.size(), most);
    std::string text = fmt::format(
        "{}", fmt::join(names.begin(), names.begin() + static_cast<std::ptrdiff_t>(shown), ", "));
    if (names.size() > shown)
        text += fmt::format(" and {} more", names.size() - shown);
    return text;
}

/// Two bars of a line: as of which it is compared.
struct BarPair {
    std::size_t then = 0;
    std::size_t now = 0;
};

std::optional<BarPair> barsOf(const conditions::Line& line, Day since, Day day)
{
    const auto then = line.barBy(since);
    const auto now = line.barBy(day);
    return then && now && *now > *then ? std::optional(BarPair{*then, *now}) : std::nullopt;
}

/// The brief while it is made, part by part.
class Making {
public:
    Making(const BriefQuestion& question, engine::Evaluator& evaluator,
           const language::Names& names, Day since, Day day, const Progress& progress)
        : question_(question), work_(question.work), evaluator_(evaluator),
          market_(evaluator.market()), names_(names), since_(since), day_(day), progress_(progress)
    {
    }

    Brief make()
    {
        brief_ = {market_.description().name, since_, day_, {}, {}};
        const std::vector<ListStanding> lists = standings();
        addMarket();
        addStance();
        addStates(lists);
        addAlerts();
        addReports();
        addComing();
        addMoves(lists);
        addGroups();
        addScreens();
        return std::move(brief_);
    }

private:
    bool isNew(Day day) const { return day > since_ && day <= day_; }

    const std::string& symbolOf(std::size_t stock) const
    {
        return market::symbolOn(market_.instrument(stock), day_);
    }

    void add(std::string title, std::vector<Line> lines, Lead lead)
    {
        if (lines.empty())
            return;
        const std::size_t more = lines.size() > mostLines ? lines.size() - mostLines : 0;
        lines.resize(lines.size() - more);
        brief_.parts.push_back({std::move(title), std::move(lines), more, std::move(lead)});
    }

    // The market

    void addMarket()
    {
        const Lead lead{Lead::To::Market};
        std::vector<Line> lines;
        for (const conditions::LineReading& reading : question_.reading.lines) {
            const auto bars = barsOf(reading.line, since_, day_);
            if (!bars)
                continue;
            const auto closes = reading.line.bars().close;
            std::vector<std::string> states;
            for (std::size_t i = 0; i < conditions::horizons.size(); ++i)
                if (const std::string state =
                        turnOf(reading.trends[i].history, *bars, conditions::horizons[i]);
                    !state.empty())
                    states.push_back(state);
            std::string words = percent(closes[bars->now] / closes[bars->then] - 1.0);
            if (!states.empty())
                words += fmt::format("; {}", fmt::join(states, "; "));
            // The market itself is always told, other lines where their state is another one.
            if (lines.empty() || !states.empty())
                lines.push_back({reading.line.title, std::move(words), {}, lead});
        }
        add("Market", std::move(lines), lead);
    }

    /// The state over a horizon, where it is another one than then; else empty.
    static std::string turnOf(const conditions::TrendHistory& history, const BarPair& bars,
                              conditions::Horizon horizon)
    {
        if (bars.now >= history.size() || history[bars.now] == history[bars.then])
            return {};
        const auto name = [](const std::optional<conditions::Trend>& trend) {
            return trend ? conditions::trendName(*trend) : std::string_view("unknown");
        };
        return fmt::format("{} term {}, {} before", conditions::horizonName(horizon),
                           name(history[bars.now]), name(history[bars.then]));
    }

    void addStance()
    {
        const conditions::Reading& reading = question_.reading;
        const Lead lead{Lead::To::Market};
        const auto bars = barsOf(reading.market(), since_, day_);
        if (!bars || bars->now >= reading.stance.size())
            return;
        std::vector<Line> lines;
        const double then = reading.stance[bars->then];
        const double now = reading.stance[bars->now];
        if (isMissing(then) != isMissing(now) || then != now)
            if (!(isMissing(then) && isMissing(now)))
                lines.push_back({"Stance",
                                 fmt::format("{} of the money may be at work, {} before",
                                             shareOfMoney(now), shareOfMoney(then)),
                                 {},
                                 lead});
        for (std::size_t rule = 0; rule < reading.rules.size(); ++rule)
            if (auto line = turnedRule(reading.book.rules[rule], reading.rules[rule], *bars))
                lines.push_back(*std::move(line));
        const auto callThen = watchlists::marketCallOn(reading, *work_.terms, since_);
        const auto callNow = watchlists::marketCallOn(reading, *work_.terms, day_);
        if (callNow && (!callThen || callThen->saysLeave != callNow->saysLeave))
            if (callThen || callNow->saysLeave)
                lines.push_back({"Leave the market",
                                 callNow->saysLeave ? "your rule says so" : "no longer",
                                 callNow->since, lead});
        add("Stance", std::move(lines), lead);
    }

    std::optional<Line> turnedRule(const conditions::TimingRule& rule,
                                   const conditions::RuleHistory& history, BarPair bars) const
    {
        if (bars.now >= history.on.size() || !history.on[bars.now] || !history.on[bars.then] ||
            *history.on[bars.now] == *history.on[bars.then])
            return std::nullopt;
        std::size_t first = bars.now;
        while (history.on[first - 1] == history.on[bars.now])
            --first;
        return Line{rule.title,
                    *history.on[bars.now] ? "on now" : "off now",
                    question_.reading.market().bars().days[first],
                    {Lead::To::Market}};
    }

    // The person's stocks

    /// A list with its entries by the day, and how they stand.
    struct ListStanding {
        const watchlists::Watchlist* list = nullptr;
        std::vector<watchlists::Entry> entries = {};
        std::vector<watchlists::PlanCourse> courses = {};
        watchlists::ComingsAndGoings moved = {}; ///< of one that a screen keeps
    };

    std::vector<ListStanding> standings()
    {
        std::vector<ListStanding> all;
        for (const auto& list : work_.lists) {
            if (list->head.isArchived)
                continue;
            ListStanding& standing = all.emplace_back(ListStanding{&*list});
            for (const watchlists::Entry& entry : list->entries)
                if (entry.addedOn <= day_)
                    standing.entries.push_back(entry);
            if (list->isKeptByRule())
                keepMembers(standing);
            standing.courses = watchlists::coursesOf(standing.entries, evaluator_, names_,
                                                     *work_.terms, day_, progress_);
        }
        return all;
    }

    /// Of a list that a screen keeps: who came and went, and what was written to those on it.
    void keepMembers(ListStanding& standing)
    {
        std::vector<Day> days{day_};
        if (since_ < day_)
            days.insert(days.begin(), since_);
        const auto stays =
            watchlists::staysOf(standing.list->head.screen, names_, evaluator_, days, progress_);
        if (!stays) {
            brief_.faults.push_back(
                fmt::format("{}: {}", standing.list->name, sentence(stays.error())));
            standing.entries.clear();
            return;
        }
        standing.moved = watchlists::between(*stays, 0, days.size() - 1);
        std::set<std::size_t> members;
        for (const watchlists::Stay& stay : watchlists::membersOn(*stays, days.size() - 1))
            members.insert(stay.stock);
        std::erase_if(standing.entries, [&](const watchlists::Entry& entry) {
            const auto stock = watchlists::stockOf(entry, market_);
            return !stock || !members.contains(*stock);
        });
    }

    void addStates(std::span<const ListStanding> lists)
    {
        // A stock with one plan on several lists is told once.
        std::map<std::tuple<int, std::string, std::string, Day>, Line> lines;
        for (const ListStanding& standing : lists)
            for (std::size_t i = 0; i < standing.entries.size(); ++i) {
                const auto& changes = standing.courses[i].changes;
                const PlanState then = stateOn(changes, since_);
                if (changes.empty() || !isWorth(then, changes.back()))
                    continue;
                const auto stock = watchlists::stockOf(standing.entries[i], market_);
                if (!stock)
                    continue;
                const std::string& symbol = symbolOf(*stock);
                const std::string words = wordsOf(changes.back(), then);
                const auto [known, isFresh] = lines.emplace(
                    std::tuple(urgencyOf(changes.back().state), symbol, words, changes.back().on),
                    Line{symbol,
                         words + " · " + standing.list->name,
                         changes.back().on,
                         {Lead::To::Stock, symbol, standing.list->id}});
                if (!isFresh)
                    known->second.words += ", " + standing.list->name;
            }
        std::vector<Line> ordered;
        for (auto& [key, line] : lines)
            ordered.push_back(std::move(line));
        add("Your stocks", std::move(ordered), {});
    }

    static PlanState stateOn(std::span<const watchlists::StateChange> changes, Day day)
    {
        PlanState state = PlanState::None;
        for (const watchlists::StateChange& change : changes)
            if (change.on <= day)
                state = change.state;
        return state;
    }

    /// What the person did (a purchase, a sale, a new plan) is no news.
    bool isWorth(PlanState then, const watchlists::StateChange& now) const
    {
        const bool isOwnDeed = now.state == PlanState::None || now.state == PlanState::Held ||
                               now.state == PlanState::Sold ||
                               (now.state == PlanState::Waiting && then == PlanState::None);
        return isNew(now.on) && !isOwnDeed &&
               (now.state != then || now.state == PlanState::TargetReached);
    }

    /// What asks for a deed stands first.
    static int urgencyOf(PlanState state)
    {
        switch (state) {
        case PlanState::StopReached:
            return 0;
        case PlanState::ExitSaysLeave:
            return 1;
        case PlanState::TargetReached:
            return 2;
        case PlanState::Triggered:
            return 3;
        case PlanState::Near:
            return 4;
        default:
            return 5;
        }
    }

    static std::string wordsOf(const watchlists::StateChange& change, PlanState then)
    {
        std::string words = watchlists::sentenceOf(change);
        if (!isMissing(change.level))
            words += " at " + watchlists::priceText(change.level);
        if (!isMissing(change.price))
            words += ", close " + watchlists::priceText(change.price);
        if (then != PlanState::None && then != change.state)
            words += fmt::format(" ({} before)", watchlists::stateName(then));
        return words;
    }

    void addAlerts()
    {
        std::vector<Line> lines;
        for (const watchlists::Raised& raised : question_.raised)
            if (isNew(raised.on))
                lines.push_back({raised.symbol.empty() ? "Market" : raised.symbol, raised.words,
                                 raised.on, leadOf(raised)});
        std::ranges::stable_sort(lines, std::greater(), [](const Line& line) { return *line.on; });
        add("Alerts", std::move(lines), {Lead::To::Alerts});
    }

    /// The stock by the symbol of today, which may be another one than on the day of the alert.
    Lead leadOf(const watchlists::Raised& raised) const
    {
        const auto stock =
            raised.symbol.empty()
                ? std::nullopt
                : watchlists::stockOf(watchlists::Entry{raised.symbol, raised.on}, market_);
        return stock ? Lead{Lead::To::Stock, symbolOf(*stock)} : Lead{Lead::To::Alerts};
    }

    /// Those the person follows, as a list, and the lists kept by hand.
    std::vector<Shared<watchlists::Watchlist>> listsWatched() const
    {
        std::vector<Shared<watchlists::Watchlist>> lists = library::listsByHand(work_);
        watchlists::Watchlist followed{0, "followed", {}, {}};
        for (const watchlists::Followed& each : work_.weighing->followed)
            if (each.on <= day_)
                followed.entries.push_back({each.of, each.on});
        lists.emplace_back(std::move(followed));
        return lists;
    }

    void addReports()
    {
        std::set<std::size_t> stocks;
        for (const auto& list : listsWatched())
            for (const watchlists::Entry& entry : list->entries)
                if (const auto stock = watchlists::stockOf(entry, market_);
                    stock && entry.addedOn <= day_)
                    stocks.insert(*stock);
        std::vector<std::pair<Day, std::size_t>> fresh; // the newest report of each
        for (const std::size_t stock : stocks)
            for (const market::Report& report : market_.statements(stock).reports())
                if (isNew(report.knownOn) && (fresh.empty() || fresh.back().second != stock ||
                                              fresh.back().first < report.knownOn)) {
                    if (!fresh.empty() && fresh.back().second == stock)
                        fresh.pop_back();
                    fresh.emplace_back(report.knownOn, stock);
                }
        std::ranges::stable_sort(fresh, std::greater(),
                                 [](const auto& each) { return each.first; });
        std::vector<Line> lines; // only of those that are told is it asked what they said
        for (const auto& [knownOn, stock] : fresh) {
            if (progress_.stopRequested())
                throw Stopped{};
            if (lines.size() < mostLines)
                for (const charts::Mark& mark : reportsOf(stock))
                    lines.push_back(
                        {symbolOf(stock), mark.text, mark.day, {Lead::To::Stock, symbolOf(stock)}});
            else
                lines.push_back({symbolOf(stock), {}, knownOn});
        }
        add("Reported", std::move(lines), {});
    }

    std::vector<charts::Mark> reportsOf(std::size_t stock) const
    {
        const market::AsOf asOf(evaluator_.marketPtr(), day_);
        const market::Bars bars = asOf.adjustedBars(stock);
        if (bars.days.empty())
            return {};
        constexpr charts::MarkKind kind = charts::MarkKind::Report;
        auto marks =
            charts::marksOf({evaluator_, names_, stock, day_, bars, bars.days.front(), {}, true},
                            std::span(&kind, 1), progress_);
        std::erase_if(marks, [this](const charts::Mark& mark) { return !isNew(mark.day); });
        return marks;
    }

    void addComing()
    {
        const auto lists = listsWatched();
        std::vector<Line> lines;
        for (const watchlists::AgendaItem& item : watchlists::agendaOf(
                 lists, market_, day_, since_.plusDays(1), day_.plusDays(daysAhead))) {
            const bool isReview = item.what == watchlists::AgendaItem::What::Review;
            if (item.on <= day_ && !isReview)
                continue;
            std::string words(watchlists::whatName(item.what));
            if (!item.words.empty())
                words += ", " + item.words;
            words += fmt::format(" · {}", fmt::join(item.lists, ", "));
            lines.push_back(
                {item.symbol, std::move(words), item.on,
                 item.stock ? Lead{Lead::To::Stock, item.symbol} : Lead{Lead::To::Agenda}});
        }
        add("Coming days", std::move(lines), {Lead::To::Agenda});
    }

    void addMoves(std::span<const ListStanding> lists)
    {
        std::vector<Line> lines;
        for (const ListStanding& standing : lists) {
            std::vector<std::string> words;
            for (const auto& [word, stocks] : {std::pair("came", &standing.moved.came),
                                               std::pair("went", &standing.moved.went)}) {
                std::vector<std::string> symbols;
                for (const std::size_t stock : *stocks)
                    symbols.push_back(symbolOf(stock));
                if (!symbols.empty())
                    words.push_back(
                        fmt::format("{} {}: {}", symbols.size(), word, namesIn(symbols)));
            }
            if (!words.empty())
                lines.push_back({standing.list->name,
                                 fmt::format("{}", fmt::join(words, "; ")),
                                 {},
                                 {Lead::To::List, {}, standing.list->id}});
        }
        add("Lists", std::move(lines), {});
    }

    // What leads, and what the screens find

    void addGroups()
    {
        const auto& sessions = question_.groups.sessions;
        const auto at = [&sessions](Day day) {
            return static_cast<std::size_t>(std::ranges::upper_bound(sessions, day) -
                                            sessions.begin());
        };
        if (at(since_) == 0 || at(day_) <= at(since_))
            return;
        const auto then = conditions::changesOver(question_.groups, at(since_) - 1, groupSpan);
        const auto now = conditions::changesOver(question_.groups, at(day_) - 1, groupSpan);
        std::vector<Line> lines = risenAmong(false, then, now);
        std::ranges::move(risenAmong(true, then, now), std::back_inserter(lines));
        add("Groups that moved up", std::move(lines), {Lead::To::Market});
    }

    std::vector<Line> risenAmong(bool areIndustries, const conditions::GroupFigures& then,
                                 const conditions::GroupFigures& now) const
    {
        struct Risen {
            std::size_t group = 0;
            std::size_t from = 0;
            std::size_t to = 0;
        };
        const auto ranksThen = ranksBy(then, areIndustries);
        const auto ranksNow = ranksBy(now, areIndustries);
        const std::size_t all = ranksNow.size();
        std::vector<Risen> risen;
        for (const auto& [group, rank] : ranksNow) {
            const auto before = ranksThen.find(group);
            if (before == ranksThen.end() || 3 * rank > all)
                continue;
            if (before->second >= rank + std::max(fewestPlaces, all / 8))
                risen.push_back({group, before->second, rank});
        }
        std::ranges::stable_sort(risen, std::greater(),
                                 [](const Risen& each) { return each.from - each.to; });
        risen.resize(std::min(risen.size(), mostLines / 2));
        std::vector<Line> lines;
        for (const Risen& each : risen)
            lines.push_back({question_.groups.all[each.group].name,
                             fmt::format("{} {} of {} by its change over a month ({}), {} before",
                                         areIndustries ? "industry" : "sector", each.to, all,
                                         percent(now.values[each.group].back()), each.from),
                             {},
                             {Lead::To::Group, question_.groups.all[each.group].name}});
        return lines;
    }

    /// The rank of each sector, or each industry, that has a figure; equal ones share the better.
    std::map<std::size_t, std::size_t> ranksBy(const conditions::GroupFigures& figures,
                                               bool areIndustries) const
    {
        std::vector<std::pair<double, std::size_t>> known;
        for (std::size_t group = 0; group < figures.values.size(); ++group)
            if (question_.groups.all[group].sector.has_value() == areIndustries &&
                !isMissing(figures.values[group].back()))
                known.emplace_back(-figures.values[group].back(), group);
        std::ranges::sort(known);
        std::map<std::size_t, std::size_t> ranks;
        for (std::size_t i = 0; i < known.size(); ++i)
            ranks[known[i].second] =
                i > 0 && known[i].first == known[i - 1].first ? ranks[known[i - 1].second] : i + 1;
        return ranks;
    }

    void addScreens()
    {
        const std::array days{since_, day_};
        std::vector<Line> lines;
        for (const auto& screen : work_.screens) {
            const auto passing =
                screens::passingOver(screen->screen, names_, evaluator_, days, progress_);
            if (passing[0] != passing[1])
                lines.push_back({screen->screen.name,
                                 fmt::format("{} pass, {} before", passing[1], passing[0]),
                                 {},
                                 {Lead::To::Screen, screen->screen.name}});
        }
        add("Your screens", std::move(lines), {});
    }

    const BriefQuestion& question_;
    const library::Work& work_;
    engine::Evaluator& evaluator_;
    const market::Market& market_;
    const language::Names& names_;
    Day since_;
    Day day_;
    const Progress& progress_;
    Brief brief_;
};

/// The newest session by a day; the first where there is none.
Day sessionBy(const market::Market& market, Day day)
{
    const auto sessions = market.sessions();
    const auto after = std::ranges::upper_bound(sessions, day);
    return after == sessions.begin() ? sessions.front() : *(after - 1);
}

} // namespace

Brief makeBrief(const BriefQuestion& question, engine::Evaluator& evaluator,
                const language::Names& names, Day since, Day day, const Progress& progress)
{
    const market::Market& market = evaluator.market();
    require(!market.sessions().empty(), "makeBrief: a market without a session");
    const Day to = sessionBy(market, day);
    return Making(question, evaluator, names, std::min(sessionBy(market, since), to), to, progress)
        .make();
}

std::optional<Day> sessionBefore(const market::Market& market, Day day)
{
    const auto sessions = market.sessions();
    const auto after = std::ranges::upper_bound(sessions, day);
    if (after - sessions.begin() < 2)
        return std::nullopt;
    return *(after - 2);
}

} // namespace sieve::briefing
