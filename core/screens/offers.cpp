#include "core/screens/offers.h"

#include "core/base/lower_case.h"
#include "core/base/spelling.h"
#include "core/engine/across.h"
#include "core/engine/currencies.h"
#include "core/language/functions.h"
#include "core/screens/run.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <fmt/format.h>
#include <map>

namespace sieve::screens {

namespace {

struct Phrase {
    std::string_view title;
    std::string_view text;
};

/// Ready conditions, in the words in which people say them. A test evaluates every one.
constexpr std::array phrases{
    Phrase{"Turned up today", "close > prior(close) and prior(close) < prior(close, 2)"},
    Phrase{"Turned down today", "close < prior(close) and prior(close) > prior(close, 2)"},
    Phrase{"Near its 50-day average", "-2% <= distance(close, sma(close, 50)) <= 2%"},
    Phrase{"Near its 200-day average", "-3% <= distance(close, sma(close, 200)) <= 3%"},
    Phrase{"Above its 200-day average", "close > sma(close, 200)"},
    Phrase{"Averages in order, rising",
           "sma(close, 50) > sma(close, 150) and sma(close, 150) > sma(close, 200)"},
    Phrase{"The 200-day average is rising", "sma(close, 200) > prior(sma(close, 200), 21)"},
    Phrase{"Crossed above its 50-day average this week",
           "since(crosses_above(close, sma(close, 50))) <= 4"},
    Phrase{"Crossed below its 50-day average this week",
           "since(crosses_below(close, sma(close, 50))) <= 4"},
    Phrase{"New 52-week high this week", "highest(high, 5) >= highest(high, 252)"},
    Phrase{"New 52-week low this week", "lowest(low, 5) <= lowest(low, 252)"},
    Phrase{"Within 10 % of its 52-week high", "close >= 0.9 * highest(high, 252)"},
    Phrase{"In the top tenth of the market by half a year", "percentile(change(close, 126)) >= 90"},
    Phrase{"In the top tenth of its sector by half a year",
           "percentile(change(close, 126), within = sector) >= 90"},
    Phrase{"Stronger than the benchmark over a quarter",
           "change(close, 63) > change(benchmark(close), 63)"},
    Phrase{"In a leading industry", "group_rank(change(close, 63), of = industry) <= 10"},
    Phrase{"Rose at least 15 of the last 20 days", "count(close > prior(close), 20) >= 15"},
    Phrase{"Three up days in a row", "all(close > prior(close), 3)"},
    Phrase{"Three down days in a row", "all(close < prior(close), 3)"},
    Phrase{"Gap up today", "open > prior(high)"},
    Phrase{"Gap down today", "open < prior(low)"},
    Phrase{"Volume twice the usual", "volume >= 2 * sma(volume, 50)"},
    Phrase{"Dried-up volume this week", "sma(volume, 5) <= 0.7 * sma(volume, 50)"},
    Phrase{"Quiet: narrow range of the last ten days",
           "highest(high, 10) / lowest(low, 10) <= 1.06"},
    Phrase{"Overbought", "rsi(close, 14) >= 70"},
    Phrase{"Oversold", "rsi(close, 14) <= 30"},
    Phrase{"Easily traded", "average_traded_value >= 200k"},
    Phrase{"Shares only, no funds and trusts", "kind == \"share\""},
    Phrase{"Listed within two years", "listed_weeks <= 104"},
    Phrase{"Above its first week's high", "close > first_week_high"},
    Phrase{"Earnings higher than a year ago", "growth(ttm(eps), ttm(eps, 4)) > 0%"},
    Phrase{"Earnings and sales both grow",
           "growth(ttm(eps), ttm(eps, 4)) >= 10% and growth(ttm(revenue), ttm(revenue, 4)) >= 10%"},
    Phrase{"Cheaper than its industry by P/E",
           "price_to_earnings <= median(price_to_earnings, within = industry)"},
    Phrase{"Estimates were raised this quarter", "revision(eps, 90) > 0%"},
    Phrase{"Beat expectations last time", "surprise(eps) > 0%"},
    Phrase{"Reports within two weeks", "days_to_report <= 14"},
    Phrase{"No report within a week", "not days_to_report <= 7"},
    Phrase{"Pays a dividend", "dividend_yield > 0%"},
    Phrase{"In the news this week", "news_within(7, \"\")"},
};

std::vector<std::string> wordsOf(std::string_view text)
{
    std::vector<std::string> words;
    std::string word;
    for (const char c : lowerCase(text) + ' ')
        if (std::isalnum(static_cast<unsigned char>(c)) != 0 ||
            static_cast<unsigned char>(c) >= 0x80U)
            word += c;
        else if (!word.empty())
            words.push_back(std::exchange(word, {}));
    return words;
}

/// How well a word answers to one of some others; 0: not at all.
double fit(const std::string& sought, std::span<const std::string> words)
{
    double best = 0.0;
    for (const std::string& word : words) {
        if (word == sought)
            return 4.0;
        if (word.starts_with(sought))
            best = std::max(best, 3.0);
        else if (sought.size() >= 3 && word.find(sought) != std::string::npos)
            best = std::max(best, 1.5);
        const std::size_t forgiven = sought.size() >= 7 ? 2 : sought.size() >= 4 ? 1 : 0;
        if (best < 1.0 && forgiven > 0 &&
            slipsBetween(sought, std::string_view(word).substr(0, sought.size() + forgiven),
                         forgiven + 1) <= forgiven)
            best = 1.0;
    }
    return best;
}

/// An offer with the words that it can be found by.
struct Indexed {
    Offer offer;
    std::vector<std::string> title;
    std::vector<std::string> rest;
};

Indexed indexed(Offer offer)
{
    const bool isPhrase = offer.what == Offer::What::Phrase; // its text is not what it is called
    std::vector<std::string> title = wordsOf(offer.title + ' ' + (isPhrase ? "" : offer.text));
    std::vector<std::string> rest =
        wordsOf(offer.meaning + ' ' + offer.family + ' ' + (isPhrase ? offer.text : ""));
    return {std::move(offer), std::move(title), std::move(rest)};
}

/// 0 when a word is not found; else the better, the larger.
double scoreOf(const Indexed& each, std::span<const std::string> sought)
{
    double score = 0.0;
    for (const std::string& word : sought) {
        const double found = std::max(2.0 * fit(word, each.title), 0.7 * fit(word, each.rest));
        if (found == 0.0)
            return 0.0;
        score += found;
    }
    const auto length = static_cast<double>(each.title.size()); // the shorter says it plainer
    return score + (each.offer.what == Offer::What::Phrase ? 0.5 : 0.0) + 1.0 / (1.0 + length);
}

std::vector<Indexed> everything(const NameBook& book)
{
    std::vector<Indexed> all;
    for (const Phrase& phrase : phrases)
        all.push_back(indexed(
            {Offer::What::Phrase, std::string(phrase.title), std::string(phrase.text), {}, {}}));
    const language::Vocabulary& vocabulary = book.names().vocabulary;
    for (const language::Field& field : vocabulary.fields())
        all.push_back(
            indexed({Offer::What::Field, field.title, field.name, field.meaning, field.family}));
    for (const language::Signature& function : language::signatures(vocabulary))
        all.push_back(
            indexed({Offer::What::Function, function.form, function.form, function.help, {}}));
    const auto isQuotable = [](const std::string& name) {
        return name.find_first_of("\"\n") == std::string::npos;
    };
    for (const auto& [name, screen] : book.screens)
        if (isQuotable(name))
            all.push_back(indexed({Offer::What::Screen, name, "passes(\"" + name + "\")", {}, {}}));
    for (const auto& [name, list] : book.lists)
        if (isQuotable(name))
            all.push_back(indexed({Offer::What::List, name, "on_list(\"" + name + "\")", {}, {}}));
    for (const auto& [name, checklist] : book.checklists)
        if (isQuotable(name)) // all but one answered by yes, to begin with
            all.push_back(
                indexed({Offer::What::Checklist,
                         name,
                         fmt::format("checklist(\"{}\") >= {}", name,
                                     std::max<std::size_t>(
                                         checklist.rules.size() + checklist.answers.size(), 2) -
                                         1),
                         {},
                         {}}));
    return all;
}

double roundBound(double figure, double width)
{
    const double step = roundStep(width / 40.0);
    return isMissing(step) ? figure : std::round(figure / step) * step;
}

std::string numberCriterion(const std::string& field, language::Better better,
                            const FieldToday& today, std::vector<double> figures)
{
    std::ranges::sort(figures);
    const bool isLow = better == language::Better::Low;
    const double share = isLow ? 0.3 : 0.7;
    const double bound =
        figures[static_cast<std::size_t>(share * static_cast<double>(figures.size() - 1))];
    const double width =
        today.spread.isLogarithmic ? 2.0 * std::fabs(bound) : today.spread.high - today.spread.low;
    return fmt::format("{} {} {}", field,
                       isLow ? "<=" : ">=", boundText(roundBound(bound, width), today.unit));
}

std::string mostFrequent(const std::string& field, std::span<const double> figures,
                         const market::TextTable& texts)
{
    std::map<double, std::size_t> counts;
    for (const double figure : figures)
        ++counts[figure];
    const auto most =
        std::ranges::max_element(counts, {}, [](const auto& each) { return each.second; });
    return fmt::format("{} == \"{}\"", field, texts.textOf(most->first));
}

} // namespace

std::vector<Offer> offersFor(std::string_view words, const NameBook& book,
                             std::span<const std::string> recent, std::size_t most)
{
    const std::vector<std::string> sought = wordsOf(words);
    std::vector<std::pair<double, Offer>> found;
    engine::Plan plan;
    const std::string typed(words);
    if (!sought.empty() && checkCondition(typed, book.names(), plan))
        found.emplace_back(1e9, Offer{Offer::What::Condition, typed, typed, {}, {}});
    const auto lately = [recent](const Offer& offer) {
        const auto place = std::ranges::find(recent, offer.text);
        return place == recent.end() ? 0.0
                                     : 1.0 / (1.0 + static_cast<double>(place - recent.begin()));
    };
    for (Indexed& each : everything(book)) {
        const double use = lately(each.offer);
        const bool isOffered =
            sought.empty() && (use > 0.0 || each.offer.what == Offer::What::Phrase);
        const double score = sought.empty() ? (isOffered ? 1.0 : 0.0) : scoreOf(each, sought);
        if (score > 0.0)
            found.emplace_back(score + 2.0 * use, std::move(each.offer));
    }
    std::ranges::stable_sort(found, std::ranges::greater(),
                             [](const auto& each) { return each.first; });
    std::vector<Offer> offers;
    for (auto& [score, offer] : found)
        if (offers.size() < most && (offers.empty() || offers.front().text != offer.text))
            offers.push_back(std::move(offer));
    return offers;
}

std::optional<FieldToday> fieldToday(const std::string& field, const Screen& screen,
                                     const language::Names& names, engine::Evaluator& evaluator,
                                     Day day, const Progress& progress)
{
    engine::Plan plan;
    const auto checked = check(field, names, plan);
    if (!checked)
        return std::nullopt;
    Screen all = screen;
    all.keep = 0;
    const ScreenRun run = screens::run(all, names, evaluator, day, progress);
    const engine::ColumnPtr column =
        evaluator.column(plan, engine::inMarketCurrency(plan, checked->node), day);
    FieldToday today;
    today.kind = checked->kind;
    today.unit = checked->unit;
    today.stocks = run.matches.size();
    std::vector<double> figures;
    for (const std::size_t stock : run.matches)
        if (!isMissing((*column)[stock]))
            figures.push_back((*column)[stock]);
    today.known = figures.size();
    if (figures.empty())
        return today;
    const language::Field* known = names.vocabulary.field(field);
    switch (today.kind) {
    case Kind::Number: {
        today.spread = distributionOf(figures);
        today.median = engine::valueOfTheDay(engine::Op::Median, figures);
        today.criterion = numberCriterion(field, known ? known->better : language::Better::None,
                                          today, std::move(figures));
        break;
    }
    case Kind::YesNo:
        today.criterion = field;
        break;
    case Kind::Text:
        today.criterion = mostFrequent(field, figures, evaluator.market().texts());
        break;
    case Kind::Day:
        today.criterion = fmt::format("{} >= {}", field, day.plusDays(-30).iso());
        break;
    }
    return today;
}

} // namespace sieve::screens
