#include "core/studies/study_files.h"

#include "core/base/toml_table.h"

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

FollowingQuestion followingUnder(const toml::table& table, const ScreenNamed& screenNamed)
{
    refuseOthers(table, "a study of what followed",
                 {"screen", "criteria", "universe", "horizons", "from", "to", "bought", "dividends",
                  "every_match", "strengths", "resamples", "picks", "seed"});
    FollowingQuestion question;
    question.screen = screenUnder(table, screenNamed);
    question.horizons = horizonsUnder(table);
    if (table.contains("from"))
        question.from = dayUnder(table, "from");
    question.to = table.contains("to") ? dayUnder(table, "to") : lastDay();
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
    std::vector<std::string> criteria;
    for (const screens::Criterion& criterion : question.screen.criteria)
        if (criterion.isOn)
            criteria.push_back(criterion.text);
    std::string text = fmt::format("criteria = {}\n", quotedToml(criteria));
    if (!question.screen.universe.empty())
        text += fmt::format("universe = {}\n", quotedToml(question.screen.universe));
    text += fmt::format("horizons = [{}]\n", fmt::join(question.horizons, ", "));
    if (question.from != Day::fromSerial(0))
        text += fmt::format("from = \"{}\"\n", question.from.iso());
    if (question.to != lastDay())
        text += fmt::format("to = \"{}\"\n", question.to.iso());
    text += fmt::format("bought = \"{}\"\n",
                        question.boughtAt == BoughtAt::Close ? "close" : "next open");
    text += fmt::format("dividends = {}\nevery_match = {}\n",
                        question.dividends == Dividends::Reinvested, question.isEveryMatch);
    if (!question.strengths.empty())
        text += fmt::format("strengths = {}\n", quotedToml(question.strengths));
    return text + fmt::format("resamples = {}\npicks = {}\nseed = {}\n", question.resamples,
                              question.picks, question.seed);
}

} // namespace sieve::studies
