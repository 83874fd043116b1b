#include "core/studies/study_files.h"

#include "core/base/toml_table.h"

#include <array>

namespace sieve::studies {

namespace {

constexpr std::string_view remedy = "see docs/studies.md for what a study's file holds";

/// The screen that a study is about: one with a name, or criteria that stand beside it.
screens::Screen screenUnder(const toml::table& table, const ScreenNamed& screenNamed)
{
    const auto name = valueOr<std::string>(table, "screen", {});
    const auto criteria = textsOf(table, "criteria");
    if (name.empty() == criteria.empty())
        failAt(table.source(), "there is no screen and no criterion, or there are both",
               "write screen = \"a name\" or criteria = [\"a condition\"]");
    screens::Screen screen;
    if (!name.empty()) {
        const auto found = screenNamed(name);
        if (!found)
            failAt(table.get("screen")->source(), fmt::format("there is no screen '{}'", name),
                   "write the name of a ready screen or of one of yours");
        screen = *found;
    }
    for (const std::string& text : criteria)
        screen.criteria.push_back({text});
    if (table.contains("name"))
        screen.name = valueOr<std::string>(table, "name", {});
    if (table.contains("universe"))
        screen.universe = valueOr<std::string>(table, "universe", {});
    return screen;
}

int wholeNumberOr(const toml::table& table, std::string_view key, int initial, int least, int most)
{
    const auto number = valueOr<std::int64_t>(table, key, initial);
    if (number < least || number > most)
        failAt(table.get(key)->source(), fmt::format("'{}' is {}", key, number),
               fmt::format("write a number from {} to {}", least, most));
    return static_cast<int>(number);
}

std::uint64_t seedUnder(const toml::table& table)
{
    const auto seed = valueOr<std::int64_t>(table, "seed", 1);
    if (seed < 0)
        failAt(table.get("seed")->source(), "'seed' is below 0", "write seed = 1");
    return static_cast<std::uint64_t>(seed);
}

std::vector<int> horizonsUnder(const toml::table& table)
{
    std::vector<int> horizons;
    const toml::node* node = table.get("horizons");
    if (!node)
        return FollowingQuestion{}.horizons;
    const toml::array* array = node->as_array();
    for (std::size_t i = 0; array && i < array->size(); ++i) {
        const auto bars = array->get(i)->value_exact<std::int64_t>();
        if (!bars || *bars < 1 || *bars > longestHorizon) {
            array = nullptr;
            break;
        }
        horizons.push_back(static_cast<int>(*bars));
    }
    if (!array)
        failAt(node->source(), "'horizons' is no list of numbers of bars",
               "write horizons = [1, 5, 20, 60]");
    return horizons;
}

std::optional<Day> asideUnder(const toml::table& table)
{
    return table.contains("set_aside") ? std::optional(dayUnder(table, "set_aside")) : std::nullopt;
}

FollowingQuestion followingUnder(const toml::table& table, const ScreenNamed& screenNamed)
{
    refuseOthers(table, "a study of what followed",
                 {"name", "screen", "criteria", "universe", "horizons", "from", "to", "set_aside",
                  "bought", "dividends", "every_match", "strengths", "resamples", "picks", "seed"});
    FollowingQuestion question;
    question.screen = screenUnder(table, screenNamed);
    question.horizons = horizonsUnder(table);
    if (table.contains("from"))
        question.from = dayUnder(table, "from");
    question.to = table.contains("to") ? dayUnder(table, "to") : lastDay();
    question.setAside = asideUnder(table);
    const auto bought = valueOr<std::string>(table, "bought", "next open");
    if (bought != "next open" && bought != "close")
        failAt(table.get("bought")->source(), fmt::format("nothing is bought at '{}'", bought),
               "write bought = \"next open\" or \"close\"");
    question.boughtAt = bought == "close" ? BoughtAt::Close : BoughtAt::NextOpen;
    question.dividends =
        valueOr(table, "dividends", true) ? Dividends::Reinvested : Dividends::LeftOut;
    question.isEveryMatch = valueOr(table, "every_match", false);
    question.strengths = textsOf(table, "strengths");
    question.resamples = wholeNumberOr(table, "resamples", question.resamples, 100, 100'000);
    question.picks = wholeNumberOr(table, "picks", question.picks, 0, 100'000);
    question.seed = seedUnder(table);
    return question;
}

StandingsTerms standingsUnder(const toml::table& table)
{
    refuseOthers(table, "standings",
                 {"screens", "written_out", "from", "to", "one_start", "newest", "every", "held",
                  "best", "weights", "dividends", "picks", "seed"});
    StandingsTerms terms;
    terms.screens = textsOf(table, "screens");
    for (const std::string& text : textsOf(table, "written_out")) {
        auto screen = screens::screenFromToml(text);
        if (!screen)
            failAt(table.get("written_out")->source(), screen.error().problem,
                   screen.error().remedy);
        terms.writtenOut.push_back(*std::move(screen));
    }
    if (table.contains("from"))
        terms.from = dayUnder(table, "from");
    if (table.contains("to"))
        terms.to = dayUnder(table, "to");
    terms.isOneStart = valueOr(table, "one_start", false);
    if (table.contains("newest"))
        terms.newest = wholeNumberOr(table, "newest", 1, 1, static_cast<int>(mostStarts));
    terms.every = wholeNumberOr(table, "every", 1, 1, 1000);
    if (table.contains("held"))
        terms.held = wholeNumberOr(table, "held", 1, 1, longestHorizon);
    terms.best = wholeNumberOr(table, "best", 0, 0, 10'000);
    terms.weights = valueOr<std::string>(table, "weights", {});
    terms.dividends =
        valueOr(table, "dividends", true) ? Dividends::Reinvested : Dividends::LeftOut;
    terms.picks = wholeNumberOr(table, "picks", terms.picks, 0, 100'000);
    terms.seed = seedUnder(table);
    return terms;
}

constexpr std::array<std::string_view, 4> periods{"session", "week", "month", "condition"};
constexpr std::array<std::string_view, 3> fillings{"next open", "next close", "limit"};

template <std::size_t count> std::size_t wordUnder(const toml::table& table, std::string_view key,
                                                   const std::array<std::string_view, count>& words,
                                                   std::size_t initial)
{
    const auto word = valueOr<std::string>(table, key, std::string(words[initial]));
    const auto at = std::ranges::find(words, word);
    if (at == words.end())
        failAt(table.get(key)->source(), fmt::format("'{}' is no {}", word, key),
               fmt::format("one of {}", fmt::join(words, ", ")));
    return static_cast<std::size_t>(at - words.begin());
}

PortfolioStep stepUnder(const toml::table& table, const ScreenNamed& screenNamed)
{
    refuseOthers(table, "a step",
                 {"when", "cash", "name", "screen", "criteria", "universe", "rank_by",
                  "smallest_first", "side", "hold", "keep_within", "weight_by", "share"});
    PortfolioStep step;
    step.when = valueOr<std::string>(table, "when", {});
    step.isCash = valueOr(table, "cash", false);
    if (!step.isCash)
        step.screen = screenUnder(table, screenNamed);
    if (table.contains("rank_by"))
        step.screen.rankBy = valueOr<std::string>(table, "rank_by", {});
    constexpr std::array<std::string_view, 2> sides{"long", "short"};
    const std::size_t own = step.screen.side == screens::ScreenSide::Short ? 1 : 0;
    step.screen.side = wordUnder(table, "side", sides, own) == 1 ? screens::ScreenSide::Short
                                                                 : screens::ScreenSide::Long;
    step.isSmallestFirst = valueOr(table, "smallest_first", false);
    step.hold = wholeNumberOr(table, "hold", step.hold, 1, mostHeld);
    step.keepWithin = wholeNumberOr(table, "keep_within", 0, 0, mostHeld);
    step.weightBy = valueOr<std::string>(table, "weight_by", {});
    step.share = numberOr(table, "share", step.share);
    return step;
}

const toml::table& partOf(const toml::table& table, std::string_view key)
{
    static const toml::table none;
    const toml::node* node = table.get(key);
    if (node && !node->is_table())
        failAt(node->source(), fmt::format("'{}' is no table", key),
               fmt::format("begin it with [{}]", key));
    return node ? *node->as_table() : none;
}

Rebalancing rebalancingUnder(const toml::table& table)
{
    refuseOthers(table, "rebalancing", {"by", "every", "condition", "reweigh"});
    Rebalancing told;
    told.by = static_cast<Rebalancing::By>(
        wordUnder(table, "by", periods, static_cast<std::size_t>(told.by)));
    told.every = wholeNumberOr(table, "every", 1, 1, 10'000);
    told.condition = valueOr<std::string>(table, "condition", {});
    told.isReweighing = valueOr(table, "reweigh", true);
    return told;
}

Exits exitsUnder(const toml::table& table)
{
    refuseOthers(table, "exits",
                 {"stop", "trailing", "target", "sessions", "on_stock", "on_market"});
    Exits told;
    told.stop = numberOr(table, "stop", 0.0);
    told.trailing = numberOr(table, "trailing", 0.0);
    told.target = numberOr(table, "target", 0.0);
    told.sessions = wholeNumberOr(table, "sessions", 0, 0, 100'000);
    told.onStock = valueOr<std::string>(table, "on_stock", {});
    told.onMarket = valueOr<std::string>(table, "on_market", {});
    return told;
}

Trading tradingUnder(const toml::table& table)
{
    refuseOthers(table, "trading",
                 {"money", "filled_at", "limit", "cost_an_order", "cost_share", "slippage",
                  "of_volume", "whole_shares", "dividends", "borrowing", "delisted_worth"});
    Trading told;
    told.money = numberOr(table, "money", told.money);
    told.filledAt = static_cast<Trading::FilledAt>(wordUnder(table, "filled_at", fillings, 0));
    told.limit = numberOr(table, "limit", told.limit);
    told.costAnOrder = numberOr(table, "cost_an_order", told.costAnOrder);
    told.costShare = numberOr(table, "cost_share", told.costShare);
    told.slippage = numberOr(table, "slippage", told.slippage);
    told.ofVolume = numberOr(table, "of_volume", told.ofVolume);
    told.isWhole = valueOr(table, "whole_shares", told.isWhole);
    told.hasDividends = valueOr(table, "dividends", told.hasDividends);
    told.borrowing = numberOr(table, "borrowing", told.borrowing);
    told.delistedWorth = numberOr(table, "delisted_worth", told.delistedWorth);
    return told;
}

PortfolioRule portfolioUnder(const toml::table& table, const ScreenNamed& screenNamed)
{
    refuseOthers(table, "a portfolio by rule",
                 {"from", "to", "set_aside", "step", "rebalancing", "exits", "trading"});
    PortfolioRule rule;
    if (table.contains("from"))
        rule.from = dayUnder(table, "from");
    rule.to = table.contains("to") ? dayUnder(table, "to") : lastDay();
    rule.setAside = asideUnder(table);
    for (const toml::table* step : tablesOf(table, "step"))
        rule.steps.push_back(stepUnder(*step, screenNamed));
    if (rule.steps.empty())
        failAt(table.source(), "there is no step", "begin one with [[step]]");
    rule.rebalancing = rebalancingUnder(partOf(table, "rebalancing"));
    rule.exits = exitsUnder(partOf(table, "exits"));
    rule.trading = tradingUnder(partOf(table, "trading"));
    return rule;
}

/// What screenUnder() reads.
std::string screenToml(const screens::Screen& screen)
{
    std::vector<std::string> criteria;
    for (const screens::Criterion& criterion : screen.criteria)
        if (criterion.isOn)
            criteria.push_back(criterion.text);
    std::string text;
    if (!screen.name.empty())
        text += fmt::format("name = {}\n", quotedToml(screen.name));
    text += fmt::format("criteria = {}\n", quotedToml(criteria));
    if (!screen.universe.empty())
        text += fmt::format("universe = {}\n", quotedToml(screen.universe));
    return text;
}

std::string stepToml(const PortfolioStep& step)
{
    std::string text = "\n[[step]]\n";
    const auto addText = [&](const char* key, const std::string& value) {
        if (!value.empty())
            text += fmt::format("{} = {}\n", key, quotedToml(value));
    };
    addText("when", step.when);
    if (step.isCash)
        return text + "cash = true\n";
    text += screenToml(step.screen);
    addText("rank_by", step.screen.rankBy);
    text += fmt::format("smallest_first = {}\nside = \"{}\"\nhold = {}\nkeep_within = {}\n",
                        step.isSmallestFirst,
                        step.screen.side == screens::ScreenSide::Short ? "short" : "long",
                        step.hold, step.keepWithin);
    addText("weight_by", step.weightBy);
    return text + fmt::format("share = {}\n", step.share);
}

} // namespace

Day lastDay()
{
    return *Day::parse("9999-12-31");
}

Result<FollowingQuestion> followingFromToml(std::string_view toml, const ScreenNamed& screenNamed)
{
    return readToml(toml, std::string(remedy),
                    [&](const toml::table& table) { return followingUnder(table, screenNamed); });
}

std::string toToml(const FollowingQuestion& question)
{
    std::string text = screenToml(question.screen);
    text += fmt::format("horizons = [{}]\n", fmt::join(question.horizons, ", "));
    if (question.from != Day::fromSerial(0))
        text += fmt::format("from = \"{}\"\n", question.from.iso());
    if (question.to != lastDay())
        text += fmt::format("to = \"{}\"\n", question.to.iso());
    if (question.setAside)
        text += fmt::format("set_aside = \"{}\"\n", question.setAside->iso());
    text += fmt::format("bought = \"{}\"\n",
                        question.boughtAt == BoughtAt::Close ? "close" : "next open");
    text += fmt::format("dividends = {}\nevery_match = {}\n",
                        question.dividends == Dividends::Reinvested, question.isEveryMatch);
    if (!question.strengths.empty())
        text += fmt::format("strengths = {}\n", quotedToml(question.strengths));
    return text + fmt::format("resamples = {}\npicks = {}\nseed = {}\n", question.resamples,
                              question.picks, question.seed);
}

Result<StandingsTerms> standingsFromToml(std::string_view toml)
{
    return readToml(toml, std::string(remedy), standingsUnder);
}

std::string toToml(const StandingsTerms& terms)
{
    std::string text;
    if (!terms.screens.empty())
        text += fmt::format("screens = {}\n", quotedToml(terms.screens));
    if (!terms.writtenOut.empty()) {
        std::vector<std::string> texts;
        for (const screens::Screen& screen : terms.writtenOut)
            texts.push_back(toToml(screen));
        text += fmt::format("written_out = {}\n", quotedToml(texts));
    }
    if (terms.from)
        text += fmt::format("from = \"{}\"\n", terms.from->iso());
    if (terms.to)
        text += fmt::format("to = \"{}\"\n", terms.to->iso());
    text += fmt::format("one_start = {}\n", terms.isOneStart);
    if (terms.newest)
        text += fmt::format("newest = {}\n", *terms.newest);
    text += fmt::format("every = {}\n", terms.every);
    if (terms.held)
        text += fmt::format("held = {}\n", *terms.held);
    text += fmt::format("best = {}\n", terms.best);
    if (!terms.weights.empty())
        text += fmt::format("weights = {}\n", quotedToml(terms.weights));
    return text + fmt::format("dividends = {}\npicks = {}\nseed = {}\n",
                              terms.dividends == Dividends::Reinvested, terms.picks, terms.seed);
}

Result<PortfolioRule> portfolioFromToml(std::string_view toml, const ScreenNamed& screenNamed)
{
    return readToml(toml, std::string(remedy),
                    [&](const toml::table& table) { return portfolioUnder(table, screenNamed); });
}

std::string toToml(const PortfolioRule& rule)
{
    std::string text;
    if (rule.from != Day::fromSerial(0))
        text += fmt::format("from = \"{}\"\n", rule.from.iso());
    if (rule.to != lastDay())
        text += fmt::format("to = \"{}\"\n", rule.to.iso());
    if (rule.setAside)
        text += fmt::format("set_aside = \"{}\"\n", rule.setAside->iso());
    for (const PortfolioStep& step : rule.steps)
        text += stepToml(step);
    text +=
        fmt::format("\n[rebalancing]\nby = \"{}\"\nevery = {}\ncondition = {}\nreweigh = {}\n",
                    periods[static_cast<std::size_t>(rule.rebalancing.by)], rule.rebalancing.every,
                    quotedToml(rule.rebalancing.condition), rule.rebalancing.isReweighing);
    const Exits& exits = rule.exits;
    text += fmt::format("\n[exits]\nstop = {}\ntrailing = {}\ntarget = {}\nsessions = {}\n"
                        "on_stock = {}\non_market = {}\n",
                        exits.stop, exits.trailing, exits.target, exits.sessions,
                        quotedToml(exits.onStock), quotedToml(exits.onMarket));
    const Trading& trading = rule.trading;
    return text +
           fmt::format("\n[trading]\nmoney = {}\nfilled_at = \"{}\"\nlimit = {}\n"
                       "cost_an_order = {}\ncost_share = {}\nslippage = {}\nof_volume = {}\n"
                       "whole_shares = {}\ndividends = {}\nborrowing = {}\ndelisted_worth = {}\n",
                       trading.money, fillings[static_cast<std::size_t>(trading.filledAt)],
                       trading.limit, trading.costAnOrder, trading.costShare, trading.slippage,
                       trading.ofVolume, trading.isWhole, trading.hasDividends, trading.borrowing,
                       trading.delistedWorth);
}

StandingsQuestion questionOf(const StandingsTerms& terms, std::vector<screens::Screen> screens,
                             const market::Market& market, Day day)
{
    StandingsQuestion question;
    question.screens = std::move(screens);
    question.end = std::min(terms.to.value_or(day), day);
    const auto all = market.sessions();
    const auto end = std::ranges::upper_bound(all, question.end) - all.begin();
    const auto back = std::min<std::ptrdiff_t>(end, terms.newest.value_or(250) + 1);
    const bool isBack = terms.newest || !terms.from;
    const auto first =
        isBack ? all.begin() + (end - back) : std::ranges::lower_bound(all, *terms.from);
    if (first != all.end() && *first <= question.end)
        question.starts =
            startDays(market, *first, question.end, static_cast<std::size_t>(terms.every));
    if (terms.isOneStart && !question.starts.empty())
        question.starts.erase(question.starts.begin() + 1, question.starts.end());
    question.held = terms.held;
    question.best = terms.best;
    question.weights = terms.weights;
    question.dividends = terms.dividends;
    question.picks = terms.picks;
    question.seed = terms.seed;
    return question;
}

} // namespace sieve::studies
