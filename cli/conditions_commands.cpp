#include "cli/opened_market.h"
#include "core/conditions/divergence.h"
#include "core/conditions/mosaic.h"
#include "core/conditions/panes.h"
#include "core/conditions/reading.h"
#include "core/storage/file_aside.h"

#include <algorithm>
#include <array>
#include <fmt/format.h>

namespace sieve::cli {

namespace {

using namespace conditions;

Cell figure(double value)
{
    return isMissing(value) ? Cell() : Cell(value);
}

MarketBook bookOf(const Request& request)
{
    if (request.file.empty())
        return standardBook();
    const std::string text = storage::readWhole(request.file);
    auto book = bookFromToml(text);
    if (!book)
        throw InputFault(book.error());
    return *std::move(book);
}

/// What the part of the answer is about: the whole market, or one group of it.
class Asked {
public:
    Asked(const Request& request, const Progress& asProgress)
        : opened(request), day(opened.day(request)), book(bookOf(request)), progress(asProgress)
    {
    }
    const Groups& groups()
    {
        if (!groups_)
            groups_ = readGroups(opened.evaluator(), progress);
        return *groups_;
    }
    std::optional<std::size_t> group(const Request& request)
    {
        if (request.group.empty())
            return std::nullopt;
        const auto found = std::ranges::find(groups().all, request.group, &Group::name);
        if (found == groups().all.end())
            throw InputFault(fmt::format("no sector or industry is called '{}'", request.group));
        return static_cast<std::size_t>(found - groups().all.begin());
    }
    /// The group's line, or those of the market.
    std::vector<Line> lines(const Request& request)
    {
        const auto at = group(request);
        if (!at)
            return marketLines(opened.market(), progress);
        const Group& asked = groups().all[*at];
        return {Line{asked.name, conditionOf(groups(), *at), market::marketOf(asked.line)}};
    }

    OpenedMarket opened;
    Day day;
    MarketBook book;
    const Progress& progress;

private:
    std::optional<Groups> groups_;
};

Answer states(const Request& request, Asked& asked)
{
    Answer answer{{"line", "horizon", "state", "since", "sessions", "level"}, {}};
    for (const Line& line : asked.lines(request)) {
        const auto bar = line.barBy(asked.day);
        for (std::size_t i = 0; i < horizons.size(); ++i) {
            const TrendReading read = readTrend(asked.opened.evaluator(), asked.opened.names(),
                                                line, asked.book.trends[i], asked.progress);
            if (read.error)
                throw InputFault(*read.error);
            auto& row = answer.rows.emplace_back(
                std::vector<Cell>{line.title, std::string(horizonName(horizons[i]))});
            const std::size_t age = bar ? ageInBars(read.history, *bar) : 0;
            if (age > 0) {
                row.emplace_back(std::string(trendName(*read.history[*bar])));
                row.emplace_back(line.bars().days[*bar + 1 - age].iso());
                row.push_back(count(age));
            }
            row.resize(5);
            row.push_back(bar ? figure(line.bars().close[*bar] * line.scaleOn(asked.day)) : Cell());
        }
    }
    return answer;
}

Answer stance(const Request&, Asked& asked)
{
    Answer answer{
        {"what", "text", "holds", "value", "limit", "distance", "turning_close", "share"}, {}};
    const Reading reading = readMarket(asked.opened.evaluator(), asked.opened.names(), asked.book,
                                       asked.progress);
    const auto bar = reading.market().barBy(asked.day);
    const auto add = [&answer](std::vector<Cell> row) {
        row.resize(answer.columns.size());
        answer.rows.push_back(std::move(row));
    };
    add({"stance", reading.market().title, Cell(),
         bar ? figure(reading.stance[*bar]) : Cell()});
    for (std::size_t i = 0; i < reading.rules.size(); ++i) {
        const TimingRule& rule = asked.book.rules[i];
        const RuleHistory& history = reading.rules[i];
        if (history.error)
            throw InputFault(*history.error, history.isErrorInLeave ? rule.leave : rule.enter);
        const bool isKnown = bar && *bar < history.on.size() && history.on[*bar].has_value();
        const bool isOn = isKnown && *history.on[*bar];
        add({"rule", rule.title, isKnown ? Cell(isOn) : Cell(), Cell(), Cell(), Cell(), Cell(),
             rule.standsAside ? Cell() : Cell(rule.share / 100.0)});
        const bool isLeaving = isOn && !rule.leave.empty();
        for (const RulePart& part :
             partsOf(asked.opened.evaluator(), asked.opened.names(), reading.market(),
                     isLeaving ? rule.leave : rule.enter, asked.day, asked.progress))
            add({isLeaving ? "leaves when" : "enters when", part.text,
                 part.holds ? Cell(*part.holds) : Cell(), figure(part.value), figure(part.bound),
                 figure(part.distance), figure(part.turningClose)});
    }
    return answer;
}

Answer stances(const Request&, Asked& asked)
{
    const Reading reading = readMarket(asked.opened.evaluator(), asked.opened.names(), asked.book,
                                       asked.progress);
    Answer answer{{"stance", "sessions", "times", "change", "change_a_year"}, {}};
    if (const auto bar = reading.market().barBy(asked.day))
        for (const StanceSpell& spell :
             stanceSpells(reading.stance, reading.market().bars().close, *bar))
            answer.rows.push_back({spell.stance, count(spell.sessions), count(spell.spells),
                                   figure(spell.change), figure(spell.changeAYear)});
    return answer;
}

Answer breadth(const Request& request, Asked& asked)
{
    Answer answer{{"line", "figure", "value", "day_before", "place_in_ten_years"}, {}};
    std::vector<std::string> texts;
    for (const language::Field& field : language::Vocabulary::builtIn().fields())
        if (field.family == "Breadth")
            texts.push_back(field.name);
    const Line line = asked.lines(request).front();
    const auto bar = line.barBy(asked.day);
    for (const Pane& pane : readPanes(asked.opened.evaluator(), asked.opened.names(), line, texts,
                                      asked.progress))
        answer.rows.push_back({line.title, pane.text,
                               bar ? figure(pane.values[*bar]) : Cell(),
                               bar && *bar > 0 ? figure(pane.values[*bar - 1]) : Cell(),
                               bar ? figure(placeInRange(pane.values, *bar, tenYears)) : Cell()});
    return answer;
}

Answer divergences(const Request& request, Asked& asked)
{
    Answer answer{{"known_on", "sign", "against", "first", "second", "first_value",
                   "second_value", "after_21", "after_63"},
                  {}};
    const Line line = asked.lines(request).front();
    const auto bar = line.barBy(asked.day);
    if (!bar)
        return answer;
    const auto& days = line.bars().days;
    for (const Pane& pane : readPanes(asked.opened.evaluator(), asked.opened.names(), line,
                                      asked.book.panes, asked.progress)) {
        if (pane.error)
            throw InputFault(*pane.error, pane.text);
        for (const DivergenceFound& found :
             findDivergences(line.bars().close, pane.values, *bar))
            answer.rows.push_back(
                {days[found.knownOn].iso(),
                 found.kind == Divergence::Weakening ? "weakening" : "strengthening", pane.text,
                 days[found.first].iso(), days[found.second].iso(), figure(found.firstValue),
                 figure(found.secondValue), figure(found.after21), figure(found.after63)});
    }
    std::ranges::stable_sort(answer.rows, std::greater{},
                             [](const auto& row) { return std::get<std::string>(row[0]); });
    return answer;
}

/// Sectors with their industries, or those of one sector.
Answer groups(const Request& request, Asked& asked)
{
    Answer answer{{"sector", "industry", "figure", "rank", "rank_5", "rank_21", "rank_63",
                   "above_50", "shares"},
                  {}};
    const Groups& all = asked.groups();
    const auto next = std::ranges::upper_bound(all.sessions, asked.day);
    const auto session = static_cast<std::size_t>(next - all.sessions.begin()) - 1;
    GroupFigures figures;
    if (request.figure.empty()) {
        figures = changesOver(all, session, request.span);
    } else {
        auto medians = mediansOf(asked.opened.evaluator(), asked.opened.names(), all,
                                 request.figure, session, asked.progress);
        if (!medians)
            throw InputFault(medians.error(), request.figure);
        figures = *std::move(medians);
    }
    const auto add = [&](const RankedGroup& standing) {
        const Group& group = all.all[standing.group];
        std::vector<Cell> row{group.sector ? all.all[*group.sector].name : group.name,
                              group.sector ? Cell(group.name) : Cell(), figure(standing.figure)};
        for (const auto& rank : standing.ranks)
            row.push_back(rank ? count(*rank) : Cell());
        row.push_back(figure(standing.above));
        row.emplace_back(standing.members);
        answer.rows.push_back(std::move(row));
    };
    const auto chosen = asked.group(request);
    for (const RankedGroup& sector : rankGroups(all, std::nullopt, figures)) {
        if (chosen && *chosen != sector.group && all.all[*chosen].sector != sector.group)
            continue;
        add(sector);
        for (const RankedGroup& industry : rankGroups(all, sector.group, figures))
            if (!chosen || *chosen == sector.group || *chosen == industry.group)
                add(industry);
    }
    return answer;
}

Answer mosaic(const Request& request, Asked& asked)
{
    Answer answer{{"column", "part", "size", "change", "shares"}, {}};
    auto sector = asked.group(request);
    if (sector && asked.groups().all[*sector].sector)
        sector = asked.groups().all[*sector].sector;
    const Mosaic made = marketMosaic(asked.opened.evaluator(), asked.groups(), sector, asked.day,
                                     request.span, asked.progress);
    for (const MosaicColumn& column : made.columns)
        for (const MosaicPart& part : column.parts)
            answer.rows.push_back({column.name, part.name, part.size, figure(part.change),
                                   count(part.shares)});
    return answer;
}

struct Shown {
    const char* name;
    Answer (*make)(const Request&, Asked&);
};
constexpr std::array table{Shown{"states", states},           Shown{"stance", stance},
                           Shown{"stances", stances},         Shown{"breadth", breadth},
                           Shown{"divergences", divergences}, Shown{"groups", groups},
                           Shown{"mosaic", mosaic}};

} // namespace

std::vector<std::string> conditionsShown()
{
    std::vector<std::string> names;
    for (const Shown& shown : table)
        names.emplace_back(shown.name);
    return names;
}

Answer conditions(const Request& request, const Progress& progress)
{
    const auto* shown = std::ranges::find(table, request.show, [](const Shown& each) {
        return std::string_view(each.name);
    });
    if (shown == table.end())
        throw InputFault(fmt::format("'{}' is no part of the market's state", request.show));
    Asked asked(request, progress);
    return shown->make(request, asked);
}

} // namespace sieve::cli
